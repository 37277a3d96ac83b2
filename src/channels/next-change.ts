import { addDays, instantOf, toLocal, type Instant } from '@/core/base/zones';
import { saleWindow } from '@/core/facts/tickets/windows';
import type { RecordContent } from '@/core/record/record';
import type { Channel } from './channels';
import type { Survey } from './survey';

const dayMs = 86_400_000;
/** What opens so soon is told by its day alone: the words change then. */
const soonMs = 6 * dayMs;
/** Of longer runs the moments of every date are not gone through: they are looked at anew each minute. */
const mostDates = 60;

/**
 * Until when a survey comes out the same as long as nothing is written: by the calendar's clock, and by the monotonic
 * one.
 */
export interface Holds {
  until: Instant;
  monotonicUntil: Instant;
}

/**
 * The next moments at which the clock by itself may change what a survey says: a performance is over, a sale opens or
 * closes, a lock shuts, an embargo ends, a day ends where it takes place, what was sent is late, something lapses.
 */
export function holdsUntil(
  { facts, listings }: Survey,
  content: RecordContent,
  channels: readonly Channel[],
  now: Instant,
  monotonic: Instant,
  leftUntil: readonly Instant[] = [],
): Holds {
  let until = Infinity;
  let monotonicUntil = Infinity;
  const at = (moment: Instant | null | undefined) => {
    if (moment !== null && moment !== undefined && moment > now && moment < until) until = moment;
  };
  const monotonicAt = (moment: Instant | null) => {
    if (moment !== null && moment > monotonic && moment < monotonicUntil) monotonicUntil = moment;
  };
  if (facts.performances.length > mostDates) at(now + 60_000);
  for (const zone of new Set([facts.announceZone, ...facts.performances.map((performance) => performance.zone)]))
    at(instantOf({ date: addDays(toLocal(now, zone).date, 1), time: '00:00' }, zone) ?? now + 3_600_000);
  for (const performance of facts.performances) {
    at(performance.over + 1);
    for (const level of content.tickets.levels) {
      const { opens, closes } = saleWindow(level, performance.start, performance.zone);
      at(opens);
      at(opens === null ? null : opens - soonMs + 1);
      at(closes);
    }
  }
  at(facts.announceAt);
  // What was left as it is asks again.
  leftUntil.forEach(at);
  for (const { from } of content.documents) at(from === null ? null : instantOf(from, from.zone));
  const rules = new Map(channels.map((channel) => [channel.row.id, channel.rules]));
  for (const { channel, state, comparison, embargoUntil, lock } of listings) {
    const own = rules.get(channel);
    at(embargoUntil);
    if (state.sent === null) continue;
    for (const { when } of own?.locks ?? []) {
      if ('hoursBefore' in when) for (const start of lock.starts.values()) at(start - when.hoursBefore * 3_600_000 + 1);
      if ('minutesAfterSending' in when && state.sentAt !== null)
        monotonicAt(state.sentAt + when.minutesAfterSending * 60_000 + 1);
    }
    for (const { key, outcome, late } of comparison) {
      if (late || outcome === 'same' || outcome === 'already-there') continue;
      const sent = state.sentTimes[key] ?? state.sentAt;
      if (sent !== null) monotonicAt(sent + (own?.delayMs ?? 0) + 1);
    }
    if (state.lapsesAt !== null && own?.lapse) {
      monotonicAt(state.lapsesAt - own.lapse.leadMs);
      monotonicAt(state.lapsesAt);
    }
  }
  return { until, monotonicUntil };
}
