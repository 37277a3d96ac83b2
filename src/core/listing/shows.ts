import { addDays, instantOf, toLocal, type Instant } from '../base/zones';

/**
 * When the public sees what a channel took. `at once`: as soon as it is taken. `next batch`: with the next full step of
 * the clock. `next visit`: when it next comes for what we lay out, at these hours of its own day; where one of the
 * fields that a person there looks at again has changed, once that person has looked: usually within `looksMs`, within
 * `looksWithinMs` at the latest. `after`: so long after it was told, or after what it mirrors shows it.
 */
export type Shows =
  | { when: 'at once' }
  | { when: 'next batch'; everyMs: number }
  | {
      when: 'next visit';
      hours: readonly number[];
      zone: string;
      looksAt: readonly string[];
      looksMs: number;
      looksWithinMs: number;
    }
  | { when: 'after'; fromMs: number; toMs: number };

/** By when something is so: never before `earliest`, as a rule by `asRule`, by `atLatest` at the latest. */
export interface ByWhen {
  earliest: Instant;
  asRule: Instant;
  atLatest: Instant;
}

const minuteMs = 60_000;
/** So long it takes as a rule until an errand was carried out, and at the latest where nothing is in its way. */
const taken = { asRule: minuteMs, atLatest: 10 * minuteMs };

/** By when an errand that may go from `from` on is taken by its channel; `steps`: those that are waited for before it. */
export function takenBy(from: Instant, steps = 0): ByWhen {
  return {
    earliest: from,
    asRule: from + (1 + steps) * taken.asRule,
    atLatest: from + (1 + steps) * taken.atLatest,
  };
}

/**
 * By when the public sees what a channel takes by `told`, of which these fields change. `usualMs`: how long nine in ten
 * took there lately, as measured; `null`: too few were.
 */
export function seenBy(
  { shows, delayMs }: { shows: Shows; delayMs: number },
  told: ByWhen,
  fields: readonly string[],
  usualMs: number | null = null,
): ByWhen {
  switch (shows.when) {
    case 'at once':
      return {
        ...told,
        asRule: Math.max(told.asRule, told.earliest + (usualMs ?? 0)),
        atLatest: told.atLatest + delayMs,
      };
    case 'next batch':
      return {
        earliest: nextStep(told.earliest, shows.everyMs),
        asRule: nextStep(told.asRule, shows.everyMs),
        // A batch that fails is made up for by the one after it.
        atLatest: nextStep(told.atLatest, shows.everyMs) + shows.everyMs,
      };
    case 'next visit': {
      const looks = fields.some((field) => shows.looksAt.includes(field));
      const visit = (at: Instant) => nextVisit(at, shows.hours, shows.zone);
      const last = visit(told.atLatest);
      return {
        earliest: visit(told.earliest),
        asRule: visit(told.asRule) + (looks ? shows.looksMs : 0),
        atLatest: looks ? last + shows.looksWithinMs : last,
      };
    }
    case 'after':
      return {
        earliest: told.earliest + shows.fromMs,
        asRule: told.asRule + shows.toMs,
        atLatest: told.atLatest + shows.toMs,
      };
  }
}

/** The next full step of the clock after a moment: `nextStep(10:20, an hour)` is 11:00; 11:00 is followed by 12:00. */
function nextStep(at: Instant, everyMs: number): Instant {
  return (Math.floor(at / everyMs) + 1) * everyMs;
}

/** The next of these hours of the day in a zone after a moment. An hour that the clocks skip is none. */
export function nextVisit(at: Instant, hours: readonly number[], zone: string): Instant {
  const { date } = toLocal(at, zone);
  for (let day = 0; day < 3; day += 1)
    for (const hour of hours) {
      const visit = instantOf({ date: addDays(date, day), time: `${String(hour).padStart(2, '0')}:00` }, zone);
      if (visit !== null && visit > at) return visit;
    }
  throw new Error(`no visit at ${hours.join(', ')} in ${zone}`);
}
