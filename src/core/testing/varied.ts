import fc from 'fast-check';
import {
  artistSchema,
  organiserSchema,
  venueSchema,
  type Artist,
  type Organiser,
  type Venue,
} from '../record/directory';
import { newEntry, newNotice } from '../record/new-record';
import { turns, typedStages } from '../record/choices';
import type { RecordContent } from '../record/record';
import { registrationSchema } from '../record/ticket-schema';
import { fingerprint, stableText } from '../base/hash';
import { record, words } from './any-record';
import { yard } from './samples';

/*
 * Records of every sort, the same ones each time, to hold what is told of them against what was told before: a line of
 * code that does something else than it did is seen, whatever it is about. What is meant to change is written anew with
 * `jest -u`, and read before it is kept.
 */

/** Venues with what a record may ask of one: rooms, set-ups with holds, another zone and money, a foreign code. */
export const manyVenues: ReadonlyMap<string, Venue> = new Map(
  [
    {
      ...yard,
      channelIds: { pennyseat: 'TYVAT' },
      rooms: yard.rooms.map((room) =>
        room.id === 'vat'
          ? {
              ...room,
              setUps: [
                { id: 'seated', name: 'seated', capacity: 300, holds: [{ id: 'h1', name: 'press', seats: 8 }] },
                { id: 'standing', name: 'standing', capacity: 850, holds: [] },
              ],
            }
          : room,
      ),
    },
    venueSchema.parse({
      id: 'v2',
      name: 'Cedar Hall',
      address: '1 Cedar Street',
      town: 'Vancouver',
      country: 'Canada',
      zone: 'America/Vancouver',
      point: { lat: 49.28, lon: -123.12 },
      rooms: [{ id: 'main', name: 'Main', capacity: 90 }],
    }),
  ].map((venue) => [venue.id, venueSchema.parse(venue)]),
);

/** Who puts things on. */
export const manyOrganisers: ReadonlyMap<string, Organiser> = new Map(
  [
    {
      id: 'g1',
      name: 'Wet Sundays',
      site: 'https://sundays.example',
      phone: '01 555 0199',
      mail: 'us@sundays.example',
      boilerplate: 'Silent films, loud weather.',
      shown: ['site', 'phone'],
    },
    { id: 'g2', name: 'The Reed Room' },
  ].map((organiser) => [organiser.id, organiserSchema.parse(organiser)]),
);

/** Acts who say much of themselves, little, and nothing. */
export const manyArtists: ReadonlyMap<string, Artist> = new Map(
  [
    { id: 'a1', name: 'Odalys Quarry', words: 'Plays the harp. Slowly.', links: ['https://quarry.example'] },
    { id: 'a2', name: 'Tin Meridian', site: 'https://meridian.example' },
    { id: 'a3', name: 'Reed Count' },
  ].map((artist) => [artist.id, artistSchema.parse(artist)]),
);

const said = fc.constantFrom(
  '',
  'Doors 7pm, music from 7.30 pm.',
  'On {{ date }} at {{ start }}, from {{ price }}.',
  'Sunday 14 March, tickets £18 (£15 concessions).',
  'Moved from the Wick Room to the Vat; was €20, now €22.',
  'Two acts. Three sets! And a song? {{ lineup }} play {{ no such }}.',
  'Next Friday, doors half past six, sold out but for 12 seats.',
  'See 14–16 March 2027 or write to us; free entry for members.',
);
const full = fc.constantFrom(
  '<p>One sentence. And another one.</p>',
  '<h2>What</h2><p>A <strong>bold</strong> and <em>slow</em> evening with <a href="https://a.example">a link</a>.</p>',
  '<ul><li>harp</li><li>tape</li></ul><p>Line<br>break</p><ol><li>one</li></ol>',
  '<p>Tickets from €18, doors 19:00, {{ title }} on {{ date }}.</p><p></p>',
);

