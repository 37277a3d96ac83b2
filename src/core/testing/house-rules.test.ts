import fc from 'fast-check';
import { findClashes, type Booking } from '../clashes/clashes';
import { carriedGroup, copyRecord, replacedFacts, settleCarried } from '../record/copy-record';
import { cropWindow } from '../pictures/crop';
import { facts, stageOf, turnWords } from '../facts/facts';
import { distanceKm } from '../record/geo';
import { newLevel, newNotice, newOutlet, newPicture, newTickets } from '../record/new-record';
import { afterSchema, programmeItemSchema, type RecordContent } from '../record/record';
import { choosePicture, windowFor } from '../pictures/picture-choice';
import type { ChannelRules } from '../listing/channel-rules';
import { gated } from '../listing/gates';
import { performance, sample, venues } from './samples';
import { chooseLink, tracked } from '../listing/ticket-link';
import { applyTour, ownFacts, sharedOf, tourRoute } from '../record/tour';

const at = (text: string) => Date.parse(text);
const hour = 3_600_000;

describe('crops of 3000 × 2000, focal point 0.70, 0.40, keep-area x 0.55–0.95, y 0.20–0.70', () => {
  const picture = newPicture(
    { id: 'ab'.repeat(32), width: 3000, height: 2000 },
    { focal: { x: 0.7, y: 0.4 }, keep: { x0: 0.55, y0: 0.2, x1: 0.95, y1: 0.7 } },
  );
  const shape = (w: number, h: number) => ({ ratio: [w, h] as const, minWidth: 1 });
  test.each([
    [11, 5, [0, 118, 3000, 1364]],
    [1, 1, [1000, 0, 2000, 2000]],
    [4, 5, [1300, 0, 1600, 2000]],
  ])('%i:%i', (w, h, window) => {
    const found = windowFor(picture, shape(w, h));
    expect([Object.values(found.window), found.cuts]).toEqual([window, { w: 0, h: 0 }]);
  });
  test('1:2 cuts the keep-area by 200 px, and says so', () =>
    expect(windowFor(picture, shape(1, 2))).toMatchObject({ window: { w: 1000 }, cuts: { w: 200, h: 0 } }));
  test('the best source: whole before cut, large before small, then the most kept', () => {
    const tall = { ...picture, width: 1600, height: 2400, keep: null };
    const small = { ...picture, width: 600, height: 400, keep: null };
    expect(choosePicture([tall, picture, small], { ratio: [3, 2], minWidth: 1200 })?.picture).toBe(picture);
    expect(choosePicture([picture, tall], { ratio: [1, 2], minWidth: 800 })?.picture).toBe(tall);
    expect(choosePicture([], shape(1, 1))).toBeNull();
  });
  test('a window lies in its picture, has its shape, and holds a keep-area that fits', () => {
    const share = fc.double({ min: 0, max: 1, noNaN: true });
    fc.assert(
      fc.property(
        fc.integer({ min: 50, max: 6000 }),
        fc.integer({ min: 50, max: 6000 }),
        share,
        share,
        fc.constantFrom([3, 2], [16, 9], [11, 5], [1, 1], [4, 5]),
        fc.tuple(share, share),
        fc.tuple(share, share),
        (width, height, x, y, [rw = 1, rh = 1], xs, ys) => {
          const keep = { x0: Math.min(...xs), x1: Math.max(...xs), y0: Math.min(...ys), y1: Math.max(...ys) };
          const window = cropWindow({ width, height }, { x, y }, [rw, rh], keep);
          expect(window.x >= 0 && window.y >= 0 && window.x + window.w <= width && window.y + window.h <= height).toBe(
            true,
          );
          const pictureChoice = windowFor({ ...picture, width, height, focal: { x, y }, keep }, shape(rw, rh));
          if ((keep.x1 - keep.x0) * width <= window.w - 1) expect(pictureChoice.cuts.w).toBeLessThanOrEqual(1);
          if ((keep.y1 - keep.y0) * height <= window.h - 1) expect(pictureChoice.cuts.h).toBeLessThanOrEqual(1);
        },
      ),
    );
  });
});

