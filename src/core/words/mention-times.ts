import type { PerformanceFacts } from '../facts/performance-facts';
import { toLocal } from '../base/zones';
import { clockPieces, type ClockPiece } from '../dates/clock-pieces';
import { after, before, timeSaid, type Mention, type MentionContext } from './mention';
import { spokenTimes } from '../dates/spoken-times';

type TimeRole = 'doors' | 'start' | 'end';

/** A phrase in which a day was named, and our performances on that day: none where it is the day of something else. */
export interface DatedPhrase {
  from: number;
  to: number;
  ours: readonly PerformanceFacts[];
}

/** What a word before a time says that it is of. */
const roles: readonly [RegExp, TimeRole][] = [
  [/^(?:door|gate|open)/, 'doors'],
  [/^(?:start|begin|kick|on stage|curtain)/, 'start'],
  [/^(?:until|till|end|finish|over)/, 'end'],
];

const roleWords =
  /\b(doors?|gates?|opens?|starts?|starting|begins?|beginning|kicks? off|kick-off|on stage|curtain(?: up)?|until|till|ends?|ending|finish(?:es)?|over by)\b/g;
/** `8pm start`, `7pm doors`: the word stands behind its time, and no other time follows it. */
const roleBehind =
  /^\s*(doors?|gates?|start|kick-?off|curtain|show(?: ?time)?|finish|end)\b(?!\s*(?:opens?\b|at\b|from\b|:|[@–-]?\s*\d))/i;
const showAt = /\b(?:show(?: ?time)?|music|stage(?: time)?|concert)\s*(?:at|from|[:@–-])?\s*$/i;

/**
 * Whether a time is said to be of the doors, the start or the end. A word belongs to the time that follows it, not to
 * the one after that, and to its sentence.
 */
function roleAt(text: string, from: number, to: number): TimeRole | null {
  const role = (word: string) => roles.find(([shape]) => shape.test(word))?.[1] ?? null;
  const behind = roleBehind.exec(after(text, to))?.[1]?.toLowerCase();
  if (behind !== undefined) return role(behind) ?? 'start';
  const lead = before(text, from, 28)
    .replace(/^[\s\S]*(?:\d|[\u0000-\u0002]|[.!?;]\s)/, '')
    .toLowerCase();
  const last = [...lead.matchAll(roleWords)].pop()?.[1] ?? '';
  return role(last) ?? (showAt.test(lead) ? 'start' : null);
}

/** Other things that open, close and begin beside the event. */
const another =
  /\b(bar|caf[eé]|kitchen|box office|workshop|soundcheck|sound check|support|talk|tour|curfew|parking|car park|bus(?:es)?|train|ferry|after-?party|party|interval|dinner|supper|lunch|breakfast|food|quiet hours?|last entry|latecomers?|readmission|registration|check-in|signing|on sale|sale|open(?:ing)?(?: hours| times)?:? (?:daily|weekdays?|(?:mon|tue|wed|thu|fri|sat|sun)\w*))\b[^.!?\n]{0,24}$/i;

/** A time as it was said, and what is known of its place. */
interface SaidTime {
  from: number;
  to: number;
  readings: string[];
  /** Performances on the day that was named with it: none on the day of something else; `null`: no day was named. */
  only: readonly PerformanceFacts[] | null;
  /** The role that its place in a range gives it, where no word does. */
  rangeRole: TimeRole | null;
}

/** Finds times of day in a text and holds them against doors, start and end: of the day named with them, or of all. */
export function timesIn(text: string, context: MentionContext, dated: readonly DatedPhrase[]): Mention[] {
  const found: Mention[] = [];
  let last: { only: SaidTime['only']; hit: boolean } = { only: null, hit: false };
  for (const piece of clockPieces(text)) {
    const said = placed(text, piece, dated, last);
    const mention = aboutTime(text, said, context);
    last = { only: said.only, hit: mention?.verdict === 'typed' };
    if (mention) found.push(mention);
  }
  for (const spoken of spokenTimes(text)) {
    const mention = aboutTime(text, { ...spoken, only: onlyAt(text, spoken, dated), rangeRole: null }, context);
    if (mention) found.push(mention);
  }
  return found;
}

const afterTime = new RegExp(`${timeSaid}\\s*(?:-|–|—|\\bto\\b|\\btill?\\b|\\buntil\\b)\\s*$`, 'i');

function placed(
  text: string,
  piece: ClockPiece,
  dated: readonly DatedPhrase[],
  last: { only: SaidTime['only']; hit: boolean },
): SaidTime {
  const carried = piece.closes || piece.goesOn ? last.only : null;
  const closes = (piece.closes && (last.hit || last.only !== null)) || afterTime.test(before(text, piece.from, 12));
  return { ...piece, only: onlyAt(text, piece, dated) ?? carried, rangeRole: closes ? 'end' : null };
}

/** What joins a day and the time that follows it, and a time and the day that follows. */
const dayThen = /^[\s,(–—:|·-]*(?:at|from|@)?\s*$/i;
const thenDay = /^[\s,]*(?:on\s+)?$/i;

/** The performances that a time can only be of: those on the day in whose phrase, or beside which, it stands. */
function onlyAt(
  text: string,
  { from, to }: { from: number; to: number },
  dated: readonly DatedPhrase[],
): readonly PerformanceFacts[] | null {
  const near = (phrase: DatedPhrase) =>
    (phrase.to <= from && from - phrase.to <= 12 && dayThen.test(text.slice(phrase.to, from))) ||
    (to <= phrase.from && phrase.from - to <= 8 && thenDay.test(text.slice(to, phrase.from)));
  const phrase =
    dated.find((phrase) => phrase.from <= from && to <= phrase.to) ??
    dated.find((phrase) => phrase.ours.length > 0 && near(phrase));
  return phrase?.ours ?? null;
}

function aboutTime(
  text: string,
  { from, to, readings, only, rangeRole }: SaidTime,
  { facts, earlier }: MentionContext,
): Mention | null {
  const role = roleAt(text, from, to) ?? rangeRole;
  if (only?.length === 0) return null;
  const performances = only ?? facts.performances;
  const clock = (performance: PerformanceFacts, which: TimeRole) =>
    performance[which] === null ? null : toLocal(performance[which], performance.zone).time;
  const known = (which: TimeRole) => [
    ...new Set(performances.map((performance) => clock(performance, which)).filter((time) => time !== null)),
  ];
  const at = { kind: 'time' as const, from, to, text: text.slice(from, to) };
  const asked = role === null ? (['start', 'doors', 'end'] as const) : ([role] as const);
  const hit = asked.find((which) => known(which).some((time) => readings.includes(time)));
  // A token stands for the time of the performance that a channel shows: of several on different times it would say too
  // little.
  const follows = (which: TimeRole) =>
    known(which).length === 1 && new Set(facts.performances.map((performance) => clock(performance, which))).size === 1
      ? which
      : null;
  if (hit) return { ...at, verdict: 'typed', says: `${hit} ${known(hit).join(', ')}`, token: follows(hit) };
  if (only === null && another.test(before(text, from, 40))) return null;
  const stale = readings.some((time) => earlier.times.includes(time));
  const target = role ?? (only ? 'start' : null);
  // A time that is neither said to be doors, start or end nor stands at one of our dates may be about anything.
  if (target === null || known(target).length === 0)
    return stale && known('start').length > 0
      ? { ...at, verdict: 'stale', says: `start ${known('start').join(', ')}`, token: follows('start') }
      : null;
  return {
    ...at,
    verdict: stale ? 'stale' : 'contradicts',
    says: `${target} ${known(target).join(', ')}`,
    token: follows(target),
  };
}
