import { addDays } from '@/core/base/zones';
import { moneyWords } from '@/core/base/money';
import type { RecordContent } from '@/core/record/record';
import type { ImportedEvent } from '@/core/formats/import-row';

/** What one event would become. Times are local ones of its zone; a zone that nobody said is `null`. */
export function checkedRecord({ content, venue, organiser, ask, line }: ImportedEvent): object {
  const { tickets } = content;
  return {
    line,
    title: content.title,
    kind: content.eventType,
    stage: content.stage,
    visibility: content.publicity.visibility,
    performances: content.performances.map((performance) =>
      performanceOf(performance, ask === null ? performance.zone : ask.inUtc ? 'UTC' : null),
    ),
    venue: venue?.name ?? null,
    room: venue?.room || null,
    town: venue?.town || null,
    country: venue?.country || null,
    address: venue?.address || null,
    point: venue?.point ?? null,
    organiser: organiser || null,
    lineUp: content.lineUp.map(({ name, role }) => ({ name, role })),
    currency: tickets.levels.length > 0 ? tickets.currency : null,
    prices: tickets.levels.map(({ name, price, buyers }) => ({
      name,
      buyers,
      price: moneyWords(price, tickets.currency),
    })),
    entry: tickets.mode,
  };
}

function performanceOf(performance: RecordContent['performances'][number], zone: string | null): object {
  const at = (date: string, time: string | null) => (time === null ? date : `${date}T${time}`);
  const last = performance.lastDate ?? (performance.endsNextDay ? addDays(performance.date, 1) : performance.date);
  const start =
    performance.precision === 'open'
      ? null
      : performance.precision === 'month'
        ? performance.date.slice(0, 7)
        : at(performance.date, performance.start);
  const status = performance.turn === 'none' ? (performance.pencilled ? 'pencilled' : 'confirmed') : performance.turn;
  return {
    start,
    zone,
    end: performance.end === null ? (performance.lastDate ?? null) : at(last, performance.end),
    status,
    doors: performance.doors,
    repeat: performance.repeat,
  };
}