describe('dates that are not exact', () => {
  const made = (part: object) =>
    facts(sample({ performances: [performance('p', '2027-03-14', part)] }), {
      code: 'X',
      venues,
      now: at('2027-02-02T10:00Z'),
    }).performances[0];
  test.each([
    [{ precision: 'month' as const, start: null }, 'March 2027, date to follow', null],
    [{ precision: 'open' as const, start: null }, 'Date to follow', null],
    [{ precision: 'day' as const, start: null }, 'Sunday 14 March 2027, time to follow', null],
    [{}, '', at('2027-03-14T19:30Z')],
    [{ lastDate: '2027-03-16' }, '14 March to 16 March 2027', at('2027-03-14T19:30Z')],
  ])('%j', (part, note, start) => expect([made(part)?.dateNote, made(part)?.start]).toEqual([note, start]));
  test('a hidden end is known and not shown; an end of several days lies on the last', () => {
    expect([made({ endHidden: true })?.end, made({ endHidden: true })?.over]).toEqual([null, at('2027-03-14T22:00Z')]);
    expect(made({ lastDate: '2027-03-16' })?.over).toBe(at('2027-03-16T22:00Z'));
  });
  test('what befell it is told', () => {
    const two = facts(
      sample({ performances: [performance('a', '2027-03-14', { soldOut: true }), performance('b', '2027-03-15')] }),
      { code: 'X', venues, now: 0 },
    );
    expect(turnWords(two.performances)).toBe('Sold out: Sunday 14 March');
    const gone = facts(sample({ performances: [performance('a', '2027-03-14', { turn: 'cancelled' })] }), {
      code: 'X',
      venues,
      now: 0,
    });
    expect([turnWords(gone.performances), stageOf(gone, 0)]).toEqual(['Cancelled', 'cancelled']);
  });
});

