import fc from 'fast-check';
import { facts } from '@/core/facts/facts';
import { newEntry, newLevel, newNotice, newOutlet, newTickets, newWords } from '@/core/record/new-record';
import { proof } from '@/core/listing/proof';
import type { RecordContent } from '@/core/record/record';
import { performance, sample, venues, yard } from '@/core/testing/samples';
import { registrationSchema } from '@/core/record/ticket-schema';
import { writeEventsCsv } from '@/core/formats/write-csv';
import { writeEventsIcs } from '@/core/formats/write-ics';
import { channelById, surveyOf } from './testing/fixture';

const now = Date.parse('2027-02-02T10:20Z');
const survey = (part: Partial<RecordContent>, at = now, sold = new Map<string, Map<string, number>>()) =>
  surveyOf({ content: sample(part), sold, now: at });
const stops = (part: Partial<RecordContent>, channel: string) =>
  (survey(part).listings.find((listing) => listing.channel === channel)?.findings ?? [])
    .filter((finding) => finding.weight === 'stops')
    .map((finding) => finding.code);
const price = (part: Partial<RecordContent>, at = now, sold?: Map<string, Map<string, number>>) => {
  const shown = survey(part, at, sold).listings.find((listing) => listing.channel === 'lectern')?.proof.price;
  return shown?.kind === 'text' ? shown.text : null;
};

describe('the address where one joins', () => {
  const join = 'https://room.example/j/88?pwd=Xy';
  const online = { keep: 'https://room.example/keep', join };
  /** Every field of a record in which a person may type or paste an address. */
  const leaks: Record<string, (text: string) => Partial<RecordContent>> = {
    title: (text) => ({ title: text }),
    subtitle: (text) => ({ subtitle: text }),
    teaser: (text) => ({ words: newWords({ teaser: text }) }),
    line: (text) => ({ words: newWords({ line: text }) }),
    short: (text) => ({ words: newWords({ short: text }) }),
    full: (text) => ({ words: newWords({ full: `<p><a href="${text.replaceAll('&', '&amp;')}">join</a></p>` }) }),
    'full, bare': (text) => ({ words: newWords({ full: `<p>${text}</p>` }) }),
    access: (text) => ({ words: newWords({ teaser: 'x', access: text }) }),
    age: (text) => ({ words: newWords({ teaser: 'x', age: text }) }),
    note: (text) => ({ performances: [performance('p', '2027-03-14', { note: text })] }),
    'also on': (text) => ({
      words: newWords({ teaser: 'With {{ line_up }}' }),
      performances: [performance('p', '2027-03-14', { lineUpExtra: text })],
    }),
    'own link': (text) => ({ performances: [performance('p', '2027-03-14', { link: text })] }),
    'line-up': (text) => ({ lineUp: [newEntry('a', text)] }),
    tags: (text) => ({ tags: [text.replace(/^https?:../, '').slice(0, 40)] }),
    keep: (text) => ({ online: { keep: text, join } }),
    'ticket link': (text) => ({ tickets: newTickets({ mode: 'elsewhere', link: text }) }),
    'registration page': (text) => ({ tickets: newTickets({ mode: 'registration', link: text }) }),
    contact: (text) => ({
      tickets: newTickets({ mode: 'registration', registration: registrationSchema.parse({ contact: text }) }),
    }),
    outlet: (text) => ({
      tickets: newTickets({ levels: [newLevel('s', 's', 1)], outlets: [newOutlet('o', 'Box', { link: text })] }),
    }),
    level: (text) => ({ tickets: newTickets({ levels: [newLevel('s', text, 1)] }) }),
    'by hand': (text) => ({ overrides: [{ channel: 'lectern', field: 'title', value: text, from: '' }] }),
    post: (text) => ({ notices: [newNotice('n', 'hearthside-posts', { words: text })] }),
  };
  test('stands nowhere by itself: in no field of no channel, no table, no calendar', () => {
    const made = survey({ online, performances: [performance('p', '2027-03-14', { venueId: null, roomId: null })] });
    expect(JSON.stringify(made.listings.map((listing) => [listing.proof, listing.wanted]))).not.toContain('/j/88');
    expect(made.listings.find((listing) => listing.channel === 'lectern')?.proof.online).toEqual({
      kind: 'url',
      href: online.keep,
    });
    const written = {
      code: 'X',
      writtenFrom: 'h/r',
      content: sample({ online }),
      facts: facts(sample({ online }), { code: 'X', venues, now }),
      revision: 1,
      savedAt: now,
      page: null,
    };
    expect(
      [writeEventsCsv([written]), writeEventsIcs([written], { name: 'S', now, domain: 'x' })].join('\n'),
    ).not.toContain('/j/88');
  });
  test('typed into any field that some channel shows, it stops there', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...Object.keys(leaks)),
        fc.constantFrom(join, join.toUpperCase().replace('HTTPS', 'https'), `${join}/`, join.replace('https', 'http')),
        (field, text) => {
          const made = survey({ online, ...leaks[field]?.(text) });
          for (const { channel, proof: shown, findings } of made.listings) {
            const there = JSON.stringify(shown)
              .toLowerCase()
              .replaceAll('&amp;', '&')
              .includes('room.example/j/88?pwd=xy');
            expect([
              field,
              channel,
              there && !findings.some((finding) => finding.code === 'join-public' && finding.weight === 'stops'),
            ]).toEqual([field, channel, false]);
          }
          expect([
            field,
            made.listings.some((listing) => listing.findings.some((finding) => finding.code === 'join-public')),
          ]).toEqual([field, true]);
        },
      ),
      { numRuns: 300 },
    );
  });
});

