import { useState } from 'react';
import { noAnswer } from '@/ui/no-answer';
import { useMay } from '@/ui/may/May';
import type { ManyUndoable, ManyUndone } from '@/views/many';

export interface LastEditProps {
  edit: ManyUndoable;
  undo: (id: string) => Promise<ManyUndone>;
}

/** The edit of many that was made last, and its way back. `onSaid`: what came of it. */
export function LastEdit({ edit, undo, onSaid }: LastEditProps & { onSaid: (words: string) => void }) {
  const [busy, setBusy] = useState(false);
  const writes = useMay('write');
  if (!writes) return null;
  const take = async () => {
    setBusy(true);
    const answer = await undo(edit.id).catch(() => ({ kind: 'stopped' as const, messages: [noAnswer] }));
    setBusy(false);
    onSaid(answer.kind === 'done' ? `Undone: ${edit.words}.` : answer.messages.join(' '));
  };
  return (
    <>
      <span role="status">
        Saved: {edit.words} on {edit.events} {edit.events === 1 ? 'event' : 'events'}
      </span>{' '}
      <button type="button" className="plainButton" disabled={busy} onClick={() => void take()}>
        Undo
      </button>{' '}
      ·{' '}
    </>
  );
}