describe('clashes', () => {
  const booking = (id: string, from: string, part: Partial<Booking> = {}): Booking => ({
    record: id,
    code: id,
    title: id,
    performance: `p${id}`,
    zone: 'UTC',
    pencilled: false,
    from: at(from),
    until: at(from) + 3 * hour,
    start: at(from) + hour / 2,
    room: { id: 'vat', name: 'The Vat', changeoverMs: hour },
    venue: 'v1',
    venueName: 'Yard',
    point: { lat: 53.35, lon: -6.26 },
    artists: [],
    tour: null,
    radius: null,
    sales: [],
    awaiting: [],
    ...part,
  });
  const leeds = { lat: 53.8, lon: -1.55 };
  const artist = (headliner = true) => [{ key: 'odalys', name: 'Odalys', headliner }];
  test.each<[string, Booking[], unknown[]]>([
    [
      'one room twice',
      [booking('a', '2027-03-14T19:00Z'), booking('b', '2027-03-14T21:00Z')],
      [['room-overlap', 'a', 'b', 60]],
    ],
    [
      'too short a changeover',
      [booking('a', '2027-03-14T19:00Z'), booking('b', '2027-03-14T22:30Z')],
      [['room-changeover', 'a', 'b', 30]],
    ],
    [
      'another room, or enough time: nothing',
      [
        booking('a', '2027-03-14T19:00Z'),
        booking('b', '2027-03-14T19:00Z', { room: { id: 'wick', name: 'Wick', changeoverMs: 0 } }),
        booking('c', '2027-03-14T23:00Z'),
      ],
      [],
    ],
    [
      'a venue without a room, and one of its rooms',
      [booking('a', '2027-03-14T19:00Z', { room: null }), booking('b', '2027-03-14T20:00Z', {})],
      [['venue-overlap', 'a', 'b', 120]],
    ],
    [
      'two in a venue that say no room',
      [booking('a', '2027-03-14T19:00Z', { room: null }), booking('b', '2027-03-14T20:00Z', { room: null })],
      [['venue-overlap', 'a', 'b', 120]],
    ],
    [
      'an artist in two places',
      [
        booking('a', '2027-03-14T19:00Z', { artists: artist() }),
        booking('b', '2027-03-14T20:00Z', { artists: artist(), room: null, venue: 'v2', point: leeds }),
      ],
      [['artist-twice', 'a', 'b', 120]],
    ],
    [
      'too far to travel',
      [
        booking('a', '2027-03-14T19:00Z', { artists: artist() }),
        booking('b', '2027-03-15T00:00Z', { artists: artist(), room: null, venue: 'v2', point: leeds }),
      ],
      [['artist-travel', 'a', 'b', 2]],
    ],
    [
      'a radius clause, before the show that has it',
      [
        booking('a', '2027-03-01T19:00Z', { artists: artist(false), venue: 'v2' }),
        booking('b', '2027-03-14T19:00Z', { artists: artist(), radius: { km: 100, days: 30 } }),
      ],
      [['radius', 'a', 'b', 13]],
    ],
    [
      '… and not beyond it',
      [
        booking('a', '2027-01-01T19:00Z', { artists: artist() }),
        booking('b', '2027-03-14T19:00Z', { artists: artist(), radius: { km: 100, days: 30 } }),
      ],
      [],
    ],
    [
      'a sale that opens after the start; one that never opens',
      [
        booking('a', '2027-03-14T19:00Z', {
          sales: [
            { level: 'x', opens: at('2027-03-15T10:00Z'), closes: null },
            { level: 'y', opens: at('2027-03-02T10:00Z'), closes: at('2027-03-01T10:00Z') },
          ],
        }),
      ],
      [
        ['sale-after-start', 'a', null, undefined],
        ['sale-never-open', 'a', null, undefined],
      ],
    ],
    [
      'two sales at one moment, but not of one tour',
      [
        ...['a', 'b'].map((id) =>
          booking(id, `2027-03-1${id === 'a' ? 4 : 6}T19:00Z`, {
            sales: [{ level: 'x', opens: at('2027-03-01T10:00Z'), closes: null }],
          }),
        ),
        booking('c', '2027-04-14T19:00Z', { tour: 't', sales: [{ level: 'x', opens: 5, closes: null }] }),
        booking('d', '2027-04-16T19:00Z', { tour: 't', sales: [{ level: 'x', opens: 5, closes: null }] }),
      ],
      [['sales-together', 'a', null, undefined]],
    ],
    [
      'an artist in two rooms of one house',
      [
        booking('a', '2027-03-14T19:00Z', { artists: artist() }),
        booking('b', '2027-03-14T20:00Z', { artists: artist(), room: { id: 'wick', name: 'Wick', changeoverMs: 0 } }),
      ],
      [['artist-twice', 'a', 'b', 120]],
    ],
    [
      'shown only after it began, of several nights once',
      [
        booking('a', '2027-03-14T19:00Z', {
          awaiting: [
            { channel: 'Slow', earliest: at('2027-03-14T19:00Z'), delayMs: 2 * hour },
            { channel: 'Quick', earliest: at('2027-03-14T19:00Z'), delayMs: 60_000 },
          ],
        }),
        booking('a', '2027-03-15T19:00Z', {
          awaiting: [{ channel: 'Slow', earliest: at('2027-03-16T19:00Z'), delayMs: hour }],
        }),
      ],
      [['shown-late', 'a', null, 90]],
    ],
  ])('%s', (_, list, expected) => {
    const seen = findClashes(list).map((clash) => [
      clash.code,
      clash.a.record,
      clash.b?.record ?? null,
      'minutes' in clash
        ? clash.minutes
        : 'gap' in clash
          ? clash.gap
          : 'gapHours' in clash
            ? clash.gapHours
            : 'days' in clash
              ? clash.days
              : undefined,
    ]);
    expect(seen).toEqual(expected);
  });
  test('what is only held warns, where two that are confirmed stop', () => {
    const weights = (pencilled: boolean) =>
      findClashes([
        booking('a', '2027-03-14T19:00Z', { artists: artist() }),
        booking('b', '2027-03-14T20:00Z', { pencilled }),
        booking('c', '2027-03-14T20:00Z', { pencilled, artists: artist(), room: null, venue: 'v2' }),
      ]).map((clash) => `${clash.code} ${clash.weight}`);
    expect([weights(false), weights(true)]).toEqual([
      ['artist-twice stops', 'room-overlap stops'],
      ['artist-twice warns', 'room-overlap warns'],
    ]);
  });
  test('rooms: the sweep finds what trying every pair finds, in whatever order', () => {
    const item = fc.record({
      at: fc.integer({ min: 0, max: 60 }),
      hours: fc.integer({ min: 1, max: 6 }),
      room: fc.constantFrom('x', 'y'),
    });
    fc.assert(
      fc.property(fc.array(item, { maxLength: 14 }), (shape) => {
        const list = shape.map(({ at: h, hours, room }, i) =>
          booking(`r${i}`, '2027-03-01T00:00Z', {
            from: h * hour,
            until: (h + hours) * hour,
            start: h * hour,
            room: { id: room, name: room, changeoverMs: 0 },
          }),
        );
        const pairs = list.flatMap((a, i) =>
          list
            .slice(i + 1)
            .filter((b) => a.room?.id === b.room?.id && a.from < b.until && b.from < a.until)
            .map((b) => [a.record, b.record].sort().join()),
        );
        expect(
          findClashes(list)
            .map((c) => [c.a.record, c.b?.record].sort().join())
            .sort(),
        ).toEqual(pairs.sort());
        expect(findClashes([...list].reverse())).toEqual(findClashes(list));
      }),
    );
  });
});

