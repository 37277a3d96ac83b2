import { z } from 'zod';
import { countGraphemes } from './graphemes';
import { isZone, lastZoneYear } from './zones';

/** A calendar date, YYYY-MM-DD, within the years of the zone data. */
export const isoDate = z
  .string()
  .max(10)
  .regex(/^\d{4}-\d{2}-\d{2}$/)
  .refine((text) => {
    const at = new Date(`${text}T00:00:00Z`);
    return (
      !Number.isNaN(at.getTime()) &&
      at.toISOString().startsWith(text) &&
      at.getUTCFullYear() <= lastZoneYear &&
      at.getUTCFullYear() >= 1970
    );
  });
/** A time of day, HH:mm (24 h). */
export const timeOfDay = z
  .string()
  .max(5)
  .regex(/^([01]\d|2[0-3]):[0-5]\d$/);
/** A zone of the shipped IANA data. */
export const zoneName = z.string().max(60).refine(isZone, 'Pick a zone such as Europe/Dublin.');
/** An absolute http or https address. */
export const webAddress = z
  .string()
  .max(2000, 'Keep the address within 2000 characters.')
  .pipe(z.url({ protocol: /^https?$/, error: 'A web address starts with http:// or https://.' }));

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
