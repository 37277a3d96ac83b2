import { May, useMay } from '@/ui/may/May';
import dynamic from 'next/dynamic';
import { useState } from 'react';
import { noAnswer } from '@/ui/no-answer';
import { notFetched } from '@/ui/not-fetched';
import { momentWords } from '@/core/dates/date-words';
import { cutToFit } from '@/core/base/graphemes';
import { stageOf } from '@/core/facts/facts';
import { knownDay, nextOf } from '@/core/facts/performance-facts';
import type { SurveyedListing } from '@/core/errands/surveyed';
import { toDraft } from '@/core/record/draft';
import { lineUpWords } from '@/core/record/roles';
import { DateBlock } from '@/ui/date-block';
import classes from './RecordForm.module.css';
import type { RecordScreenProps } from './record-screen-props';
import type { FormContext } from './use-form-context';
import type { DraftState } from './use-record-draft';
import type { Changing } from './change/use-change';
import type { Saving } from './use-save-record';

const MergePanel = dynamic(() => import('./sections/MergePanel').then(({ MergePanel }) => MergePanel, notFetched));
const TourNote = dynamic(() => import('./dates/TourNote').then(({ TourNote }) => TourNote, notFetched));
const LeftDrafts = dynamic(() => import('./sections/LeftDrafts').then(({ LeftDrafts }) => LeftDrafts, notFetched));
const TookNote = dynamic(() => import('./sections/TookNote').then(({ TookNote }) => TookNote, notFetched));
const Tonight = dynamic(() => import('./dates/Tonight').then(({ Tonight }) => Tonight, notFetched), { ssr: false });
const Turns = dynamic(() => import('./dates/Turns').then(({ Turns }) => Turns, notFetched));
const CarriedPanel = dynamic(() =>
  import('./sections/CarriedPanel').then(({ CarriedPanel }) => CarriedPanel, notFetched),
);

/**
 * Graphemes that the head of the screen shows of a text: one far too long would take the browser seconds to lay out.
 */
const mostHeading = 240;

/** The head of a record: its next date, its title, and what it is in one line. */
export function RecordHead({ now, state: { draft, survey } }: { now: number; state: DraftState }) {
  const first = nextOf(survey.facts.performances, now);
  const parts = [
    draft.eventType,
    survey.facts.visibility === 'private' ? 'private' : stageOf(survey.facts, now),
    first?.place ? (first.place.room ?? first.place.venue) : 'no venue yet',
    lineUpWords(draft.lineUp),
  ];
  return (
    <header className={classes.head}>
      <DateBlock date={knownDay(first)} size="large" thisYear={new Date(now).getUTCFullYear()} />
      <div>
        <h1>{draft.title.trim() === '' ? 'Untitled event' : cutToFit(draft.title, mostHeading)}</h1>
        <p>
          {parts
            .filter((part) => part !== '' && part !== draft.title)
            .map((part) => cutToFit(part, mostHeading))
            .join(' · ')}
        </p>
      </div>
    </header>
  );
}

/** It was put away: what can be done of it is to bring it back. */
function PutAwayNote({
  at,
  zone,
  putAway,
}: {
  at: number;
  zone: string;
  putAway: (away: boolean) => Promise<string | null>;
}) {
  const [problem, setProblem] = useState<string | null>(null);
  const bring = () => void putAway(false).then(setProblem, () => setProblem(noAnswer));
  return (
    <p className={classes.notice} role="status">
      Put away on {momentWords(at, zone)}: nothing of it is to send, and it is not changed.{' '}
      <May right="write">
        <button type="button" className="plainButton" onClick={bring}>
          Bring it back
        </button>
      </May>
      {problem === null ? null : ` ${problem}`}
    </p>
  );
}

/** True where something of it is seen outside. */
function standsOutside({ standing, state }: SurveyedListing): boolean {
  return state.sent !== null && standing !== 'withdrawn' && standing !== null;
}

interface MeanwhileProps extends Pick<RecordScreenProps, 'context' | 'log' | 'zone' | 'saved'> {
  today: string;
  state: DraftState;
  saving: Saving;
  form: FormContext;
  /** Shows what the change does that is typed. */
  changing: Pick<Changing, 'lookTurned' | 'lookTonight'>;
}

/** What came in between: a newer revision, two versions to be brought together, what a copy or a tour brought. */
export function Meanwhile({ context, saved, today, log, zone, state, saving, form, changing }: MeanwhileProps) {
  const { draft, change, content, survey } = state;
  const { conflict } = saving;
  const corrects = useMay('correct');
  return (
    <>
      {context.revision > state.base.revision && conflict === null ? (
        <p className={classes.notice} role="status">
          Revision {context.revision} was saved meanwhile{log[0] ? ` by ${log[0].actor}` : ''}.{' '}
          {state.changed ? (
            'When you save, you will see both versions side by side.'
          ) : (
            <button
              type="button"
              className="plainButton"
              onClick={() => state.settle(context.revision, context.content)}
            >
              Show it
            </button>
          )}
        </p>
      ) : null}
      {conflict && content ? (
        <MergePanel
          base={conflict.base}
          mine={content}
          theirs={conflict.theirs}
          by={conflict.actor}
          revision={conflict.revision}
          onMerged={(merged) => saving.merge(conflict, merged)}
        />
      ) : null}
      {state.kept.left.length > 0 ? <LeftDrafts {...state.kept} revision={state.base.revision} zone={zone} /> : null}
      <CarriedPanel
        from={draft.copiedFrom}
        carried={corrects ? draft.carried : []}
        replaced={form.replaced}
        levels={draft.tickets.levels}
        onKeep={(facts) => change({ carried: draft.carried.filter((candidate) => !facts.includes(candidate)) })}
      />
      {context.endings !== null && context.endings.awayAt !== null && saved ? (
        <PutAwayNote at={context.endings.awayAt} zone={zone} putAway={saved.putAway} />
      ) : null}
      {corrects && survey.listings.some(standsOutside) && draft.performances.some(({ date }) => date === today) ? (
        <Tonight draft={draft} today={today} onChange={change} onLook={changing.lookTonight} />
      ) : null}
      {corrects && survey.listings.some(standsOutside) ? (
        <Turns
          recordId={context.id ?? ''}
          draft={draft}
          venues={state.venues}
          today={today}
          onChange={change}
          onLook={changing.lookTurned}
        />
      ) : null}
      {context.id === null && context.took.length > 0 ? <TookNote took={context.took} onLeave={change} /> : null}
      {corrects && context.tourShared && draft.tourId ? (
        <TourNote
          tourId={draft.tourId}
          name={context.tours.find((tour) => tour.id === draft.tourId)?.name ?? ''}
          shared={context.tourShared}
          content={content}
          onFollow={(next) => change(toDraft(next))}
        />
      ) : null}
    </>
  );
}