describe('a copy', () => {
  let n = 0;
  const elsewhere = { date: '2027-03-13', start: '19:30', venueId: null, roomId: null };
  const copied = copyRecord(
    sample({
      tags: ['harp'],
      performances: [performance('p1', '2027-03-14', { soldOut: true, turn: 'moved', was: elsewhere })],
      tickets: newTickets({
        levels: [
          newLevel('s', 'Standard', 2200, { quantity: 90, covers: { kind: 'chosen', ids: ['p1', 'p1'] } }),
          newLevel('c', 'Friends', 1800, {
            buyers: 'code',
            code: 'HARP26',
            opens: { kind: 'at', date: '2026-02-12', time: '10:00' },
          }),
        ],
        coupons: [
          {
            id: 'k',
            code: 'SPRING',
            off: { kind: 'percent', percent: 10 },
            uses: null,
            from: null,
            until: null,
            levels: [],
          },
        ],
      }),
      programme: [programmeItemSchema.parse({ id: 'g', title: 'A talk before', performanceId: 'p1' })],
      after: afterSchema.parse({
        recording: { href: 'https://watch.example/1', shown: true },
        pictures: {},
        setList: { text: 'All', shown: true },
      }),
      notices: [
        newNotice('n', 'hearthside-posts', { words: 'Come', offSince: 'postponed' }),
        newNotice('n2', 'hearthside-posts', { words: 'It moves', turn: 'moved' }),
        newNotice('n3', 'murmurline', { words: 'Tickets stay valid', holders: true }),
      ],
    }),
    'OQ-0001',
    () => `n${(n += 1)}`,
  );
  const marks = [
    ...[
      'dates',
      'times',
      'venue',
      'line-up',
      'programme',
      'levels',
      'coupons',
      'words.teaser',
      'words.full',
      'subtitle',
    ],
    ...[
      'pictures',
      'tags',
      'notices',
      'level.s.price',
      'level.s.quantity',
      'level.c.price',
      'level.c.window',
      'level.c.code',
    ],
  ];
  test('is private, with a mark for every group that it carries over, and may not leave the house', () => {
    expect([copied.publicity.visibility, copied.copiedFrom, copied.carried, copied.performances[0]?.soldOut]).toEqual([
      'private',
      'OQ-0001',
      marks,
      false,
    ]);
    const [first] = copied.performances;
    expect(first?.id).not.toBe('p1');
    // Nothing befell the new one yet.
    expect([first?.turn, first?.was]).toEqual(['none', null]);
    expect(copied.notices.map(({ words, offSince }) => [words, offSince])).toEqual([['Come', null]]);
    // What names a date names the new one; what came after the show stays behind.
    expect([copied.programme[0]?.performanceId, copied.tickets.levels[0]?.covers, copied.after.recording]).toEqual([
      first?.id,
      { kind: 'chosen', ids: [first?.id, first?.id] },
      { href: null, shown: false },
    ]);
    expect(
      gated({
        facts: facts({ ...copied, publicity: { visibility: 'public', announce: null } }, { code: 'X', venues, now: 0 }),
        rules: { states: ['public'], gives: [], accepts: () => true } as unknown as ChannelRules,
        connected: true,
        audience: { who: 'everyone' },
        leftOff: false,
        draftThere: false,
        emptied: null,
        ownMoment: null,
        stands: 'never',
        now: 0,
      }),
    ).toMatchObject({ down: null, findings: [{ code: 'carried-over', weight: 'stops' }] });
  });
  test.each<[string, (c: RecordContent) => RecordContent]>([
    [
      'dates',
      (c) => ({ ...c, performances: c.performances.map((performance) => ({ ...performance, date: '2028-03-14' })) }),
    ],
    ['level.c.code', (c) => withLevel(c, 'c', { code: 'HARP27' })],
    ['level.c.price', (c) => withLevel(c, 'c', { price: 1900 })],
    ['level.s.quantity', (c) => withLevel(c, 's', { quantity: 80 })],
    ['words.teaser', (c) => ({ ...c, words: { ...c.words, teaser: 'New' } })],
    ['coupons', (c) => ({ ...c, tickets: { ...c.tickets, coupons: [] } })],
  ])('what is replaced loses its mark, and no other: %s', (key, change) => {
    const next = change(copied);
    expect([replacedFacts(copied, next), settleCarried(copied, next).carried]).toEqual([
      [key],
      marks.filter((mark) => mark !== key),
    ]);
    expect(settleCarried(copied, copied)).toBe(copied);
    expect(marks.map((mark) => carriedGroup(mark, copied.tickets.levels)?.name)).not.toContain(undefined);
  });
});

