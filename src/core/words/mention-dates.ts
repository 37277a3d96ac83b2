import type { ParsedResult } from 'chrono-node/en';
import { dateParts, longDate, momentWords } from '../dates/date-words';
import type { PerformanceFacts } from '../facts/performance-facts';
import type { LevelFacts } from '../facts/sale';
import { toLocal, type Instant } from '../base/zones';
import { before, daySaid, type Mention, type MentionContext } from './mention';
import { dayReadings, month, secondHalf, weekday, type DayReading } from '../dates/day-readings';
import type { DatedPhrase } from './mention-times';
import type { Token } from './tokens';

/** `Sunday 14th`, the month left to the reader. */
const dayOfMonth = new RegExp(
  `\\b(${weekday})\\s+(?:the\\s+)?(\\d{1,2})(?:st|nd|rd|th)\\b(?!\\s*(?:of\\s+|in\\s+)?(?:${month}|\\d))`,
  'gi',
);

/** Finds days in a text, in no order, and the phrases in which they stand. */
export function datesIn(text: string, context: MentionContext): { mentions: Mention[]; dated: DatedPhrase[] } {
  const { performances } = context.facts;
  const today = toLocal(context.now, performances[0]?.zone ?? 'UTC').date;
  const readings = dayReadings(text, today);
  const said = readings.map((reading) => ({ reading, found: aboutDate(text, reading, context, today) }));
  const ordinals = [...text.matchAll(dayOfMonth)].flatMap((match) => aboutDayOfMonth(match, context, match.index));
  const dated = said.flatMap(({ reading: { start, whole, index }, found }) => {
    const date = dateOfParse(start, performances, today);
    if (date === null) return [];
    const ours = performances.filter(
      (performance) => covers(performance, date) || endDate(performance) === date || openingDate(performance) === date,
    );
    // `4am on Sunday`: which Sunday is not said.
    if (ours.length === 0 && found.length === 0 && !start.isCertain('day')) return [];
    // A day that is wrong was meant to be one of ours, and so was the time beside it.
    const meant =
      ours.length > 0 ||
      aboutSale.test(before(text, index, 48)) ||
      found.every((mention) => mention.verdict === 'typed')
        ? ours
        : performances;
    return [{ ...whole, ours: meant }];
  });
  const tokens = [...text.matchAll(dayTokens)].map((match) => ({
    from: match.index,
    to: match.index + match[0].length,
    ours: performances,
  }));
  return {
    mentions: [...said.flatMap(({ found }) => found), ...ordinals],
    dated: [...dated, ...ordinals.map(({ from, to }) => ({ from, to, ours: performances })), ...tokens],
  };
}

const dayTokens = new RegExp(`${daySaid}+`, 'g');

const weekdayThe = new RegExp(`\\b(${weekday}),?\\s+the\\s+$`, 'i');

/** What stands before a date that is not this event's: a year in a life, or another thing's day. */
const elsewhere =
  /\b(since|founded|born|formed|released|recorded|established|from their|back in|died|premiered|written|built|opened|played|toured|out|op\.?|no\.?|nr\.?|in)\s+(in\s+|on\s+)?$/i;
/**
 * `Moved from 5 March`, `was 5 March`, `tickets for the original date, 5 March`: tells of the old date, as it should.
 */
const oldDate =
  /\b(?:moved|postponed|rescheduled|carried over|brought forward|was|were|not|no longer|instead of|in place of|rather than)\s+(?:from\s+|on\s+)?$|\b(?:originally|previously|formerly|initially|(?:original|old|previous|former) (?:date|tickets?|bookings?|show|performance|concert))\b[^.!?\n]{0,30}$/i;
/** `Her album lands on 5 March`, `the fire of 4 February`: the day of something else, unless it is ours. */
const ofAnother =
  /\b(?:albums?|records?|singles?|ep|lp|books?|novels?|debut|memoir|tracks?)\b[^.!?\n]{0,24}\b(?:out|arrives?|lands?|released?|drops?|follows?|appears?|published|due)\b[^.!?\n]{0,8}$|(?<!\b(?:nights?|evenings?|afternoons?|mornings?|days?|matin[eé]es?|weekends?|weeks?|shows?|performances?|dates?|gigs?|concerts?))\s+of\s+(?:the\s+)?$/i;
/** `No session on 16 March`: said of a day on which it does not happen. */
const leftOut = /\b(?:no|not(?! to (?:be )?miss)|except|excluding|apart from|closed|without)\b[^.!?;:\n]{0,24}$/i;
/** `Until 4am on Sunday`, `27/28 March`: the day on which the night ends. */
const endingOn = /(?:\d(?:\s*[ap]\.?m\.?)?|\b(?:midnight|noon|into|until|till|to|and)|[–/&-])[\s,]*(?:on\s+)?$/i;
/** Other nights of the tour, or of the people in it: `Also playing: Galway, Friday 12 March`. */
const otherNights =
  /\b(?:also (?:playing|appearing|on)|(?:tour|run|season) continues|(?:other|further|more|tour|remaining) dates|elsewhere|next stops?|rest of the tour|auditions?|rehearsals?)\b[^.!?\n]*$/i;
