import { z } from 'zod';
import { organiserSchema } from '@/core/record/directory';
import { recordSchema, afterSchema, type RecordContent } from '@/core/record/record';
import { newEntry, newLevel, newNotice, newOutlet, newPicture, newTickets, newWords } from '@/core/record/new-record';
import { registrationSchema } from '@/core/record/ticket-schema';
import { stableText } from '@/core/base/hash';
import { writeEventsCsv } from '@/core/formats/write-csv';
import { writeEventsIcs } from '@/core/formats/write-ics';
import { codedVenues, performance, sample } from '@/core/testing/samples';
import { plainRow } from './channels';
import { kinds } from './kinds-rules';
import { inputOf, morning } from './testing/fixture';
import { surveyRecord } from './survey';
import { bare, defOf, leaves, type Schema } from '@/core/testing/schema-walk';

/*
 * Nothing in vain: every path of the record's schema is walked, and a value there must change what some channel shows,
 * what is told of it, or what a table or a calendar says.
 */

type Step = string | number;

/** All values of a content at a path of the schema, with where each stands. */
function placesOf(value: unknown, steps: readonly string[], at: Step[] = []): Step[][] {
  const [step, ...rest] = steps;
  if (step === undefined) return [at];
  if (value === null || typeof value !== 'object') return [];
  if (step === '*') return (value as unknown[]).flatMap((item, i) => placesOf(item, rest, [...at, i]));
  if (step === '?') return Object.keys(value).flatMap((key) => placesOf((value as never)[key], rest, [...at, key]));
  return step in value ? placesOf((value as never)[step], rest, [...at, step]) : [];
}

const valueAt = (value: unknown, steps: readonly Step[]): unknown =>
  steps.reduce((inner, step) => (inner as never)[step], value);
function put(value: unknown, [step, ...rest]: readonly Step[], next: unknown): unknown {
  if (step === undefined) return next;
  if (Array.isArray(value)) return value.map((item: unknown, i) => (i === step ? put(item, rest, next) : item));
  return { ...(value as object), [step]: put((value as Record<string, unknown>)[step], rest, next) };
}

/** Other values that the schema takes in place of one. */
function others(schema: Schema, now: unknown): unknown[] {
  const def = defOf(bare(schema));
  const tried =
    def.type === 'enum'
      ? Object.values(def.entries as Record<string, string>)
      : def.type === 'boolean'
        ? [now !== true]
        : [
            ...(typeof now === 'number' ? [now + 1, now * 2 + 3, now / 2, 0.95] : [7, 0.25]),
            ...(typeof now === 'string' ? [`${now} more`, `${now}Z`] : []),
            '18:10',
            '00:05',
            '2027-03-19',
            '2027-01-05',
            'https://elsewhere.example/x',
            'Asia/Tokyo',
            'hearthside',
            'cd'.repeat(32),
            'Something else',
            null,
          ];
  return tried.filter(
    (value) => stableText(value ?? null) !== stableText(now ?? null) && z.safeParse(schema as never, value).success,
  );
}

const organisers = new Map(
  ['o1', 'o2'].map((id) => [
    id,
    organiserSchema.parse({ id, name: `House ${id}`, shown: ['site'], site: 'https://yard.example' }),
  ]),
);

const rooms = new Map(
  [...codedVenues].map(([id, venue]) => [
    id,
    {
      ...venue,
      rooms: venue.rooms.map((room) =>
        room.id === 'vat' ? { ...room, setUps: [{ id: 'seated', name: 'seated', capacity: 300, holds: [] }] } : room,
      ),
    },
  ]),
);

