import type { Facts } from '@/core/facts/facts';
import type { KindRules } from '@/core/listing/channel-rules';
import type { ListedState } from '@/core/listing/shown';
import { sources } from '@/core/listing/sources';
import { countAt, dayFirstAt, stateAt, textAt } from '@/core/listing/wire';
import { toDecimal } from '@/core/base/money';
import { sameZone } from '@/core/base/zones';
import { countRow, instant, plainBodyRow, stateRow, textRow, titleRow } from '../kit/common-rows';
import { operation } from '../kit/operations';
import { eventPage, kindRules } from '../kit/usual-rules';

/** Its box offices all go by one clock. */
const zone = 'Europe/Dublin';
const hourMs = 3_600_000;

/** The regional network of box offices: batches of rows, answered an hour later. */
export const rules = (): KindRules =>
  kindRules({
    trade: 'regional box-office network',
    rows: [
      titleRow(60, textAt('title')),
      plainBodyRow(400, textAt('text')),
      textRow(
        'place',
        'venue code',
        ({ performances: [first], here }) => first?.place?.channelIds[here] ?? '',
        textAt('venue_code'),
        { need: 'must' },
      ),
      textRow('price', 'price range', priceRange, textAt('price'), { need: 'must' }),
      // All that it may sell, over all price levels.
      countRow('event', 'total', 'allocation', seatsHere, countAt('seats'), {
        need: 'must',
        sources: [sources.allocation],
      }),
      stateRow('on sale', stateFor, stateAt('status', { public: 'LIVE', closed: 'OFF', cancelled: 'CANCELLED' })),
      {
        each: 'performance',
        field: 'start',
        label: 'start',
        kind: 'instant',
        need: 'must',
        sources: [sources.start],
        from: (p) => instant(p.start, p),
        ...dayFirstAt('date', 'time', zone),
      },
    ],
    lists: { performance: 'shows', ref: 'tag' },
    softBreak: 'blank',
    delayMs: 2 * hourMs,
    shows: { when: 'next batch', everyMs: hourMs },
    page: eventPage(false),
    answers: 'later',
    hasVenues: true,
    gives: ['ticket link'],
    states: ['public', 'closed', 'cancelled'],
    stateFor,
    operations: [
      operation('place', 'Lodges a row for the next batch, on the hour.'),
      operation('amend', 'Lodges a change for the next batch.'),
      operation('publish', 'Puts it on sale again with the next batch.'),
      operation('unpublish', 'Takes it off sale with the next batch. Tickets that were bought stay valid.'),
      operation('cancel', 'Marks it cancelled with the next batch; its box offices give the money back.', {
        needs: ['reason', 'code'],
        undo: { how: 'never' },
        tells: 'buyers',
      }),
    ],
    locks: [{ fields: ['total'], when: { after: 'first sale' }, lets: 'only up' }],
    budget: { requests: 10, perMs: 1_000, burst: 5, atOnce: 2 },
    accepts: ({ ticketed, performances }) =>
      ticketed && performances.every((performance) => sameZone(performance.zone, zone)),
    off: ['Selling by telephone.'],
    oursOnly: ['The allocation: its box offices cannot raise it.'],
    unties: ['The printed programmes of its box offices.'],
    habits: [
      'Takes rows, one date each, in batches on the hour, and answers each by itself: one that is turned down holds up no other.',
      'Title up to 60 characters, plain text up to 400; a price range and an allocation; no picture.',
      'Knows venues by its own codes: give the code in the directory. An unknown one turns the row down.',
      'All its times are those of Dublin; events in other zones are not for it.',
      'Its ticket link is known at once from our reference, and leads somewhere with the next batch.',
    ],
  });

function stateFor({ performances }: Facts): ListedState {
  const all = (turn: 'cancelled' | 'postponed') =>
    performances.length > 0 && performances.every((performance) => performance.turn === turn);
  // What is put off is sold no more until it has a date; nothing is cancelled.
  return all('cancelled') ? 'cancelled' : all('postponed') ? 'closed' : 'public';
}

/** From the lowest to the highest price that the public may pay: `16.00-22.00 EUR`. */
function priceRange({ levels }: Facts) {
  const open = levels.filter((level) => !level.hidden);
  const [first] = open;
  if (!first) return '';
  const prices = open.map((level) => level.minor);
  const [low, high] = [Math.min(...prices), Math.max(...prices)].map((n) => toDecimal(n, first.currency));
  return `${low === high ? low : `${low}-${high}`} ${first.currency}`;
}

function seatsHere({ outlets, here }: Facts) {
  const n = outlets.find((outlet) => outlet.channel === here)?.allocation ?? null;
  return n === null || n < 1 ? null : n;
}
