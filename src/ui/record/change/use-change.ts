'use client';

import { useRouter } from 'next/navigation';
import { useRef, useState } from 'react';
import { sameData } from '@/core/base/same-data';
import { findingWords } from '@/core/findings/finding-words';
import type { RecordContent } from '@/core/record/record';
import { noAnswer } from '@/ui/no-answer';
import type { ChangeView } from '@/views/change';
import type { RecordScreenProps } from '../record-screen-props';
import type { DraftState } from '../use-record-draft';
import type { Saving } from '../use-save-record';
import type { Picks } from './change-picks';

const nothing: ReadonlySet<string> = new Set();
const noPicks: Picks = { out: nothing, asked: nothing, ways: {}, seen: false, mended: nothing };

/** Looking at what a change does before it is saved, and saving and sending it from there. */
export function useChange(
  { saved }: Pick<RecordScreenProps, 'saved'>,
  state: DraftState,
  saving: Saving,
  unread: () => string[],
) {
  const router = useRouter();
  const [view, setView] = useState<ChangeView | null>(null);
  const [picks, setPicks] = useState<Picks>(noPicks);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const asked = useRef<unknown>(null);
  const look = async (onTheNight: boolean, why = '') => {
    const read = state.readNow();
    const typed = unread();
    if (!saved) return;
    if (!read.ok || typed.length > 0) return saving.tell([...typed, ...(read.ok ? [] : read.error.map(findingWords))]);
    saving.tell([]);
    setBusy(true);
    const answer = await saved.foresee(read.value).catch(() => ({ kind: 'stopped' as const, messages: [noAnswer] }));
    setBusy(false);
    if (answer.kind === 'stopped') return saving.tell(answer.messages);
    // Who went back and changed nothing finds what was picked as it was.
    if (!sameData(asked.current, read.value))
      setPicks(onTheNight ? (await import('./change-picks')).picksOfTonight(answer.view) : noPicks);
    asked.current = read.value;
    setProblem(null);
    setView(withWhy(answer.view, why));
  };
  const back = () => {
    setView(null);
    setProblem(null);
  };
  const send = async () => {
    if (!saved || !view || busy) return;
    // It came with the list itself.
    const { sumOfPicks, unseenOf } = await import('./change-picks');
    const { listings, ways, open } = sumOfPicks(view, picks);
    if (open.length > 0) return setProblem('Pick a way for what is locked, and fill in what it asks for.');
    const seen = picks.seen ? unseenOf(view, picks).map(({ key }) => key) : [];
    setBusy(true);
    const wish = {
      ...{ base: state.base.revision, content: asked.current, reason: saving.reason, listings, ways, seen },
      mended: [...picks.mended],
    };
    const answer = await saved.saveAndSend(wish).catch(() => ({ kind: 'stopped' as const, messages: [noAnswer] }));
    if (answer.kind === 'sent') {
      state.kept.forget();
      return router.push(answer.dispatchId === null ? '/dispatch' : `/dispatch/${answer.dispatchId}`);
    }
    setBusy(false);
    if (answer.kind === 'stopped') {
      setProblem(answer.messages.join(' '));
      // What it does may be another thing by now: tickets were sold, a listing was edited there.
      const now = await saved.foresee(asked.current as RecordContent).catch(() => null);
      if (now?.kind === 'view') setView(now.view);
      return;
    }
    // Somebody saved meanwhile: both versions are brought together in the form.
    back();
    saving.submit('stay');
  };
  const put = (part: Partial<Picks>) => {
    setProblem(null);
    setPicks((at) => ({ ...at, ...part }));
  };
  // Once it was saved, by a key or elsewhere, there is nothing to be looked at beforehand any more.
  const shown = view !== null && view.revision > state.base.revision ? view : null;
  return {
    view: shown,
    picks,
    put,
    busy,
    problem,
    look: () => void look(false),
    /** The same after a turn. `why`: what is said of it to the public, and to those who bought. */
    lookTurned: (why: string) => void look(false, why),
    /** The same on the night itself. */
    lookTonight: () => void look(true),
    back,
    send: () => void send(),
  };
}

/** The reason drafted, with what a person said of it. */
function withWhy(view: ChangeView, why: string): ChangeView {
  const said = why.trim().replace(/[.!]+$/, '');
  if (said === '') return view;
  return { ...view, reason: `${view.reason} ${said.charAt(0).toUpperCase()}${said.slice(1)}.`.trim() };
}

export type Changing = ReturnType<typeof useChange>;
