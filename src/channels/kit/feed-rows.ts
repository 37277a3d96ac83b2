import { putOff, type Facts } from '@/core/facts/facts';
import type { FieldRow } from '@/core/listing/channel-rules';
import type { ListedState } from '@/core/listing/shown';
import { stateAt, wordAt, zonedAt } from '@/core/listing/wire';
import { befellRow, momentRows, stateRow } from './common-rows';

/** Whether it stands in the feed, what befell each of its dates (STATUS, RFC 5545, section 3.8.1.11), and when it is. */
export function standingRows(): FieldRow[] {
  return [
    stateRow(
      'shown',
      stateInFeed,
      stateAt('status', { public: 'CONFIRMED', closed: 'ABSENT', cancelled: 'CANCELLED' }),
    ),
    befellRow(wordAt('standing', { cancelled: 'CANCELLED', postponed: 'TENTATIVE' }), ['cancelled']),
    ...momentRows({ doors: 'doors', start: 'dtstart', end: 'dtend' }, zonedAt, 'must').filter(
      (row) => row.field !== 'doors',
    ),
  ];
}

/** The title as it stands there: where none of its dates takes place and one is put off, that comes first. */
export function putOffRow(row: FieldRow): FieldRow {
  if (row.each !== 'event') return row;
  const { parts, ...plain } = row;
  const waits = ({ performances }: Facts) =>
    performances.some(({ turn }) => turn === 'postponed') &&
    performances.every(({ turn }) => turn === 'postponed' || turn === 'cancelled');
  const said = (f: Facts): Facts =>
    waits(f)
      ? { ...f, title: `${putOff}${f.title}`, shortTitle: f.shortTitle === '' ? '' : `${putOff}${f.shortTitle}` }
      : f;
  return { ...plain, from: (f: Facts) => row.from(said(f)), ...(parts ? { parts: (f: Facts) => parts(said(f)) } : {}) };
}

/** How an event stands in a calendar: as it does, or cancelled where all of it is. */
export function stateInFeed({ performances }: Facts): ListedState {
  return performances.length > 0 && performances.every((performance) => performance.turn === 'cancelled')
    ? 'cancelled'
    : 'public';
}