const withLevel = (content: RecordContent, id: string, part: object): RecordContent => ({
  ...content,
  tickets: {
    ...content.tickets,
    levels: content.tickets.levels.map((level) => (level.id === id ? { ...level, ...part } : level)),
  },
});

describe('a tour', () => {
  const first = sample({
    tickets: newTickets({
      levels: [newLevel('a', 'Standard', 2200, { opens: { kind: 'at', date: '2027-02-12', time: '10:00' } })],
    }),
  });
  const shared = sharedOf(first);
  test('a change goes to all, minus the dates that have their own', () => {
    const own = { ...first, words: { ...first.words, teaser: 'Home at last.' } };
    const after = {
      ...shared,
      subtitle: 'New',
      words: { ...shared.words, teaser: 'On the road.' },
      onSale: { date: '2027-02-19', time: '09:00' },
    };
    const change = applyTour(own, shared, after);
    expect([ownFacts(own, shared), change.takes, change.keeps]).toEqual([
      ['teaser'],
      ['subtitle', 'onSale'],
      ['teaser'],
    ]);
    expect([change.content.subtitle, change.content.words.teaser, change.content.tickets.levels[0]?.opens]).toEqual([
      'New',
      'Home at last.',
      { kind: 'at', date: '2027-02-19', time: '09:00' },
    ]);
  });
  test('what every shared fact puts, it reads back; a change that is none changes nothing', () => {
    const other = {
      ...shared,
      title: 'T',
      kind: 'film' as const,
      lineUp: [],
      tags: ['x'],
      words: { line: 'l', teaser: 't', short: 's', full: '<p>f</p>' },
      pictures: [],
      announce: { date: '2027-02-01', time: '09:00', zone: 'UTC' },
      onSale: null,
    };
    expect(ownFacts(applyTour(first, shared, other).content, other)).toEqual([]);
    expect(applyTour(first, shared, shared)).toEqual({ content: first, takes: [], keeps: [] });
  });
  test('distances and rest days, in order of time', () => {
    const stop = (date: string, lat: number, lon: number) => ({
      from: at(`${date}T19:00Z`),
      until: at(`${date}T22:00Z`),
      date,
      point: { lat, lon },
    });
    const route = tourRoute([
      stop('2027-03-23', 53.8, -1.55),
      stop('2027-03-20', 53.35, -6.26),
      stop('2027-03-24', 51.05, 3.72),
    ]);
    expect(route.map((stop) => [stop.stop.date, stop.km, stop.restDays])).toEqual([
      ['2027-03-20', null, null],
      ['2027-03-23', 315, 2],
      ['2027-03-24', 470, 0],
    ]);
    expect(distanceKm({ lat: 0, lon: 179 }, { lat: 0, lon: -179 })).toBeCloseTo(222.4, 0);
  });
});

