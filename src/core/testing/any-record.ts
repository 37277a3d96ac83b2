import fc from 'fast-check';
import { newEntry, newLevel, newOutlet, newPerformance, newPicture, newTickets, newWords } from '../record/new-record';
import { afterSchema, type Audience, type Performance, type RecordContent, type Target } from '../record/record';
import { followable, linkUses, precisions, seers, turns } from '../record/choices';
import type { Covers, WindowEnd } from '../record/ticket-schema';
import { answers, asked, buyers, ticketModes } from '../record/choices';
import { addDays } from '../base/zones';
import { sample } from './samples';

const word = fc.constantFrom('harp', 'Ánna', '夜', 'night 🎻', 'Q & A', 'a "b"', 'ליל', 'x');
/** A few words, in scripts of several directions. */
export const words = fc.array(word, { minLength: 1, maxLength: 6 }).map((list) => list.join(' '));
/** A day within two and a half years of the scenario. */
export const date = fc.integer({ min: 0, max: 900 }).map((n) => addDays('2027-01-01', n));
/** A time of day that exists in every zone on every day. */
export const time = fc
  .tuple(fc.integer({ min: 12, max: 23 }), fc.constantFrom('00', '15', '30', '59'))
  .map(([h, m]) => `${h}:${m}`);
/** A zone among those with half hours, without changes, and with new ones. */
export const zone = fc.constantFrom(
  'Europe/Dublin',
  'America/St_Johns',
  'Australia/Adelaide',
  'Asia/Kolkata',
  'America/Vancouver',
);
/** One end of a sale window. */
const windowEnd: fc.Arbitrary<WindowEnd> = fc.oneof(
  fc.record({ kind: fc.constant('at' as const), date, time }),
  fc.record({
    kind: fc.constant('before' as const),
    amount: fc.integer({ min: 0, max: 90 }),
    unit: fc.constantFrom('days' as const, 'hours' as const),
  }),
);

/** Any performance, by its number. */
export const performance = (n: number): fc.Arbitrary<Performance> =>
  fc
    .record({
      date,
      zone,
      start: time,
      precision: fc.constantFrom(...precisions),
      turn: fc.constantFrom(...turns),
      soldOut: fc.boolean(),
      pencilled: fc.nat({ max: 4 }).map((n) => n === 0),
      endHidden: fc.boolean(),
      note: fc.oneof(fc.constant(''), words),
      more: fc.boolean(),
    })
    .map(({ more, ...part }) =>
      newPerformance(`p${n}`, part.date, part.zone, {
        ...part,
        doors: null,
        end: more ? '00:45' : null,
        endsNextDay: more,
        link: more ? 'https://tickets.example/e/1' : null,
        venueId: 'v1',
        roomId: 'vat',
      }),
    );

/** Any price level, by its number. */
export const level = (n: number) =>
  fc
    .record({
      price: fc.integer({ min: 0, max: 20_000 }),
      buyers: fc.constantFrom(...buyers),
      quantity: fc.option(fc.integer({ min: 1, max: 500 })),
      admits: fc.integer({ min: 1, max: 6 }),
      most: fc.option(fc.integer({ min: 1, max: 9 })),
      taxBasisPoints: fc.option(fc.integer({ min: 0, max: 3000 })),
      opens: fc.option(windowEnd),
      closes: fc.option(windowEnd),
      choose: fc.boolean(),
      words: fc.oneof(fc.constant(''), words),
      covers: fc.constantFrom<Covers>({ kind: 'one' }, { kind: 'all' }, { kind: 'any', n: 2 }),
    })
    .map(({ price, ...part }) => newLevel(`l${n}`, `Level ${n}`, price, part));

/** Any outlet, by its number. */
const outlet = (n: number) =>
  fc
    .record({
      allocation: fc.option(fc.integer({ min: 0, max: 400 })),
      link: fc.option(fc.constant('https://box.example/e?x=1')),
      fee: fc.option(
        fc.record({
          mode: fc.constantFrom('added' as const, 'absorbed' as const),
          basisPoints: fc.integer({ min: 0, max: 2000 }),
          fixed: fc.integer({ min: 0, max: 300 }),
          cap: fc.option(fc.integer({ min: 0, max: 2000 })),
        }),
      ),
    })
    .map((part) => newOutlet(`o${n}`, `Outlet ${n}`, part));

/** A list of up to `most` parts, each made by its number. */
export const several = <T>(make: (n: number) => fc.Arbitrary<T>, most: number, least = 0) =>
  fc.integer({ min: least, max: most }).chain((count) => fc.tuple(...Array.from({ length: count }, (_, n) => make(n))));

/** Something that a link may lead to. */
const target: fc.Arbitrary<Target> = fc.constantFrom<Target>(
  { kind: 'tickets' },
  { kind: 'venue' },
  { kind: 'map' },
  { kind: 'page', channel: 'lectern' },
  { kind: 'page', channel: 'hearthside' },
  { kind: 'address', href: 'https://more.example/a?b=1' },
);