describe('free with registration', () => {
  const open = (part: object, more: Partial<Parameters<typeof newTickets>[0]> = {}) => ({
    tickets: newTickets({ mode: 'registration' as const, ...more, registration: registrationSchema.parse(part) }),
  });
  test.each<[string, Partial<RecordContent>, boolean]>([
    ['nowhere to register', open({}), true],
    ['a page', open({}, { link: 'https://r.example/' }), false],
    ['a word how', open({ contact: 'call 555 0142' }), false],
    ['blanks are no word', open({ contact: '   ' }), true],
  ])('%s', (_, part, stopped) => {
    for (const channel of ['lectern', 'hearthside'])
      expect(stops(part, channel).includes('registration-nowhere')).toBe(stopped);
  });
  const counted = (n: number) => new Map([['p1', new Map([['registration', n]])]]);
  test.each<[object, number, string, string]>([
    [{ contact: 'call 555 0142' }, 0, '2027-02-02', 'free, with registration (call 555 0142)'],
    [{ limit: 24 }, 0, '2027-02-02', 'free, with registration, 24 places'],
    [{ limit: 24 }, 21, '2027-02-02', 'free, with registration, 3 of 24 places left'],
    [
      { limit: 24, waitingList: true, closes: '2027-03-05' },
      21,
      '2027-02-02',
      'free, with registration by Fri 5 Mar, 3 of 24 places left, then a waiting list',
    ],
    [{ limit: 24, waitingList: true }, 24, '2027-02-02', 'free, with registration, full: waiting list'],
    [{ limit: 24 }, 30, '2027-02-02', 'free, with registration, full'],
    [
      { limit: 24, closes: '2027-03-05' },
      3,
      '2027-03-05',
      'free, with registration by Fri 5 Mar, 21 of 24 places left',
    ],
    [{ limit: 24, closes: '2027-03-05' }, 3, '2027-03-06', 'free, registration has closed'],
  ])('%j, %i registered, on %s: %s', (part, n, day, words) =>
    expect(price(open(part, { link: 'https://r.example/' }), Date.parse(`${day}T12:00Z`), counted(n))).toBe(words),
  );
});

describe('one cap over all levels', () => {
  const levels = [
    newLevel('a', 'Full', 2000, { quantity: 50 }),
    newLevel('b', 'Reduced', 1500, { quantity: 50, buyers: 'concession' }),
  ];
  const small = new Map([
    [yard.id, { ...yard, rooms: yard.rooms.map((room) => ({ ...room, capacity: 50, setUps: [] })) }],
  ]);
  const content = (part: Partial<RecordContent> = {}) =>
    sample({ tickets: newTickets({ levels, holds: [] }), ...part });
  const shown = (part: Partial<RecordContent> = {}) =>
    proof(channelById('gatefold').rules, facts(content(part), { code: 'X', venues: small, now }), ['p1'], now);
  test('the room is the total, however many each level has; an allocation is less; what is held back is not in it', () => {
    expect(shown().shown['total@p1']).toEqual({ kind: 'count', n: 50 });
    expect(
      shown({
        tickets: newTickets({ levels, outlets: [newOutlet('g', 'Gatefold', { channel: 'gatefold', allocation: 30 })] }),
      }).shown['total@p1'],
    ).toEqual({ kind: 'count', n: 30 });
    expect(
      shown({ tickets: newTickets({ levels, holds: [{ id: 'h', name: 'house', seats: 6 }] }) }).shown['total@p1'],
    ).toEqual({ kind: 'count', n: 44 });
  });
  test('parts of the house that are more than the house stop', () => {
    expect(
      stops(
        {
          tickets: newTickets({
            levels: [newLevel('s', 's', 1)],
            pools: [
              { id: 'q', name: 'Stalls', seats: 300 },
              { id: 'w', name: 'Balcony', seats: 300 },
            ],
          }),
        },
        'gatefold',
      ),
    ).toContain('parts-over');
  });
});

test('what a public line says follows the clock and the record: tokens in a note, in access notes, of the sale', () => {
  const opens = { kind: 'at' as const, date: '2027-02-12', time: '10:00' };
  const part = {
    tickets: newTickets({ levels: [newLevel('s', 'Standard', 2200, { opens })] }),
    words: newWords({ teaser: 'Now {{ sale }}', access: 'Lift to the {{ room }}' }),
    performances: [performance('p1', '2027-03-14', { note: 'in the {{ room }} on {{ weekday }}' })],
  };
  const said = (at: string, room = yard.rooms[0]?.id ?? null) => {
    const { proof: shown } = survey(
      { ...part, performances: part.performances.map((performance) => ({ ...performance, roomId: room })) },
      Date.parse(at),
    ).listings.find((listing) => listing.channel === 'lectern') ?? { proof: {} as Record<string, undefined> };
    return [shown.teaser, shown['good-to-know'], shown['note@p1'], shown.price].map((item) =>
      item?.kind === 'text' ? item.text : null,
    );
  };
  expect(said('2027-02-02T10:20Z')).toEqual([
    'Now on sale Fri 12 Feb 10:00',
    'Lift to the The Vat',
    'in the The Vat on Sunday',
    '€22, on sale Fri 12 Feb 10:00',
  ]);
  expect(said('2027-02-12T10:00Z', yard.rooms[1]?.id)).toEqual([
    'Now on sale now',
    'Lift to the Wick Room',
    'in the Wick Room on Sunday',
    '€22',
  ]);
});
