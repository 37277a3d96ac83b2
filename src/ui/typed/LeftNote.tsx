import { cutToFit } from '@/core/base/graphemes';
import classes from './Typed.module.css';
import type { Typed } from './use-typed';

const clock = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' });
const mostWords = 60;

/** The first words of what was typed otherwise than it stood. */
function firstWords(typed: unknown, over: unknown): string {
  if (typeof typed === 'string') return typed === over ? '' : typed.trim();
  if (typed === null || typeof typed !== 'object') return '';
  for (const [key, value] of Object.entries(typed)) {
    const found = firstWords(value, (over as Record<string, unknown> | null | undefined)?.[key]);
    if (found !== '') return found;
  }
  return '';
}

/** Offers what was typed into a form before and not saved: to go on with it, or to throw it away. */
export function LeftNote<T>({ form, name }: { form: Typed<T>; name: string }) {
  return form.left.map((left) => {
    const words = firstWords(left.typed, left.over);
    return (
      <p key={left.at} className={classes.left} role="status">
        Left here without saving, {clock.format(left.at)}
        {words === '' ? '.' : `: “${cutToFit(words, mostWords)}”`}
        {form.moved(left) ? ` ${name} was saved otherwise since.` : ''}{' '}
        <button type="button" className="plainButton" onClick={() => form.goOn(left)}>
          Go on with it
        </button>{' '}
        <button type="button" className="plainButton" onClick={() => form.throwAway(left)}>
          Throw it away
        </button>
      </p>
    );
  });
}
