import { z } from 'zod';
import { countGraphemes } from './graphemes';
import { saying, textOf } from './problems';
import { isZone, lastZoneYear } from './zones';

/** A calendar date, YYYY-MM-DD, within the years of the zone data. */
export const isoDate = saying(
  z
    .string()
    .regex(/^\d{4}-\d{2}-\d{2}$/)
    .refine((text) => {
      const at = new Date(`${text}T00:00:00Z`);
      return (
        !Number.isNaN(at.getTime()) &&
        at.toISOString().startsWith(text) &&
        at.getUTCFullYear() <= lastZoneYear &&
        at.getUTCFullYear() >= 1970
      );
    }),
  (value) => ({ code: 'date-malformed', text: textOf(value) }),
);
/** A time of day, HH:mm (24 h). */
export const timeOfDay = saying(z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/), (value) => ({
  code: 'time-malformed',
  text: textOf(value),
}));
/** A zone of the shipped IANA data. */
export const zoneName = saying(z.string().refine(isZone, 'Pick a zone such as Europe/Dublin.'), (value) => ({
  code: 'zone-unknown',
  zone: textOf(value),
}));
/** An absolute http or https address. */
export const webAddress = saying(
  z
    .string()
    .max(2000, 'Keep the address within 2000 characters.')
    .pipe(z.url({ protocol: /^https?$/, error: 'A web address starts with http:// or https://.' })),
  (value) => ({ code: 'link-malformed', text: textOf(value) }),
);

/** UTF-16 units that a grapheme takes at most, on the average, in any text that is kept. */
const mostUnits = 64;

/** Holds a text to a number of graphemes (UAX #29), as people count. */
function within(most: number, words: string) {
  return (check: z.core.ParsePayload<string>) => {
    const { value } = check;
    if (value.length <= most || (value.length <= most * mostUnits && countGraphemes(value) <= most)) return;
    check.issues.push({
      code: 'too_big',
      origin: 'string',
      maximum: most,
      inclusive: true,
      input: value,
      message: words,
      continue: false,
    });
  };
}

const tooLong = (most: number) => `Keep it within ${most} characters.`;
const notOfALine = /[\u0000-\u001f\u007f-\u009f\u2028\u2029]+/g;

/**
 * A text of one line and at most `most` graphemes: line breaks and control characters become blanks, those around it
 * go.
 */
export function line(most: number, words = tooLong(most)) {
  return z
    .string()
    .overwrite((text) => text.replace(notOfALine, ' ').trim())
    .check(within(most, words));
}

/** A text of any number of lines and at most `most` graphemes. */
export function prose(most: number, words = tooLong(most)) {
  return z.string().check(within(most, words));
}

/** A text of one line that is not empty: a name, a question, a code. `words`: of what is missing. */
export function named(most: number, words?: string) {
  return saying(line(most).min(1, words), () => ({ code: 'name-empty' }));
}

/** A whole number from `least` to `most`; `what` it is, as “no …” goes on: `number of seats`. */
export function whole(least: number, most: number, what: string) {
  return saying(z.number().int().min(least).max(most), (value) => ({
    code: 'number-malformed',
    text: textOf(value),
    what,
  }));
}

/** A price in minor units of its currency, from `least` up. */
export function minorUnits(least = 0, most = 100_000_000) {
  return saying(z.number().int().min(least).max(most), (value) => ({
    code: 'price-malformed',
    text: textOf(value),
    currency: 'this currency',
  }));
}