/** A rule, not a day: `every Sunday`, `the first Sunday of the month`, `last Friday`. */
const recurring = /\b(every|each|first|second|third|fourth|last|other|most|past)\s+$/i;
/** The date is one of the sale, not of the event. */
const aboutSale =
  /\b(?:on[- ](?:general |public |advance )?sale|(?:general|public) sale|sales?|presale|pre-sale|tickets? from|book(?:ing)?s?(?: opens?| by| from| until| before)?|available|early bird|deadline|apply|register|submissions?|entries|rsvp|order|buy)\b[^.!?\n]{0,24}$/i;

function aboutDate(text: string, part: DayReading, context: MentionContext, today: string): Mention[] {
  const { start, index } = part;
  const { performances, levels } = context.facts;
  const date = dateOfParse(start, performances, today);
  const lead = before(text, index, 48);
  if (date === null || performances.every((performance) => performance.precision === 'open') || isVerb(part.text))
    return [];
  // `Rescheduled from 13 March to 14 March` tells of the old date, and then of ours.
  if (oldDate.test(before(text, part.whole.from, 48)) || oldDate.test(lead))
    return afterOld(text, part, context, today);
  // A date that tells of the past, or of another year, is not about this event.
  if (elsewhere.test(lead) || (!start.isCertain('day') && recurring.test(lead))) return [];
  const wasOurs = context.earlier.dates.includes(date);
  const years = new Set(
    performances
      .flatMap((performance) => [performance.date, performance.lastDate ?? performance.date])
      .map((text) => Number(text.slice(0, 4))),
  );
  if (start.isCertain('year') && !years.has(start.get('year') ?? 0) && !wasOurs && !yearSlipped(date, performances))
    return [];
  // `Sunday the 14th of March`: the weekday stands apart from what the parser reads.
  const apart = start.isCertain('day') && !start.isCertain('weekday') ? weekdayThe.exec(before(text, index, 16)) : null;
  const from = index - (apart?.[0].length ?? 0);
  const to = index + part.text.length;
  const at = { kind: 'date' as const, from, to, text: text.slice(from, to) };
  const ours = performances.filter((performance) => covers(performance, date));
  // A night that begins after midnight is told by the evening on which its doors open.
  if (ours.length === 0 && performances.some((performance) => openingDate(performance) === date)) return [];
  if (
    ours.length === 0 &&
    (leftOut.test(lead) || (endingOn.test(lead) && performances.some((performance) => endDate(performance) === date)))
  )
    return [];
  if (ours.length === 0 && aboutSale.test(lead)) return saleDate(at, date, levels, context.now);
  if (ours.length === 0 && !wasOurs && (ofAnother.test(lead) || otherNights.test(before(text, index, 200)))) return [];
  // `3/4`, `24/7`: without a year, a weekday or a word that points at a day, two numbers are no date unless they are
  // ours.
  if (
    /^\d{1,2}[/.-]\d{1,2}\b/.test(at.text) &&
    !start.isCertain('year') &&
    ours.length === 0 &&
    !wasOurs &&
    !/\b(on|from|until|till|by|date|dates)[\s:]*$/i.test(lead)
  )
    return [];
  if (at.text === '24/7') return [];
  if (
    /^\d{1,2}[/.]\d{1,2}$/.test(at.text) &&
    /^\s*(?:time|measure|beats?|size|scale|stars?|inch)/i.test(text.slice(to))
  )
    return [];
  const wrongDay = wrongWeekday(apart?.[1] ?? weekdayOf(start), date);
  const token = part.listed ? null : 'date';
  if (wrongDay !== null) return [{ ...at, verdict: 'contradicts', says: wrongDay, token }];
  if (ours.length > 0)
    return [
      rangeRuns(part, performances, today)
        ? {
            ...at,
            verdict: 'typed',
            says: longDate(date),
            token:
              part.listed || lastOf(part, performances, today) !== date || !saysIt(ours[0], date)
                ? null
                : tokenFor(start, performances.length, apart !== null),
          }
        : { ...at, verdict: 'contradicts', says: datesWords(performances), token },
    ];
  if (wasOurs) return [{ ...at, verdict: 'stale', says: datesWords(performances), token }];
  if (start.isCertain('day')) return [{ ...at, verdict: 'contradicts', says: datesWords(performances), token }];
  return aboutWeekday(at, before(text, from), text.slice(to), performances);
}