describe('the ticket link of each channel', () => {
  const outlets = [
    newOutlet('d', 'Door', {}),
    newOutlet('g', 'Gatefold', { channel: 'gatefold' }),
    newOutlet('b', 'Box office', { link: 'https://box.example/e?x=1' }),
  ];
  test.each([
    [
      'lectern',
      new Map([['gatefold', 'https://g.example/e/1']]),
      'Gatefold',
      { kind: 'known', href: 'https://g.example/e/1?via=lectern' },
      ['gives no link'],
    ],
    [
      'lectern',
      new Map([['gatefold', null]]),
      'Gatefold',
      {
        kind: 'awaited',
        from: 'gatefold',
        name: 'Gatefold',
        track: { name: 'via', value: 'lectern' },
      },
      ['gives no link'],
    ],
    [
      'lectern',
      new Map(),
      'Box office',
      { kind: 'known', href: 'https://box.example/e?x=1&via=lectern' },
      ['gives no link', 'gives no link'],
    ],
    [
      'gatefold',
      new Map([['gatefold', 'https://g.example/e/1']]),
      'Box office',
      { kind: 'known', href: 'https://box.example/e?x=1&via=gatefold' },
      ['gives no link', 'is itself'],
    ],
  ])('%s', (channel, given, outlet, link, passed) => {
    const choice = chooseLink(outlets, channel, { given });
    expect([choice?.outlet, choice?.link, choice?.passed.map((item) => item.why)]).toEqual([outlet, link, passed]);
  });
  test('a parameter that is there already is left alone', () =>
    expect(tracked('https://a.example/?via=us', 'via', 'x')).toBe('https://a.example/?via=us'));
});

test('thirty thousand bookings of one evening in one place are told as many clashes as a person can read', () => {
  const moment = Date.parse('2027-03-14T19:00Z');
  const many = Array.from({ length: 30_000 }, (_, i): Booking => ({
    record: `r${i}`,
    code: 'x',
    title: 'x',
    performance: `p${i}`,
    zone: 'UTC',
    pencilled: false,
    from: moment,
    until: moment + 3_600_000,
    start: moment,
    room: i % 2 === 0 ? null : { id: 'vat', name: 'The Vat', changeoverMs: 0 },
    venue: 'v1',
    venueName: 'Yard',
    point: null,
    artists: [{ key: 'a', name: 'A', headliner: true }],
    tour: null,
    radius: null,
    sales: [],
    awaiting: [],
  }));
  const found = findClashes(many);
  expect([found.length > 1_000, found.length <= 15_000]).toEqual([true, true]);
});
