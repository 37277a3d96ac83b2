import type { FieldRow, KindRules } from '@/core/listing/channel-rules';
import { sources } from '@/core/listing/sources';
import type { ListedState } from '@/core/listing/shown';
import type { Facts } from '@/core/facts/facts';
import type { PerformanceFacts } from '@/core/facts/performance-facts';
import type { LevelCovers, LevelFacts } from '@/core/facts/sale';
import { flattenBlocks, markupOf, plainToHtml, writeHtml } from '@/core/words/markup';
import {
  countAt,
  flagAt,
  htmlAt,
  pictureAt,
  priceAt,
  refsAt,
  stateAt,
  textAt,
  utcAt,
  wordAt,
} from '@/core/listing/wire';
import * as row from '../kit/common-rows';
import { operation } from '../kit/operations';
import { kindRules } from '../kit/usual-rules';
import { couponRows, extraRows, questionRows, windowRows } from './sale-rows';

/** What is sent as the most in one order where the record names none. */
const usualOrderLimit = 5;
const states = { draft: 'draft', public: 'open', unlisted: 'unlisted', closed: 'closed', cancelled: 'cancelled' };
const taxWords = { included: 'held', none: 'not due' };
const { text } = row;

/** The ticketing marketplace; it gives the ticket link. */
export const rules = (): KindRules =>
  kindRules({
    trade: 'ticketing marketplace',
    rows: rows(),
    softBreak: 'paragraph',
    picture: { ratio: [16, 9], minWidth: 1280 },
    lists: {
      ref: 'external_id',
      performance: 'sessions',
      level: 'levels',
      extra: 'extras',
      coupon: 'coupons',
      question: 'questions',
    },
    mostPerformances: 500,
    delayMs: 5 * 60_000,
    page: {
      type: 'Event',
      whileSeen: false,
      rows: [
        { field: 'title', property: 'name', as: 'text' },
        { field: 'start', property: 'startDate', as: 'moments' },
      ],
    },
    hasVenues: true,
    gives: ['ticket link'],
    states: ['draft', 'public', 'unlisted', 'closed', 'cancelled'],
    stateFor,
    operations: operations(),
    locks: [
      { fields: ['start', 'end'], when: { after: 'first sale' }, lets: 'none' },
      { fields: ['price', 'covers', 'admits', 'choose'], when: { after: 'first sale' }, lets: 'none' },
      { fields: ['quantity'], when: { after: 'first sale' }, lets: 'only up' },
    ],
    budget: { requests: 9, perMs: 2_000, burst: 1, atOnce: 3 },
    tries: true,
    fee: { basisPoints: 450, fixed: 60, cap: 900 },
    accepts: (facts) => facts.ticketed,
    off: ['Its own letters to those who look and do not buy.', 'Proposing other events beside yours.'],
    oursOnly: ['Codes of hidden levels, and how many a coupon is good for.'],
    unties: [
      'Orders stay there, with whoever bought; nobody counts them here any more.',
      'Its calls about sales, which are signed for this house alone.',
    ],
    lateCauses: ['The account cannot be paid out yet.'],
    habits: habits(),
  });

