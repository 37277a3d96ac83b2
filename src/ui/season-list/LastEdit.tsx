import { useState } from 'react';
import { noAnswer } from '@/ui/no-answer';
import { useMay } from '@/ui/may/May';
import type { ManyUndoable, ManyUndone } from '@/views/many';

export interface LastEditProps {
  edit: ManyUndoable;
  undo: (id: string) => Promise<ManyUndone>;
}

/** The edit of many that was made last, and its way back. */
export function LastEdit({ edit, undo }: LastEditProps) {
  const [said, setSaid] = useState<{ of: string; words: string } | null>(null);
  const [busy, setBusy] = useState(false);
  const writes = useMay('write');
  const words = said?.of === edit.id ? said.words : '';
  if (!writes) return null;
  const take = async () => {
    setBusy(true);
    const answer = await undo(edit.id).catch(() => ({ kind: 'stopped' as const, messages: [noAnswer] }));
    setBusy(false);
    setSaid({ of: edit.id, words: answer.kind === 'done' ? 'undone' : answer.messages.join(' ') });
  };
  return (
    <>
      {edit.words} on {edit.events} {edit.events === 1 ? 'event' : 'events'}{' '}
      {words === '' ? (
        <button type="button" className="plainButton" disabled={busy} onClick={() => void take()}>
          Undo
        </button>
      ) : (
        <span role="status">{words}</span>
      )}{' '}
      ·{' '}
    </>
  );
}
