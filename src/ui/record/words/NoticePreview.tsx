import { useEffect, useState } from 'react';
import type { Result } from '@/core/base/result';
import type { Shown } from '@/core/listing/shown';
import { noAnswer } from '@/ui/no-answer';
import classes from '../RecordForm.module.css';

/** Gives a notice as its readers will read it, as HTML, or why that cannot be. */
export type PreviewNotice = (input: { channel: string; shown: Shown }) => Promise<Result<string, string>>;

/** So long after the last change it is drawn anew, in milliseconds. */
const restMs = 400;

/** What goes out, as it will be read: drawn while it is open, a moment after each change. */
export function NoticePreview({ channel, shown, preview }: { channel: string; shown: Shown; preview: PreviewNotice }) {
  const [open, setOpen] = useState(false);
  const [made, setMade] = useState<Result<string, string> | null>(null);
  const said = JSON.stringify(shown);
  useEffect(() => {
    if (!open) return undefined;
    let over = false;
    const later = setTimeout(() => {
      const now = JSON.parse(said) as Shown;
      preview({ channel, shown: now })
        .catch(() => ({ ok: false as const, error: noAnswer }))
        .then((next) => (over ? undefined : setMade(next)))
        .catch(() => undefined);
    }, restMs);
    return () => {
      over = true;
      clearTimeout(later);
    };
  }, [open, said, channel, preview]);
  return (
    <details className={classes.preview} onToggle={(e) => setOpen(e.currentTarget.open)}>
      <summary>As it will be read</summary>
      {made === null ? <p className={classes.muted}>Drawing it …</p> : null}
      {made?.ok === false ? <p role="alert">{made.error}</p> : null}
      {made?.ok === true ? <iframe title="The letter as it will be read" sandbox="" srcDoc={made.value} /> : null}
    </details>
  );
}