/** The new date in `moved from 13 March to 14 March`; nothing where only the old one is named. */
function afterOld(text: string, part: DayReading, context: MentionContext, today: string): Mention[] {
  const half = part.end?.isCertain('day') ? secondHalf(part.text) : 0;
  if (half === 0 || part.end === null) return [];
  const index = part.index + half;
  return aboutDate(
    text,
    {
      ...part,
      start: part.end,
      end: null,
      text: part.text.slice(half),
      index,
      whole: { from: index, to: part.whole.to },
    },
    context,
    today,
  );
}

/** The same day and month as ours a year off: the slip of a text that was copied, not a date in somebody's life. */
function yearSlipped(date: string, performances: readonly PerformanceFacts[]): boolean {
  return performances.some(
    (performance) =>
      performance.date.slice(5) === date.slice(5) &&
      Math.abs(Number(performance.date.slice(0, 4)) - Number(date.slice(0, 4))) === 1,
  );
}

/** The day on which a performance ends, where that is told. */
function endDate({ end, zone }: PerformanceFacts): string | null {
  return end === null ? null : toLocal(end, zone).date;
}

/** The day on which the doors open, where they do. */
function openingDate({ doors, zone }: PerformanceFacts): string | null {
  return doors === null ? null : toLocal(doors, zone).date;
}

/** Whether a token would say this very day: it says the first of several, and of a month no day at all. */
function saysIt(performance: PerformanceFacts | undefined, date: string): boolean {
  return (
    performance !== undefined &&
    performance.date === date &&
    (performance.lastDate ?? date) === date &&
    (performance.precision === 'exact' || performance.precision === 'day')
  );
}

/** A bare weekday says little: only one that points at a coming day is held against the record. */
function aboutWeekday(
  at: Pick<Mention, 'kind' | 'from' | 'to' | 'text'>,
  lead: string,
  rest: string,
  performances: readonly PerformanceFacts[],
): Mention[] {
  const points =
    /^(?:this|next|coming)\b/i.test(at.text) ||
    (/\b(?:on|this|next|coming)\s+$/i.test(lead) && !/^last\b/i.test(at.text));
  if (!points || /^,?\s+(?:the\s+)?\d/i.test(rest)) return [];
  const named = at.text
    .replace(/^(this|on|next|coming)\s+/i, '')
    .slice(0, 3)
    .toLowerCase();
  const [same] = performances.filter((performance) => weekdayNamed(performance.date) === named);
  if (!same && endingOn.test(lead) && performances.some((performance) => weekdayNamed(endDate(performance)) === named))
    return [];
  if (same)
    return [
      {
        ...at,
        verdict: 'typed',
        says: longDate(same.date),
        token: performances.length === 1 && !/^(this|next|coming)\b/i.test(at.text) ? 'weekday' : null,
      },
    ];
  return [{ ...at, verdict: 'contradicts', says: datesWords(performances), token: 'date' }];
}

const weekdayNamed = (date: string | null) =>
  date === null ? null : dateParts(date).weekday.slice(0, 3).toLowerCase();

function aboutDayOfMonth(
  [whole, named = '', number = '']: RegExpExecArray,
  { facts: { performances }, earlier }: MentionContext,
  index: number,
): Mention[] {
  const pad = number.padStart(2, '0');
  const [next] = performances;
  if (!next || next.precision === 'open') return [];
  const ours = performances.find(
    (performance) => performance.date.slice(8) === pad || performance.lastDate?.slice(8) === pad,
  );
  const date = ours ? (ours.lastDate?.slice(8) === pad ? ours.lastDate : ours.date) : `${next.date.slice(0, 7)}-${pad}`;
  if (!/^\d{4}-\d{2}-(0[1-9]|[12]\d|3[01])$/.test(date)) return [];
  const at = { kind: 'date' as const, from: index, to: index + whole.length, text: whole };
  const real = dateParts(date).weekday;
  if (real.toLowerCase() !== named.toLowerCase())
    return [{ ...at, verdict: 'contradicts', says: `the ${ordinal(Number(number))} is a ${real}`, token: 'date' }];
  if (ours)
    return [{ ...at, verdict: 'typed', says: longDate(date), token: performances.length === 1 ? 'date' : null }];
  return [
    {
      ...at,
      verdict: earlier.dates.includes(date) ? 'stale' : 'contradicts',
      says: datesWords(performances),
      token: 'date',
    },
  ];
}

/** Whether `may 3` and `march 4` are no dates: written small, with nothing that makes them one. */
function isVerb(words: string): boolean {
  return /^(?:may|march)\s+\d{1,2}$/.test(words.trim());
}

/**
 * A date said of the sale, held against the levels' windows and the clock: an opening that has passed was right once.
 * Where no level names one, nothing is said of it.
 */