/** Everything that is told of a content to anybody: on each kind of channel, and in a table and a calendar. */
function told(content: RecordContent): string {
  const channels = kinds.map((kind) =>
    plainRow(kind.id, kind.id === 'postbag' ? { settings: { segment: 'everyone' } } : {}),
  );
  const survey = surveyRecord(inputOf({ content, channels, venues: rooms, organisers }));
  const written = {
    writtenFrom: 'h/r',
    code: 'TY-0001',
    content,
    facts: survey.facts,
    revision: 1,
    savedAt: 0,
    page: null,
    attached: [],
  };
  return stableText([
    survey.listings.map(({ channel, part, down, proof, findings }) => [channel, part, down, proof, findings]),
    writeEventsCsv([written]),
    writeEventsIcs([written], { name: 'x', now: morning, domain: 'h.nuntiax' }),
  ] as never);
}

const soon = { date: '2027-02-20', time: '10:00', zone: 'Europe/Dublin' };
const rich: RecordContent = {
  ...sample({
    shortTitle: 'Quarry',
    organiserId: 'o1',
    tags: ['harp'],
    hashtags: ['HarpNight'],
    performances: [
      performance('p1', '2027-03-14', {
        note: 'relaxed',
        link: 'https://one.example/t',
        lineUpExtra: 'a guest',
        lineUpOut: ['b'],
        endsNextDay: false,
      }),
      performance('p2', '2027-03-15'),
      performance('p3', '2027-03-16', { turn: 'cancelled' }),
    ],
    lineUp: [
      newEntry('a', 'Odalys Quarry', 'headliner', { setTime: '20:30' }),
      newEntry('b', 'Tin Meridian', 'support'),
    ],
    online: { keep: 'https://keep.example/', join: 'https://room.example/j' },
    video: 'https://film.example/1',
  }),
  tickets: newTickets({
    levels: [
      newLevel('s', 'Standard', 2200, {
        quantity: 60,
        words: 'stalls',
        least: 1,
        most: 6,
        opens: { kind: 'at', date: '2027-02-10', time: '10:00' },
        closes: { kind: 'before', amount: 2, unit: 'hours' },
        poolId: 'g',
      }),
      newLevel('c', 'Friends', 1200, {
        buyers: 'members',
        code: 'LAMP',
        covers: { kind: 'chosen', ids: ['p1', 'p2'] },
      }),
      newLevel('y', 'Any two', 3000, { covers: { kind: 'any', n: 2 }, admits: 2 }),
    ],
    pools: [{ id: 'g', name: 'Gallery', seats: 80 }],
    holds: [{ id: 'h', name: 'House', seats: 6 }],
    outlets: [
      newOutlet('og', 'Gatefold', {
        channel: 'gatefold',
        allocation: 200,
        fee: { mode: 'added', basisPoints: 450, fixed: 60, cap: 900 },
      }),
      newOutlet('op', 'Pennyseat', { channel: 'pennyseat', allocation: 30 }),
      newOutlet('od', 'Door', { link: 'https://door.example/', allocation: 20 }),
    ],
    total: 300,
    mostPerOrder: 6,
    closes: { kind: 'at', date: '2027-03-13', time: '12:00' },
    closesWhy: 'the supper',
    extras: [{ id: 'e', name: 'Supper', price: 1400, quantity: 40, words: 'chowder' }],
    coupons: [
      {
        id: 'k',
        code: 'TENOFF',
        off: { kind: 'percent', percent: 10 },
        uses: 20,
        from: '2027-02-10',
        until: '2027-03-01',
        levels: ['s'],
      },
      { id: 'k2', code: 'LESS', off: { kind: 'amount', minor: 200 }, uses: null, from: null, until: null, levels: [] },
    ],
    membersProof: 'with the card',
    tax: 'included',
    showLeft: 20,
    refunds: 'Until noon',
    questions: [
      { id: 'q', ask: 'Which?', answer: 'one of', choices: ['soup', 'stew'], needed: true, of: 'buyer', consent: '' },
      { id: 'q2', ask: 'May we?', answer: 'consent', choices: [], needed: false, of: 'buyer', consent: 'I agree' },
    ],
  }),
  words: newWords({
    line: 'A line',
    teaser: 'A teaser.',
    short: 'Short words.',
    full: '<p>Full words.</p>',
    access: 'Step-free',
    age: '14 and over',
    drafted: ['line'],
  }),
  publicity: { visibility: 'public', announce: null },
  pictures: [
    newPicture({ id: '12'.repeat(32), width: 3000, height: 2000 }, { alt: 'The night', credit: 'them' }),
    newPicture(
      { id: 'ab'.repeat(32), width: 3000, height: 2000 },
      { alt: 'A harp', credit: 'us', keep: { x0: 0.2, y0: 0.2, x1: 0.6, y1: 0.6 } },
    ),
  ],
  links: [
    {
      id: 'l',
      use: 'more',
      label: 'Read on',
      to: { kind: 'address', href: 'https://more.example/' },
      newWindow: false,
    },
    { id: 'l2', use: 'more', label: '', to: { kind: 'page', channel: 'hearthside' }, newWindow: false },
  ],
  leadsAway: null,
  linkChoices: [
    {
      id: 'lc',
      channel: 'hearthside',
      noticeId: null,
      to: { kind: 'address', href: 'https://chosen.example/' },
      reason: 'because',
    },
  ],
  documents: [
    {
      id: 'd',
      fileId: 'ef'.repeat(32),
      name: 'plan.pdf',
      type: 'application/pdf',
      bytes: 9,
      title: 'Plan',
      who: 'anyone',
      from: null,
    },
  ],
  categories: ['family'],
  programme: [
    {
      id: 'i',
      start: '20:00',
      end: '20:40',
      title: 'First half',
      names: 'Odalys',
      role: 'speaker',
      room: 'Stage',
      performanceId: 'p1',
    },
  ],
  after: afterSchema.parse({
    recording: { href: 'https://rec.example/', shown: true },
    pictures: { ids: ['12'.repeat(32)], shown: true },
    setList: { text: 'One; two', shown: true },
  }),
  toFollow: { price: 'price to come' },
  overrides: [{ channel: 'lectern', field: 'title', value: 'By hand', from: 'Odalys Quarry' }],
  notices: [
    newNotice('n', 'hearthside-posts', { words: 'Come along', pin: true, notBefore: soon }),
    newNotice('m', 'postbag', { words: 'Dear all', subject: 'A letter', segment: 'members' }),
  ],
};
const registering: RecordContent = {
  ...rich,
  eventType: 'online session',
  performances: [performance('p1', '2027-03-14')],
  tickets: {
    ...newTickets({ mode: 'registration', link: 'https://register.example/', questions: rich.tickets.questions }),
    registration: registrationSchema.parse({
      limit: 40,
      contact: 'call us',
      closes: '2027-03-10',
      approval: true,
      waitingList: true,
      yes: 'Yes.',
      no: 'No.',
      waiting: 'Wait.',
    }),
  },
};
const contacting: RecordContent = {
  ...registering,
  online: null,
  performances: [performance('p1', '2027-03-14'), performance('p2', '2027-03-15')],
  tickets: { ...registering.tickets, link: null },
};
const elsewhere: RecordContent = {
  ...rich,
  tickets: newTickets({ mode: 'elsewhere', link: 'https://other.example/' }),
};
const announced: RecordContent = {
  ...rich,
  publicity: { visibility: 'public', announce: soon },
  audience: { who: 'group', name: 'Friends' },
  documents: rich.documents.map((item) => ({
    ...item,
    from: { date: '2027-02-02', time: '10:25', zone: 'Europe/Dublin' },
  })),
};
/** One evening of a long title with little said, left to some channels alone; priced by levels that end otherwise. */
const plain: RecordContent = {
  ...rich,
  title:
    'The very long evening of harps, tape machines and everything else that the yard has in its cellar and its loft',
  performances: [
    performance('p1', '2027-10-31', { doors: null, start: '01:30', end: null, repeat: 'first', setUpId: 'seated' }),
  ],
  words: { ...rich.words, full: '' },
  leadsAway: 'l',
  links: rich.links.slice(0, 1),
  linkChoices: [
    { id: 'lc', channel: 'hearthside', noticeId: null, to: { kind: 'page', channel: 'lectern' }, reason: '' },
  ],
  tickets: {
    ...rich.tickets,
    total: null,
    levels: [
      newLevel('s', 'Standard', 2200, {
        poolId: 'g',
        opens: { kind: 'before', amount: 20, unit: 'days' },
        closes: { kind: 'at', date: '2027-10-30', time: '12:00' },
      }),
      newLevel('w', 'All of it', 1800),
      newLevel('c', 'Friends', 1200, { buyers: 'members', code: 'LAMP' }),
    ],
    coupons: [],
    outlets: [],
    closes: { kind: 'before', amount: 1, unit: 'days' },
  },
};
const low: RecordContent = {
  ...plain,
  tickets: { ...plain.tickets, total: 12, showLeft: 20, levels: [newLevel('w', 'All of it', 1800)] },
};
/** Which channels are not to have it, or otherwise. */
const choosy: RecordContent = {
  ...rich,
  performances: ['2027-03-16', '2027-03-23', '2027-03-30'].map((date, i) => performance(`p${i}`, date)),
  leftOff: ['fernway'],
  unlistedOn: ['lectern'],
  draftOn: ['gatefold'],
  oneLineOn: ['lectern'],
  carried: ['dates'],
};
const bases = [rich, registering, contacting, elsewhere, announced, plain, low, choosy];

