import { listWords } from '../base/list-words';
import { moneyWords } from '../base/money';
import { toLocal, type Instant } from '../base/zones';
import { shortDate } from '../dates/date-words';
import type { Facts } from '../facts/facts';
import type { PerformanceFacts } from '../facts/performance-facts';

/** A fact before and after, in words. */
export interface ChangedFact {
  label: string;
  before: string;
  after: string;
}

const nothing = 'none';

/** `22:00`; with the day where the two lie on different days, and the year where that differs too. */
function momentPair(before: Instant | null, after: Instant | null, zone: string): [string, string] {
  const [a, b] = [before, after].map((at) => (at === null ? null : toLocal(at, zone)));
  const sameDay = a?.date === b?.date || !a || !b;
  const sameYear = a?.date.slice(0, 4) === b?.date.slice(0, 4);
  const words = (local: typeof a) =>
    !local ? nothing : sameDay ? local.time : `${shortDate(local.date, !sameYear)} ${local.time}`;
  return [words(a), words(b)];
}

function placeOf({ place }: PerformanceFacts): string {
  return place === null ? nothing : [place.room, place.venue].filter((name) => name !== null).join(', ');
}

const standings: Record<PerformanceFacts['turn'], string> = {
  none: 'as planned',
  postponed: 'postponed',
  rescheduled: 'rescheduled',
  moved: 'moved',
  cancelled: 'cancelled',
};

/** What changes of one performance. */
function changedOf(was: PerformanceFacts, is: PerformanceFacts): ChangedFact[] {
  const out: ChangedFact[] = [];
  const add = (label: string, before: string, after: string) =>
    before === after ? undefined : out.push({ label, before, after });
  add('status', standings[was.turn], standings[is.turn]);
  for (const label of ['doors', 'start', 'end'] as const)
    if (was[label] !== is[label]) add(label, ...momentPair(was[label], is[label], is.zone));
  add('place', placeOf(was), placeOf(is));
  if (was.soldOut !== is.soldOut) add('sold out', was.soldOut ? 'yes' : 'no', is.soldOut ? 'yes' : 'no');
  return out;
}

function priceOf({ price }: Facts): string {
  if (price.kind !== 'priced') return price.kind;
  const money = (minor: number) => moneyWords(minor, price.currency);
  return price.from === price.to ? money(price.from) : `${money(price.from)}–${money(price.to)}`;
}

/**
 * The facts that two states of a record say otherwise, in words, the weightiest first. Of several performances that
 * change alike, the first is told, with how many there are.
 */
export function changedFacts(before: Facts, after: Facts): ChangedFact[] {
  const was = new Map(before.performances.map((performance) => [performance.id, performance]));
  const moved = after.performances.flatMap((is) => {
    const old = was.get(is.id);
    const changes = old ? changedOf(old, is) : [];
    return changes.length > 0 ? [changes] : [];
  });
  const [first, ...more] = moved;
  const out = (first ?? []).map((fact) =>
    more.length === 0 ? fact : { ...fact, label: `${fact.label}, and ${more.length} more dates` },
  );
  const add = (label: string, a: string, b: string) =>
    a === b ? undefined : out.push({ label, before: a || nothing, after: b || nothing });
  const added = after.performances.filter(({ id }) => !was.has(id)).length;
  const gone = before.performances.length - (after.performances.length - added);
  if (added > 0) out.push({ label: 'dates', before: String(before.performances.length), after: `${added} more` });
  if (gone > 0) out.push({ label: 'dates', before: String(before.performances.length), after: `${gone} fewer` });
  add('title', before.title, after.title);
  add('subtitle', before.subtitle, after.subtitle);
  add('line-up', before.lineUp, after.lineUp);
  add('price', priceOf(before), priceOf(after));
  add('publicity', before.visibility, after.visibility);
  return out;
}

/** `half an hour later`, `an hour earlier`, `20 minutes later`. */
function shift(ms: number): string {
  const minutes = Math.abs(Math.round(ms / 60_000));
  const span =
    minutes === 30
      ? 'half an hour'
      : minutes === 60
        ? 'an hour'
        : minutes % 60 === 0
          ? `${minutes / 60} hours`
          : `${minutes} minutes`;
  return `${span} ${ms > 0 ? 'later' : 'earlier'}`;
}

/** Most dates that are said one by one. */
const mostDays = 4;

/** The dates that a turn befell, as a sentence says them: `on Sun 7 Feb 2027 and Sun 14 Feb 2027`. */
function onDays(
  was: ReadonlyMap<string, PerformanceFacts>,
  performances: readonly PerformanceFacts[],
  turn: PerformanceFacts['turn'],
): string {
  const days = performances.flatMap((is) => {
    const old = was.get(is.id);
    return old && is.turn === turn && old.turn !== turn ? [toLocal(old.start ?? old.at, old.zone).date] : [];
  });
  const words = [...new Set(days)].sort().map((day) => shortDate(day, true));
  if (words.length <= mostDays) return `on ${listWords(words)}`;
  return `on ${words.length} dates from ${words[0]} until ${words.at(-1)}`;
}

/** Words for the public on what changes of the first performance that does: drafted, to be worded by a person. */
export function draftedReason(before: Facts, after: Facts): string {
  const was = new Map(before.performances.map((performance) => [performance.id, performance]));
  // What was said of refunds before is known already.
  const refunds = after.refunds.startsWith(before.refunds)
    ? after.refunds.slice(before.refunds.length).trim()
    : after.refunds;
  const valid = refunds === '' ? 'Tickets stay valid.' : refunds;
  for (const is of after.performances) {
    const old = was.get(is.id);
    if (!old || changedOf(old, is).length === 0) continue;
    const day = toLocal(old.start ?? old.at, old.zone).date;
    if (is.turn !== old.turn && is.turn === 'cancelled')
      return `${after.title} ${onDays(was, after.performances, is.turn)} is cancelled.${refunds === '' ? '' : ` ${refunds}`}`;
    if (is.turn !== old.turn && is.turn === 'postponed')
      return `${after.title} ${onDays(was, after.performances, is.turn)} is postponed. A new date follows. ${valid}`;
    const said: string[] = [];
    if (is.start !== null && old.start !== null && is.start !== old.start) {
      const at = toLocal(is.start, is.zone);
      said.push(
        at.date === day
          ? `It starts ${shift(is.start - old.start)}, at ${at.time}.`
          : `It takes place on ${shortDate(at.date, true)} at ${at.time}, not on ${shortDate(day, true)}. ${valid}`,
      );
    }
    if (placeOf(is) !== placeOf(old)) said.push(`It takes place in ${placeOf(is)}.`);
    const doors = (performance: PerformanceFacts) =>
      performance.doors === null ? null : toLocal(performance.doors, performance.zone).time;
    if (doors(is) !== null && doors(is) !== doors(old)) said.push(`Doors open at ${doors(is)}.`);
    return said.join(' ');
  }
  return '';
}