function saleDate(
  at: Pick<Mention, 'kind' | 'from' | 'to' | 'text'>,
  date: string,
  levels: readonly LevelFacts[],
  now: Instant,
): Mention[] {
  const moments = levels.flatMap(({ opens, closes, zone }) =>
    [opens, closes].flatMap((moment) => (moment === null ? [] : [{ moment, zone }])),
  );
  if (moments.length === 0) return [];
  const onDay = (moment: Instant | null, zone: string) => moment !== null && toLocal(moment, zone).date === date;
  const opened =
    levels.some(({ opens, zone }) => onDay(opens, zone) && (opens ?? 0) <= now) &&
    !levels.some(({ opens, closes, zone }) => onDay(closes, zone) || (onDay(opens, zone) && (opens ?? 0) > now));
  if (opened) return [{ ...at, verdict: 'stale', says: 'on sale now', token: null }];
  const says = `on sale ${[...new Set(moments.map(({ moment, zone }) => momentWords(moment, zone)))].slice(0, 3).join(', ')}`;
  return [
    {
      ...at,
      verdict: moments.some(({ moment, zone }) => toLocal(moment, zone).date === date) ? 'typed' : 'contradicts',
      says,
      token: null,
    },
  ];
}

/** Whether all of `14–16 March` is ours: its last day too is one on which something of the event happens. */
function rangeRuns(part: DayReading, performances: readonly PerformanceFacts[], today: string): boolean {
  const last = lastOf(part, performances, today);
  return last === null || performances.some((performance) => covers(performance, last));
}

/** The last day that a reading names: of a single day, that day. */
function lastOf({ start, end }: DayReading, performances: readonly PerformanceFacts[], today: string): string | null {
  return dateOfParse(end?.isCertain('day') ? end : start, performances, today);
}

/** The date that was meant; where no year was said, that of our performance on that day and month, if there is one. */
function dateOfParse(
  start: ParsedResult['start'],
  performances: readonly PerformanceFacts[],
  today: string,
): string | null {
  const pad = (n: number | null) => String(n ?? 0).padStart(2, '0');
  const day = `${pad(start.get('month'))}-${pad(start.get('day'))}`;
  if (start.isCertain('day') && !start.isCertain('year')) {
    const ours = performances.find(
      (performance) => performance.date.slice(5) === day || performance.lastDate?.slice(5) === day,
    );
    if (ours) return `${(ours.lastDate?.slice(5) === day ? ours.lastDate : ours.date).slice(0, 4)}-${day}`;
    const inside = performances.find(
      (performance) =>
        performance.lastDate !== null && performance.date.slice(5) <= day && day <= performance.lastDate.slice(5),
    );
    const year = Number(
      (inside ?? performances.find((performance) => performance.date >= today) ?? performances[0])?.date.slice(0, 4) ??
        today.slice(0, 4),
    );
    return `${year}-${day}`;
  }
  const date = `${start.get('year')}-${day}`;
  return /^\d{4}-\d{2}-\d{2}$/.test(date) ? date : null;
}

function covers(performance: PerformanceFacts, date: string): boolean {
  if (performance.precision === 'month') return performance.date.slice(0, 7) === date.slice(0, 7);
  return (
    performance.precision !== 'open' && performance.date <= date && date <= (performance.lastDate ?? performance.date)
  );
}

const weekdayNames = ['Sunday', 'Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday'];

/** The weekday that was said beside a day, if one was. */
function weekdayOf(start: ParsedResult['start']): string | null {
  return start.isCertain('weekday') && start.isCertain('day')
    ? (weekdayNames[start.get('weekday') ?? -1] ?? null)
    : null;
}

/** `the 14th is a Sunday`, where both a day and a weekday were said and they do not fit. */
function wrongWeekday(named: string | null, date: string): string | null {
  if (named === null) return null;
  const real = dateParts(date).weekday;
  return named.slice(0, 3).toLowerCase() === real.slice(0, 3).toLowerCase()
    ? null
    : `the ${ordinal(dateParts(date).day)} is a ${real}`;
}

function ordinal(n: number): string {
  const tail = n % 100 >= 11 && n % 100 <= 13 ? 'th' : (['th', 'st', 'nd', 'rd'][n % 10] ?? 'th');
  return `${n}${tail}`;
}

function tokenFor(start: ParsedResult['start'], count: number, weekdayApart: boolean): Token | null {
  if (count > 1) return null;
  if (!start.isCertain('day')) return 'weekday';
  return weekdayApart || start.isCertain('weekday') || start.isCertain('year') ? 'date' : 'day';
}

function datesWords(performances: readonly PerformanceFacts[]): string {
  const said = performances
    .filter((performance) => performance.precision !== 'open')
    .map((performance) => (performance.dateNote === '' ? longDate(performance.date) : performance.dateNote));
  return said.length > 3 ? `${said.slice(0, 2).join(', ')} and ${said.length - 2} more` : said.join(', ');
}
