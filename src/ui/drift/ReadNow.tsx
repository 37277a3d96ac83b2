'use client';

import { useMay } from '@/ui/may/May';
import { useState, useTransition } from 'react';
import { fail } from '@/core/base/result';
import { noAnswer } from '../no-answer';
import { Said, type Answer } from './DriftTable';

/** Asks for everything to be read back now, and says what came of asking. */
export function ReadNow({ read }: { read: () => Promise<Answer> }) {
  const writes = useMay('write');
  const [busy, start] = useTransition();
  const [answer, setAnswer] = useState<Answer | null>(null);
  if (!writes) return null;
  return (
    <>
      <button
        type="button"
        className="quietButton"
        disabled={busy}
        onClick={() => start(async () => setAnswer(await read().catch(() => fail(noAnswer))))}
      >
        Read everything back now
      </button>
      <Said answer={answer} />
    </>
  );
}
