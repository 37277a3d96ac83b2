import { parseTimeOfDay } from './date-words';

/** A clock reading in a text: where it stands, and what it may mean on the 24-hour clock (`7`: 07:00 or 19:00). */
export interface ClockPiece {
  from: number;
  to: number;
  readings: string[];
  /** It ends what the piece just before it begins: `22:00` in `19:30–22:00`. */
  closes: boolean;
  /** It goes on from the piece before it: `14:00` in `11:00, 14:00 and 16:30`. */
  goesOn: boolean;
  /** Written with a point, and as it stands as well a day and a month: `14.03`. */
  couldBeDate: boolean;
}

const months = 'jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec';
const written = new RegExp(
  `(?<![\\d.:€£$])(?:\\b|(?<=\\dT))(\\d{1,2})(?:[:.h](\\d{2}))?(\\s*[ap]m\\b|\\s*[ap]\\.m\\.?(?!\\w)|\\s?h(?:rs|ours)?\\b|\\s+uhr\\b)?(?![\\w%°]|[:.h]\\d)(?!\\s*(?:st|nd|rd|th)?\\s*(?:of\\s+)?(?:${months})|-\\w+-\\d)`,
  'gi',
);
const dotted = /^(?:[1-9]|[12]\d|3[01]|0[1-9])\.(?:0[1-9]|1[0-2])$/;
/** After a day, or a word that asks for a time, two figures with a point are a time. */
const asksForTime = new RegExp(
  `(?:\\b(?:${months})[a-z]*\\.?|\\d{4}|\\b(?:at|doors?|starts?|begins?|opens?|ends?|until|from))[\\s,:(]*$`,
  'i',
);
const ranged = /^\s*(?:-|–|—|\bto\b|\btill?\b|\buntil\b)\s*\d{1,2}(?:[:.]\d{2}|\s*[ap]\.?m\b)/i;
const clockWord = /\b(?:at|@|doors?|starts?|begins?|from)\s*:?\s*$/i;
/** What a bare number after `at` counts, where it is no hour: `at 21 years`, `at 4 tables`. */
const counted = /^\s*(?:year|month|week|day|minute|min|second|per ?cent|rpm|bpm|mph|km|metres?|meters?|mile|degree|%)/i;
const countedMany = /^\s*(?!starts|begins|ends|is|this|was|has|as|doors)[a-z]+s\b/;

/**
 * The clock readings written in figures, in order. A bare number is one only after `at`, `doors` and the like, or as
 * the first of a range.
 */
export function clockPieces(text: string): ClockPiece[] {
  const found: ClockPiece[] = [];
  for (const match of text.matchAll(written)) {
    const [whole, hour = '', minutes, tail = ''] = match;
    const half = /[ap]/i.exec(tail)?.[0] ?? '';
    const to = match.index + whole.length;
    const rest = text.slice(to, to + 24);
    const plain = minutes === undefined && half === '';
    if (
      plain &&
      !(
        tail === '' &&
        (ranged.test(rest) ||
          (clockWord.test(text.slice(Math.max(0, match.index - 12), match.index)) &&
            !counted.test(rest) &&
            !countedMany.test(rest)))
      )
    )
      continue;
    const read = parseTimeOfDay(`${hour}${minutes === undefined ? '' : `:${minutes}`}${half === '' ? '' : `${half}m`}`);
    if (read === null) continue;
    const before = found[found.length - 1];
    const between = before ? text.slice(before.to, match.index) : null;
    found.push({
      from: match.index,
      to,
      readings: half === '' ? bothHalves(read) : [read],
      closes: between !== null && /^\s*(?:-|–|—|\bto\b|\btill?\b|\buntil\b)\s*$/i.test(between),
      couldBeDate: dotted.test(whole) && !asksForTime.test(text.slice(Math.max(0, match.index - 20), match.index)),
      goesOn: between !== null && /^\s*(?:,|&|\+|\/|,?\s*\band\b|\bor\b)\s*(?:at\s+)?$/i.test(between),
    });
  }
  return found;
}

/** The readings of an hour said without its half of the day. */
function bothHalves(time: string): string[] {
  const hour = Number(time.slice(0, 2));
  return hour >= 1 && hour < 12
    ? [time, `${hour + 12}${time.slice(2)}`]
    : hour === 12
      ? [time, `00${time.slice(2)}`]
      : [time];
}