/** What a record says beside its dates and prices: links, documents, programme, what came after, for whom it is. */
const beside = fc.record({
  hashtags: fc.uniqueArray(fc.constantFrom('Harp', 'HarpNight', 'Marrowby_2027'), { maxLength: 2 }),
  audience: fc
    .nat({ max: 7 })
    .map((n): Audience =>
      n === 0 ? { who: 'members' } : n === 1 ? { who: 'group', name: 'Friends' } : { who: 'everyone' },
    ),
  sound: fc.option(fc.constant('https://listen.example/1')),
  guests: fc.record({ shown: fc.boolean(), write: fc.boolean() }),
  unlistedOn: fc.subarray(['lectern', 'gatefold']),
  draftOn: fc.subarray(['lectern', 'gatefold']),
  oneLineOn: fc.subarray(['lectern', 'hearthside']),
  links: several(
    (n) =>
      fc
        .record({
          use: fc.constantFrom(...linkUses),
          label: fc.oneof(fc.constant(''), words),
          to: target,
          newWindow: fc.boolean(),
        })
        .map((item) => ({ id: `k${n}`, ...item, label: item.label.slice(0, 60).trim() })),
    3,
  ),
  linkChoices: several(
    (n) =>
      target.map((to) => ({
        id: `w${n}`,
        channel: ['lectern', 'hearthside'][n] ?? 'gatefold',
        noticeId: null,
        to,
        reason: '',
      })),
    2,
  ),
  documents: several(
    (n) =>
      fc.record({ title: fc.oneof(fc.constant(''), words), who: fc.constantFrom(...seers) }).map((item) => ({
        id: `d${n}`,
        fileId: String(n).repeat(64),
        name: `a-${n}.pdf`,
        type: 'application/pdf',
        bytes: 12,
        from: null,
        ...item,
      })),
    2,
  ),
  programme: several(
    (n) =>
      fc
        .record({
          start: fc.option(time),
          title: words,
          names: fc.oneof(fc.constant(''), words),
          role: fc.constantFrom('', 'speaker'),
        })
        .map((item) => ({ id: `g${n}`, end: null, room: '', performanceId: null, ...item })),
    3,
  ),
  after: fc.record({ shown: fc.boolean(), text: fc.oneof(fc.constant(''), words) }).map(({ shown, text }) =>
    afterSchema.parse({
      recording: { href: 'https://watch.example/1', shown },
      pictures: { ids: [], shown },
      setList: { text, shown },
    }),
  ),
  toFollow: fc.dictionary(fc.constantFrom(...followable), words, { maxKeys: 2 }),
});

/** What tickets say beside levels and outlets. */
const besideTickets = fc.record({
  total: fc.option(fc.integer({ min: 1, max: 300 })),
  mostPerOrder: fc.option(fc.integer({ min: 1, max: 9 })),
  closes: fc.option(windowEnd),
  membersProof: fc.oneof(fc.constant(''), words),
  tax: fc.constantFrom('unsaid' as const, 'included' as const, 'none' as const),
  showLeft: fc.option(fc.integer({ min: 1, max: 90 })),
  serviceFee: fc.option(fc.integer({ min: 1, max: 400 })),
  letter: fc.record({ words: fc.oneof(fc.constant(''), words), several: fc.oneof(fc.constant(''), words) }),
  extras: several(
    (n) =>
      fc
        .record({
          name: words,
          price: fc.integer({ min: 0, max: 9_000 }),
          quantity: fc.option(fc.integer({ min: 1, max: 90 })),
        })
        .map((item) => ({ id: `x${n}`, words: '', ...item, name: item.name.slice(0, 50).trim() })),
    2,
  ),
  coupons: several(
    (n) =>
      fc.boolean().map((percent) => ({
        id: `c${n}`,
        code: `SAVE${n}`,
        off: percent ? { kind: 'percent' as const, percent: 20 } : { kind: 'amount' as const, minor: 250 },
        uses: percent ? 10 : null,
        from: percent ? null : '2027-02-01',
        until: percent ? '2027-03-01' : null,
        levels: [],
      })),
    2,
  ),
  questions: several(
    (n) =>
      fc
        .record({
          ask: words,
          answer: fc.constantFrom(...answers),
          needed: fc.boolean(),
          of: fc.constantFrom(...asked),
        })
        .map((question) => ({
          id: `f${n}`,
          ...question,
          choices: /of$/.test(question.answer) ? ['A', 'B'] : [],
          consent: question.answer === 'consent' ? 'I agree.' : '',
        })),
    3,
  ),
});

/** Anything that a record may be. */
export const record: fc.Arbitrary<RecordContent> = fc
  .record({
    title: words,
    shortTitle: fc.oneof(fc.constant(''), words),
    subtitle: fc.oneof(fc.constant(''), words),
    tags: fc.uniqueArray(
      words.map((tag) => tag.slice(0, 40).trim()),
      { maxLength: 3 },
    ),
    performances: several(performance, 6, 1),
    levels: several(level, 4),
    outlets: several(outlet, 3),
    mode: fc.constantFrom(...ticketModes),
    currency: fc.constantFrom('EUR' as const, 'ISK' as const, 'GBP' as const),
    teaser: fc.oneof(fc.constant(''), words),
    line: fc.oneof(fc.constant(''), words),
    lineUp: several(
      (n) => words.map((name) => newEntry(`a${n}`, name.slice(0, 60), n === 0 ? 'headliner' : 'support')),
      4,
    ),
    pictures: several(
      (n) =>
        fc
          .record({ x: fc.double({ min: 0, max: 1, noNaN: true }), y: fc.double({ min: 0, max: 1, noNaN: true }) })
          .map((focal) => newPicture({ id: String(n).repeat(64), width: 1000 + n * 700, height: 900 }, { focal })),
      3,
    ),
    beside,
    besideTickets,
    radius: fc.option(fc.record({ km: fc.integer({ min: 1, max: 500 }), days: fc.integer({ min: 1, max: 90 }) })),
  })
  .map(({ levels, outlets, mode, currency, teaser, line, beside: more, besideTickets: sold, ...part }) =>
    sample({
      ...part,
      ...more,
      tickets: newTickets({
        mode,
        currency,
        ...sold,
        levels: levels.map((level) => ({
          ...level,
          most: level.most !== null && level.most < level.least ? null : level.most,
        })),
        outlets,
      }),
      words: newWords({ teaser, line, full: '<p>One sentence. And another one.</p>' }),
    }),
  );