const more = fc.record({
  stage: fc.constantFrom(...typedStages, 'confirmed' as const, 'confirmed' as const),
  visibility: fc.constantFrom('public' as const, 'public' as const, 'unlisted' as const, 'private' as const),
  announce: fc.option(fc.constantFrom('2027-02-01', '2027-02-02', '2027-02-20'), { freq: 3 }),
  eventType: fc.constantFrom('concert', 'film', 'talk', 'workshop', 'family', 'reading', 'meeting', 'class'),
  categories: fc.uniqueArray(fc.constantFrom('film', 'reading', 'family'), { maxLength: 2 }),
  organiserId: fc.option(fc.constantFrom('g1', 'g2')),
  abroad: fc.boolean(),
  setUpId: fc.option(fc.constantFrom('seated', 'standing')),
  online: fc.option(
    fc.constantFrom({ keep: null, join: null }, { keep: 'https://on.example', join: 'https://in.example' }),
  ),
  registration: fc
    .record({
      limit: fc.option(fc.integer({ min: 1, max: 40 })),
      contact: fc.constantFrom('', 'write to bench@yard.example'),
      closes: fc.option(fc.constantFrom('2027-01-20', '2027-03-01')),
      approval: fc.boolean(),
      waitingList: fc.boolean(),
      onceForAll: fc.boolean(),
      yes: fc.constantFrom('', 'See you there.'),
    })
    .map((part) => registrationSchema.parse(part)),
  pools: fc.constantFrom<RecordContent['tickets']['pools']>([], [{ id: 'q1', name: 'gallery', seats: 40 }]),
  refunds: fc.constantFrom('', 'Until three days before.'),
  closesWhy: fc.constantFrom('', 'the kitchen counts heads'),
  teaser: said,
  line: said,
  short: said,
  full,
  access: fc.constantFrom('', 'Step-free, induction loop.'),
  age: fc.constantFrom('', '16+', 'from 6 years'),
  turn: fc.constantFrom(...turns, 'none' as const, 'none' as const),
  notices: fc.array(
    fc.record({
      channel: fc.constantFrom('hearthside-posts', 'murmurline', 'postbag'),
      words: said,
      at: fc.option(fc.constantFrom('2027-02-03', '2027-03-01')),
      pin: fc.boolean(),
    }),
    { maxLength: 3 },
  ),
  act: fc.option(fc.constantFrom('a1', 'a2', 'a3'), { freq: 5 }),
  over: fc.option(fc.record({ channel: fc.constantFrom('lectern', 'gatefold', 'hearthside'), words })),
});

/** Anything that a record may be, with what few records say beside. */
const variedRecord: fc.Arbitrary<RecordContent> = fc.tuple(record, more).map(([content, part]): RecordContent => ({
  ...content,
  stage: part.stage,
  eventType: part.eventType,
  categories: part.categories,
  organiserId: part.organiserId,
  online: part.online,
  publicity: {
    visibility: part.visibility,
    announce: part.announce === null ? null : { date: part.announce, time: '10:00', zone: 'Europe/Dublin' },
  },
  performances: content.performances.map((performance, i) => ({
    ...performance,
    turn: i === 0 ? part.turn : performance.turn,
    setUpId: part.abroad ? null : part.setUpId,
    ...(part.abroad ? { venueId: 'v2', roomId: 'main', zone: 'America/Vancouver' } : {}),
  })),
  tickets: {
    ...content.tickets,
    registration: part.registration,
    pools: part.pools,
    levels: content.tickets.levels.map((level, i) => ({
      ...level,
      poolId: i === 0 ? (part.pools[0]?.id ?? null) : null,
      code: level.buyers === 'anyone' ? '' : `CODE${i}`,
    })),
    refunds: part.refunds,
    closesWhy: part.closesWhy,
  },
  words: {
    ...content.words,
    teaser: part.teaser,
    line: part.line,
    short: part.short,
    full: part.full,
    access: part.access,
    age: part.age,
  },
  lineUp: [
    ...content.lineUp,
    ...(part.act === null
      ? []
      : [newEntry('act', 'Odalys Quarry', 'headliner', { artistId: part.act, setTime: '20:30' })]),
  ],
  notices: part.notices.map((notice, i) => ({
    ...newNotice(`n${i}`, notice.channel),
    words: notice.words,
    pin: notice.pin,
    notBefore: notice.at === null ? null : { date: notice.at, time: '12:00', zone: 'Europe/Dublin' },
  })),
  overrides:
    part.over === null
      ? []
      : [{ channel: part.over.channel, field: 'title', value: part.over.words, from: content.title }],
}));

/** So many such records, the same ones each time. */
export function variedRecords(count: number): RecordContent[] {
  return fc.sample(variedRecord, { seed: 20270314, numRuns: count });
}

/** What is told in no more characters than this stands whole, for the first few. */
const short = 1200;
const whole = 4;

/** A line for each item: what is short, of the first few, as it is told; of the others a fingerprint. */
export function told<T>(items: readonly T[], tell: (item: T, i: number) => unknown): string[] {
  return items.map((item, i) => {
    const all = tell(item, i) ?? null;
    const text = stableText(all);
    return i < whole && text.length <= short ? text : `${i} ${fingerprint(all)}`;
  });
}
