'use client';

import type { RecordId } from '@/core/base/ids';
import { useRouter } from 'next/navigation';
import { RecordScreen } from '@/ui/record';
import type { RecordContext } from '@/views/record';
import {
  changeViewAction,
  copyEventAction,
  cutTieAction,
  deleteRecordAction,
  keepFollowWordsAction,
  keepQuestionsAction,
  makeTourAction,
  makeVenueAction,
  noteSalesAction,
  previewNoticeAction,
  putAwayAction,
  restoreRevisionAction,
  revisionChangesAction,
  saveAndSendAction,
  savePersonAction,
  saveRecordAction,
  tickSheetAction,
  tryPurchaseAction,
} from '../actions';
import { sendAction } from '../../dispatch/actions';

interface SavedRecordProps {
  context: RecordContext & { id: RecordId };
  log: { number: number; actor: string; at: number; reason: string }[];
  zone: string;
}

/** A saved record: its screen, with all that can be done to it. */
export function SavedRecord({ context, log, zone }: SavedRecordProps) {
  const router = useRouter();
  const { id, revision } = context;
  const thenFresh = async (work: Promise<string | null>) => {
    const words = await work;
    router.refresh();
    return words;
  };
  return (
    <RecordScreen
      context={context}
      log={log}
      zone={zone}
      save={saveRecordAction}
      makeVenue={makeVenueAction}
      savePerson={savePersonAction}
      keepQuestions={(set) => thenFresh(keepQuestionsAction(set))}
      preview={previewNoticeAction}
      keepFollow={(words) => thenFresh(keepFollowWordsAction(words))}
      saved={{
        changes: (number) => revisionChangesAction(id, number),
        restore: (number) => thenFresh(restoreRevisionAction(id, revision, number)),
        tick: (input) => thenFresh(tickSheetAction({ ...input, recordId: id })),
        trial: async (channel) => {
          const answer = await tryPurchaseAction({ channel, recordId: id });
          router.refresh();
          return answer;
        },
        noteSold: (input) => thenFresh(noteSalesAction({ ...input, recordId: id })),
        sayYes: async (listings) => {
          const answer = await sendAction({ listings, ways: {}, seen: [], effects: {} });
          return answer.ok ? null : `${answer.error} See Dispatch.`;
        },
        foresee: (content) => changeViewAction(id, content),
        saveAndSend: (wish) => saveAndSendAction({ ...wish, id }),
        copy: () => copyEventAction(id),
        remove: (code) => deleteRecordAction(id, code),
        putAway: (away) => thenFresh(putAwayAction(id, away)),
        cutTie: (channel) => thenFresh(cutTieAction(id, channel)),
        makeTour: (name) => makeTourAction(id, name),
      }}
    />
  );
}
