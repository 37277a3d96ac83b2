import { toLocal } from '@/core/base/zones';
import type { FieldComparison } from '@/core/listing/compare';
import type { ShownValue } from '@/core/listing/shown';
import { valueWords } from '@/core/listing/rich-words';
import classes from './ProofColumn.module.css';

/** A value; where it differs from what was sent, the old one struck out; where the channel shows another, that too. */
export function Changed({
  value,
  comparison,
}: {
  value: ShownValue | undefined;
  comparison: FieldComparison | undefined;
}) {
  const words = shorten(valueWords(value));
  if (comparison?.outcome === 'to-send') {
    return (
      <>
        <ins>{words}</ins> {comparison.sent === undefined ? null : <del>{oldWords(comparison.sent, value)}</del>}
      </>
    );
  }
  if (comparison?.outcome === 'drifted' || comparison?.outcome === 'at-odds') {
    return (
      <>
        {words} <span className={classes.there}>there: {shorten(valueWords(comparison.observed))}</span>
      </>
    );
  }
  return <>{words}</>;
}

/** The old value; of a moment on the same day, the time is enough. */
function oldWords(old: ShownValue, now: ShownValue | undefined): string {
  if (old.kind === 'instant' && now?.kind === 'instant' && old.zone === now.zone) {
    const [before, after] = [toLocal(old.at, old.zone), toLocal(now.at, now.zone)];
    if (before.date === after.date) return before.time;
  }
  return shorten(valueWords(old));
}

function shorten(words: string): string {
  return words.length > 240 ? `${words.slice(0, 239)}…` : words;
}