/** What it shows of an event, field by field. */
function rows(): KindRules['rows'] {
  return [
    row.titleRow(70, textAt('name')),
    row.textRow('teaser', 'summary', summary, textAt('summary'), {
      limit: 130,
      need: 'should',
      sources: [sources.teaser, sources.line],
    }),
    {
      each: 'event',
      field: 'body',
      sources: [sources.fullText],
      label: 'description',
      kind: 'rich',
      from: (f) => simpleHtml(f.full === '' ? plainToHtml(f.short) : f.full),
      ...htmlAt('description'),
    },
    row.textRow('place', 'venue', (f) => venueWords(f.performances[0]?.place, f.here), textAt('venue'), {
      need: 'must',
    }),
    row.streetRow(textAt('street')),
    row.textRow('room', 'room', (f) => f.performances[0]?.place?.room ?? '', textAt('room')),
    row.textRow('refunds', 'refund terms', (f) => f.refunds, textAt('refund_terms'), {
      limit: 600,
      sources: [sources.refunds],
    }),
    ...ownWordsRows(),
    row.pictureRow('picture', 'should', pictureAt('banner')),
    row.stateRow('on sale', stateFor, stateAt('state', states)),
    {
      each: 'event',
      field: 'fee-absorbed',
      label: 'fee absorbed',
      kind: 'flag',
      from: (f) => ({ kind: 'flag', on: outletHere(f)?.fee?.mode === 'absorbed' }),
      ...flagAt('absorb_fee', true, false),
    },
    ...row.momentRows(
      { doors: 'doors_at', start: 'starts_at', end: 'ends_at' },
      (key) => utcAt(key, 'timezone'),
      'must',
    ),
    row.befellRow(wordAt('standing', { cancelled: 'called off', postponed: 'put off' }), ['cancelled', 'postponed']),
    row.countRow('performance', 'total', 'tickets in all', totalHere, countAt('total'), {
      sources: [sources.allocation],
    }),
    ...levelRows(),
    row.countRow('event', 'seats-left', 'tells seats left, from', (f) => f.showLeft, countAt('tells_left_from'), {
      sources: [sources.showLeft],
    }),
    {
      each: 'event',
      field: 'service-fee',
      label: 'our service fee',
      kind: 'price',
      from: ({ serviceFee: fee }) => fee && { kind: 'price', name: 'service fee', ...fee },
      ...priceAt('own_fee_as', 'own_fee', 'own_fee_currency'),
    },
    row.textRow('tax', 'tax in prices', (f) => (f.tax === 'unsaid' ? '' : f.tax), wordAt('tax', taxWords), {
      among: { words: Object.keys(taxWords), most: 1 },
    }),
    row.countRow(
      'event',
      'order-limit',
      'most in one order, of all levels',
      (f) => f.mostPerOrder ?? usualOrderLimit,
      countAt('order_limit'),
      {
        sources: [sources.orderLimit],
        usual: (f) => (f.mostPerOrder === null ? { code: 'order-limit-usual', n: usualOrderLimit } : null),
      },
    ),
    ...extraRows,
    ...couponRows,
    ...questionRows,
  ];
}

/** What its letter says in our words to who bought. */
function ownWordsRows(): KindRules['rows'] {
  const letter = (field: string, label: string, words: (f: Facts) => string, key: string): FieldRow => ({
    ...row.textRow(field, label, words, textAt(key), { limit: 1000 }),
    seenBy: 'holders',
  });
  return [
    letter('letter', 'its letter, in our words', (f) => f.letter.words, 'letter_words'),
    letter('letter-several', 'its letter where several are bought', (f) => f.letter.several, 'letter_words_several'),
  ];
}

/** What it shows of each price level. */
function levelRows(): KindRules['rows'] {
  return [
    {
      each: 'level',
      field: 'price',
      sources: [sources.price],
      label: 'price level',
      kind: 'price',
      need: 'must',
      from: (l) => ({ kind: 'price', name: l.name, minor: l.minor, currency: l.currency }),
      ...priceAt('name', 'face', 'currency'),
    },
    row.countRow('level', 'quantity', 'quantity', quantityHere, countAt('quantity'), {
      need: 'should',
      sources: [sources.allocation, sources.quantity],
    }),
    ...windowRows,
    row.countRow('level', 'most', 'most in one order', (l) => l.most, countAt('max_per_order'), {
      sources: [sources.most],
    }),
    {
      each: 'level',
      field: 'hidden',
      label: 'hidden',
      kind: 'flag',
      from: (l) => (l.hidden ? row.on : null),
      ...flagAt('hidden', true, false),
    },
    row.itemTextRow('level', 'code', 'code', (l) => l.code, textAt('access_code'), { sources: [sources.levelCode] }),
    row.itemTextRow('level', 'level-words', 'what the level is', (l) => l.words, textAt('about'), {
      limit: 300,
      sources: [sources.levelWords],
    }),
    row.countRow(
      'level',
      'least',
      'least in one order',
      (l) => (l.least > 1 ? l.least : null),
      countAt('min_per_order'),
      { sources: [sources.least] },
    ),
    row.countRow('level', 'admits', 'people per ticket', (l) => (l.admits > 1 ? l.admits : null), countAt('lets_in'), {
      sources: [sources.admits],
    }),
    row.itemTextRow(
      'level',
      'tax-rate',
      'tax rate, per cent',
      (l) => (l.taxBasisPoints === null ? '' : String(l.taxBasisPoints / 100)),
      textAt('tax_percent'),
    ),
    {
      each: 'level',
      field: 'choose',
      label: 'pay what you like, from the price on',
      kind: 'flag',
      from: (l) => (l.choose ? row.on : null),
      ...flagAt('open_price', true, false),
    },
    {
      each: 'level',
      field: 'covers',
      label: 'lets in to',
      kind: 'refs',
      from: (l, f) => (l.covers === null ? null : coversHere(l.covers, f.performances)),
      ...refsAt('admits_to'),
    },
  ];
}