/** What no channel and no file of others says, and why. */
const elsewhereFelt: Record<string, string> = {
  tourId: 'what a tour shares comes into its dates as revisions of their own',
  rule: 'how the dates were made: each is told by itself',
  'online.join': 'for those who hold a place alone: in public it stands nowhere',
  'lineUp.*.artistId': 'names the entry of the directory that profiles are asked for',
  'tickets.pools.*.name': 'names the part beside the sums',
  'tickets.holds.*.id': 'only names the hold',
  'tickets.holds.*.name': 'names the hold beside the sums',
  'tickets.outlets.*.id': 'only names the outlet to its counts',
  'tickets.outlets.*.fee.basisPoints': 'reckoned in the sums: what a buyer pays and what is left of it',
  'tickets.outlets.*.fee.fixed': 'reckoned in the sums: what a buyer pays and what is left of it',
  'tickets.outlets.*.fee.cap': 'reckoned in the sums: what a buyer pays and what is left of it',
  'tickets.closesWhy': 'for ourselves',
  'linkChoices.*.id': 'only names the choice',
  'linkChoices.*.reason': 'for ourselves',
  'documents.*.type': 'said by the file itself',
  'documents.*.bytes': 'said by the file itself',
  'radius.km': 'told as a clash',
  'radius.days': 'told as a clash',
  copiedFrom: 'for ourselves',
  'notices.*.holders': 'decides whether those who bought count as told once it is out',
  'notices.*.turn': 'decides what is taken out when the event takes place after all',
  'performances.*.was.date': 'where a turn is taken back to',
  'performances.*.was.start': 'where a turn is taken back to',
  'performances.*.was.venueId': 'where a turn is taken back to',
  'performances.*.was.roomId': 'where a turn is taken back to',
};

test('every field of a record reaches a channel, a finding or a file', () => {
  const before = new Map(bases.map((base) => [base, told(base)]));
  const silent = leaves(recordSchema).filter(({ path, schema }) => {
    const steps = path === '' ? [] : path.split('.');
    return !bases.some((base) =>
      placesOf(base, steps).some((at) =>
        others(schema, valueAt(base, at)).some(
          (next) => told(put(base, at, next) as RecordContent) !== before.get(base),
        ),
      ),
    );
  });
  expect(silent.map((leaf) => leaf.path).sort()).toEqual(Object.keys(elsewhereFelt).sort());
});
