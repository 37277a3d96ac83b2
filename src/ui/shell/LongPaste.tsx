'use client';

import { useEffect, useState } from 'react';
import classes from './LongPaste.module.css';

/**
 * Characters that a field takes in one paste: far more than any holds, far fewer than hold up a browser that lays them
 * out.
 */
const most = { INPUT: 20_000, TEXTAREA: 100_000 } as const;

const isBounded = (tag: string): tag is keyof typeof most => tag in most;

/**
 * Keeps a paste that is far too long out of every plain field, and says so until the next thing is typed or pressed.
 */
export function LongPaste() {
  const [said, setSaid] = useState<string | null>(null);
  useEffect(() => {
    const onPaste = (event: ClipboardEvent) => {
      const tag = event.target instanceof Element ? event.target.tagName : '';
      const length = event.clipboardData?.getData('text/plain').length ?? 0;
      if (!isBounded(tag) || length <= most[tag]) return;
      event.preventDefault();
      event.stopPropagation();
      setSaid(
        `Nothing was pasted: it has ${length.toLocaleString('en')} characters, and this field takes at most ${most[tag].toLocaleString('en')} at once. Paste a part of it.`,
      );
    };
    document.addEventListener('paste', onPaste, true);
    return () => document.removeEventListener('paste', onPaste, true);
  }, []);
  useEffect(() => {
    if (said === null) return;
    const done = () => setSaid(null);
    // Last of all who hear of it: drawn anew before the field itself has heard, it would put back what stood in it.
    window.addEventListener('input', done);
    window.addEventListener('pointerdown', done);
    return () => {
      window.removeEventListener('input', done);
      window.removeEventListener('pointerdown', done);
    };
  }, [said]);
  return said === null ? null : (
    <p role="alert" className={classes.said}>
      {said}
    </p>
  );
}