/** What can be done there. */
function operations(): KindRules['operations'] {
  return [
    operation('place', 'Drafts the listing and opens its sale.', {
      undo: { how: 'in part', stays: 'The listing stays, closed.' },
      requests: 5,
    }),
    operation('amend', 'Changes the listing.'),
    operation('publish', 'Opens the sale again.', { leadsTo: ['public', 'unlisted'] }),
    operation('unpublish', 'Closes the sale. Tickets that were bought stay valid.'),
    operation(
      'reschedule',
      'Moves the dates and writes to everybody who bought, with your reason; their tickets stay valid.',
      {
        fields: ['start', 'end', 'doors'],
        needs: ['reason'],
        undo: { how: 'in part', stays: 'Who was written to stays written to.' },
        tells: 'buyers',
      },
    ),
    operation('cancel', 'Cancels for good, writes to everybody who bought and gives their money back.', {
      needs: ['reason', 'code'],
      undo: { how: 'never' },
      tells: 'buyers',
    }),
  ];
}

/** How it goes about it, in plain words. */
function habits(): KindRules['habits'] {
  return [
    'Title up to 70 characters, summary up to 130; the description keeps paragraphs, bold, italic and links only.',
    'Chooses the venue from its own register; one it does not know is entered there.',
    'Before a paid sale opens we ask whether the account can be paid out and its tax is settled; where not, nothing is placed.',
    'Sells extras, coupons and passes for several dates, and asks questions of buyers and of those who come along.',
    'A soft break within a paragraph begins a new one; pictures within the text are left out.',
    'Sells no more of a performance than its total in people, over all levels together; a ticket lets in as many as is said.',
    'Shows a service fee of our own as a line, and says tax and seats left where it is told to; its letter carries our words.',
    'A hidden level is bought by its code alone; an open price is the least that is taken.',
    'Sells nothing for a date that is called off or put off, and says so beside it; the others go on.',
    'Gives the ticket link that the other channels carry, so it goes first.',
    'After the first sale it locks start, end, zone, price, whom a ticket lets in and to what, and a quantity can only rise.',
    'Takes five requests a second; more are put off by the time it says.',
    'Knows a repeated request by its key and does it once.',
  ];
}

/**
 * Cancelled as a whole it is told to be cancelled; postponed as a whole its sale is closed, and nothing is cancelled.
 */
function stateFor({ performances, visibility }: Facts): ListedState {
  const left = performances.filter((performance) => performance.turn !== 'cancelled');
  if (performances.length > 0 && left.length === 0) return 'cancelled';
  if (left.length > 0 && left.every((performance) => performance.turn === 'postponed')) return 'closed';
  return visibility === 'unlisted' ? 'unlisted' : 'public';
}

const flattened = row.remembered((html) => writeHtml(flattenBlocks(markupOf(html))));

function simpleHtml(html: string) {
  const simple = flattened(html);
  return simple === '' ? null : { kind: 'rich' as const, html: simple };
}

/** What may be sold of a performance over all levels: the room's, but no more than this outlet was given. */
function totalHere({ id }: PerformanceFacts, { caps, outlets, here }: Facts) {
  return few(caps[id] ?? null, outletHere({ outlets, here })?.allocation ?? null);
}

/** The performances of this listing that a pass lets in to, or any so many of them. */
function coversHere({ refs, any, words }: LevelCovers, performances: readonly PerformanceFacts[]) {
  const here = new Set(performances.map((performance) => performance.id));
  const own = refs.filter((ref) => here.has(ref));
  return own.length < 2 ? null : { kind: 'refs' as const, refs: own, any, words };
}

/** As many as the level offers, but no more than the seats given to this outlet hold. */
function quantityHere({ quantity, admits }: LevelFacts, { outlets, here }: Facts) {
  const given = outletHere({ outlets, here })?.allocation ?? null;
  return few(quantity, given === null ? null : Math.floor(given / admits));
}

/** The lesser of two bounds; `null`: neither, or nothing is left. */
function few(a: number | null, b: number | null): number | null {
  const n = Math.min(a ?? Infinity, b ?? Infinity);
  return n === Infinity || n < 1 ? null : n;
}

/** The outlet that this channel is. */
function outletHere({ outlets, here }: Pick<Facts, 'outlets' | 'here'>) {
  return outlets.find((outlet) => outlet.channel === here);
}

/** The teaser, or the line where that is too long. */
function summary({ teaser, line }: Facts): string {
  return teaser.length > 130 && line !== '' ? line : teaser || line;
}

function venueWords(
  place: { venue: string; town: string; channelIds: Readonly<Record<string, string>> } | null | undefined,
  here: string,
) {
  // The register there may know the venue by another name.
  const known = place?.channelIds[here];
  if (known) return text(known);
  return place ? text(place.town === '' ? place.venue : `${place.venue}, ${place.town}`) : null;
}
