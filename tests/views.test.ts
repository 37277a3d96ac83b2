import { by, keeper } from '@/core/testing/doers';
import { sql } from 'drizzle-orm';
import { newEntry, newLevel, newNotice, newOutlet, newTickets, newWords } from '@/core/record/new-record';
import type { RecordContent } from '@/core/record/record';
import { performance } from '@/core/testing/samples';
import { channelsView } from '@/desk/channels/channels-view';
import { toSend } from '@/desk/dispatch/to-send';
import { health } from '@/desk/house/health';
import { noteSales } from '@/desk/records/note-sales';
import { pulse } from '@/desk/house/pulse';
import { readBackView } from '@/desk/drift/read-back-view';
import { receiptWords } from '@/desk/dispatch/receipt-words';
import { season } from '@/desk/records/season';
import { seasonLine } from '@/house/season-line';
import { surveyAll, surveyContext, surveyOn } from '@/house/survey';
import { countStale } from '@/runner/tally';
import { openDatabase, transaction } from '@/store/database';
import { keptLines, markHouse } from '@/store/pulse';
import { channels } from '@/store/schema';
import { allRecords } from '@/store/records';
import { wrongWords } from '@/desk/records/words-check';
import { makeRig, type Rig } from './rig';

let rig: Rig;
beforeAll(async () => {
  rig = await makeRig();
});
afterAll(() => rig.end());

const level = (price: number, part: Partial<ReturnType<typeof newLevel>> = {}) =>
  newTickets({
    levels: [newLevel('s', 'Standard', price, part)],
    outlets: [newOutlet('g', 'Gatefold', { channel: 'gatefold' }), newOutlet('d', 'Door', { allocation: 40 })],
  });
const row = (title: string) => season(rig.house, keeper, Infinity).rows.find((season) => season.title === title);

describe('a row of the season says what is so', () => {
  test.each<[string, Partial<RecordContent>, object]>([
    [
      'An evening',
      { performances: [performance('p1', '2027-03-14')] },
      {
        date: '2027-03-14',
        time: '19:30',
        stage: 'announced',
        room: 'The Vat',
        town: 'Marrowby',
        price: '€22',
        past: false,
        standings: ['unplaced', 'unplaced', 'unplaced', null],
      },
    ],
    [
      'Some day',
      { performances: [performance('p1', '2037-12-31', { precision: 'open', start: null, doors: null, end: null })] },
      { date: '', at: Infinity, under: expect.stringContaining('Date to follow') },
    ],
    [
      'Some day in May',
      { performances: [performance('p1', '2027-05-01', { precision: 'month', start: null, doors: null, end: null })] },
      { date: '2027-05', time: '', under: expect.stringContaining('May 2027, date to follow') },
    ],
    [
      'Put off, and its old day is over',
      { performances: [performance('p1', '2027-01-14', { turn: 'postponed' })] },
      { date: '', time: '', at: Infinity, past: false, under: expect.stringContaining('Date to follow') },
    ],
    ['Pencilled', { stage: 'pencilled' }, { stage: 'pencilled' }],
    [
      'Ours alone',
      { publicity: { visibility: 'private', announce: null } },
      { stage: 'private', cue: '', standings: [null, null, null, null] },
    ],
    [
      'Held',
      { publicity: { visibility: 'public', announce: { date: '2027-02-04', time: '09:00', zone: 'Europe/Dublin' } } },
      { stage: 'confirmed', cue: 'announce Thu 4 Feb 09:00', standings: ['embargoed', 'embargoed', 'embargoed', null] },
    ],
    [
      'Soon',
      { tickets: level(1800, { opens: { kind: 'at', date: '2027-02-12', time: '10:00' } }) },
      { cue: 'on sale Fri 12 Feb 10:00', price: '€18, on sale Fri 12 Feb 10:00' },
    ],
    ['Called off', { performances: [performance('p1', '2027-03-14', { turn: 'cancelled' })] }, { stage: 'cancelled' }],
    [
      'Twelve',
      {
        lineUp: [newEntry('a', 'Twelve'), newEntry('b', 'Wren', 'support')],
        performances: Array.from({ length: 12 }, (_, i) => performance(`p${i}`, `2027-03-${String(i + 10)}`)),
      },
      { date: '2027-03-10', under: expect.stringMatching(/with Wren.*12 performances, to 21 March 2027/) },
    ],
    ['Over', { performances: [performance('p1', '2027-01-14')] }, { past: true, stage: 'played' }],
    [
      'Free',
      { tickets: newTickets({ mode: 'free entry' }) },
      { price: 'free', standings: ['unplaced', null, 'unplaced', null] },
    ],
    [
      'With a post',
      { notices: [newNotice('n1', 'hearthside-posts')] },
      { standings: ['unplaced', 'unplaced', 'unplaced', 'unplaced'] },
    ],
  ])('%s', (title, part, expected) => {
    rig.make({ title, ...part });
    expect(row(title)).toMatchObject(expected);
  });

  test('rows are in the order of dates, those of an open date last; the past is marked', () => {
    const { rows } = season(rig.house, keeper, Infinity);
    expect([...rows].sort((a, b) => a.at - b.at || (a.code < b.code ? -1 : 1)).map((season) => season.id)).toEqual(
      rows.map((season) => season.id),
    );
    expect(rows[rows.length - 1]?.title).toBe('Some day');
  });

  test('what was sold at the door is counted at once, and never for another’s outlet', () => {
    const id = rig.make({ title: 'Counted', tickets: level(1000) });
    const note = (part: object) =>
      noteSales(rig.house, by('Maren'), {
        recordId: id,
        performanceId: 'p1',
        levelId: 's',
        outletId: 'd',
        sold: 12,
        ...part,
      });
    expect([note({}).ok, row('Counted')?.left]).toEqual([true, '408 left']);
    for (const wrong of [
      { outletId: 'g' },
      { outletId: 'x' },
      { levelId: 'x' },
      { performanceId: 'x' },
      { recordId: 'x' },
      { sold: -1 },
      { sold: 1.5 },
      { sold: '3' },
    ])
      expect(note(wrong).ok).toBe(false);
    expect(row('Counted')?.left).toBe('408 left');
  });
});

describe('what is to send', () => {
  test('what is private, over or only pencilled waits for nothing; what cannot go says why', () => {
    const titles = toSend(rig.house, keeper).map((eventToSend) => eventToSend.title);
    for (const quiet of ['Ours alone', 'Over', 'Pencilled']) expect(titles).not.toContain(quiet);
    const open = toSend(rig.house, keeper).find((eventToSend) => eventToSend.title === 'Some day');
    expect(
      Object.fromEntries(
        (open?.held ?? []).map((heldToSend) => [
          heldToSend.channel,
          [heldToSend.reasons.map((finding) => finding.code), heldToSend.waitsFor],
        ]),
      ),
    ).toEqual({
      gatefold: [['date-imprecise'], null],
      lectern: [[], 'Gatefold'],
      hearthside: [['date-imprecise'], 'Gatefold'],
    });
  });

  test('the numbers of the frame, of the probe and of the lists are the same', async () => {
    const { toSend: count, asks } = await pulse(rig.house, keeper);
    const can = toSend(rig.house, keeper)
      .flatMap((eventToSend) => eventToSend.errands)
      .filter((errand) => errand.notBefore === null).length;
    expect([health(rig.house).toSend, can]).toEqual([count, count]);
    expect(asks).toBe(readBackView(rig.house, keeper).asks.length);
    expect(health(rig.house).records).toBe(season(rig.house, keeper, Infinity).rows.length);
  });

  test('where nothing was written, nothing is surveyed again; one save surveys one record', () => {
    const before = surveyAll(rig.house);
    expect(surveyAll(rig.house)).toBe(before);
    rig.make({ title: 'One more' });
    const after = surveyAll(rig.house);
    const known = new Map(before.map((record) => [record.record.id, record]));
    expect(
      after.filter((record) => known.get(record.record.id) !== record).map((record) => record.record.content.title),
    ).toEqual(['One more']);
  });
});

test('wrong words are found across the season, wherever they were typed, and not in what is over', () => {
  const words = newWords({
    teaser: 'On Friday 14 March',
    full: '<p>Doors at 7, from €18.</p>',
    access: 'A signed night on 20 March',
  });
  rig.make({
    title: 'Wrong',
    words,
    notices: [newNotice('n1', 'hearthside-posts', { words: 'Saturday 20 March!' })],
    overrides: [{ channel: 'lectern', field: 'body', value: '<p>Starts at <b>8pm</b></p>', from: '' }],
  });
  rig.make({ title: 'Wrong once', words, performances: [performance('p1', '2027-01-14')] });
  expect(wrongWords(rig.house, keeper).map((word) => [word.title, word.where, word.mention.text])).toEqual([
    ['Wrong', 'teaser', 'Friday 14 March'],
    ['Wrong', 'full text', 'from €18'],
    ['Wrong', 'access notes', '20 March'],
    ['Wrong', 'notice', 'Saturday 20 March'],
    ['Wrong', 'words by hand for Lectern', '8pm'],
  ]);
});

test('channels tell their habits and limits, and never a secret', () => {
  const { channels: all, kinds } = channelsView(rig.house, keeper);
  expect(all.map((item) => [item.id, item.through, item.connection !== null])).toEqual([
    ['lectern', null, true],
    ['gatefold', null, true],
    ['hearthside', null, true],
    ['hearthside-posts', 'Hearthside', true],
  ]);
  // A kind that goes along with another is not connected by itself.
  expect(kinds.map((kind) => kind.kind)).toEqual(
    rig.house.kinds.filter((kind) => !kind.connectsAs).map((kind) => kind.id),
  );
  const told = JSON.stringify(all);
  for (const credentials of Object.values(rig.accounts))
    for (const [name, secret] of Object.entries(credentials))
      if (!['user', 'clientId', 'member', 'profile'].includes(name)) expect(told).not.toContain(secret);
  expect(all.every((candidate) => candidate.habits.length > 0 && candidate.fields.length > 3)).toBe(true);
});

test.each<[string, Record<string, unknown>, string]>([
  ['done', { remote: { id: 'ab12' } }, 'taken by the channel as ab12'],
  [
    'again',
    { kind: 'again-later', message: 'slow down' },
    'slow down. The channel cannot take it now; it is tried again by itself.',
  ],
  [
    'refused',
    { kind: 'locked', message: 'tickets are sold' },
    'tickets are sold. The channel has locked this field. Leave it as it stands there, or choose a way under Dispatch.',
  ],
  ['waits', { for: 'gatefold' }, 'waited for the ticket link'],
  [
    'found',
    { places: ['https://x.example/1'] },
    'no answer had come; it was asked for and stands at https://x.example/1',
  ],
  [
    'held',
    { until: Date.parse('2027-02-04T09:00Z'), why: 'under embargo' },
    'under embargo until Thu 4 Feb 2027, 09:00 UTC',
  ],
  ['dropped', { why: 'the record is private now' }, 'the record is private now'],
  ['something new', {}, 'something new'],
])('a receipt that says %s', (outcome, detail, words) =>
  expect(receiptWords({ id: 1, at: 5, outcome, detail }).words).toBe(words),
);

describe('the season is read from kept lines', () => {
  /** What every line would be if it were reckoned now. */
  const reckoned = () => {
    const context = surveyContext(rig.house);
    return allRecords(rig.house.db)
      .map((record) => {
        // Contents of their own: nothing that was kept is taken for it.
        const fresh = { ...record, content: structuredClone(record.content) };
        return JSON.stringify(seasonLine(surveyOn(fresh, context, '', rig.house.kinds), rig.house.clock.now()));
      })
      .sort();
  };
  const keptNow = () =>
    keptLines(rig.house.db, rig.house.clock.now())
      .map((line) => (line.stale ? 'stale' : (line.line ?? '')))
      .sort();

  /** The season as a process tells it that has read nothing before. */
  const toldAnew = () => {
    const db = openDatabase(rig.house.folder);
    try {
      return season({ ...rig.house, db }, keeper, Infinity).rows;
    } finally {
      db.close();
    }
  };

  test('what changed is read into what was told before: the same as told anew', async () => {
    const ids = Array.from({ length: 6 }, (_, i) => rig.make({ title: `Told ${i}` }));
    expect(season(rig.house, keeper, Infinity).rows).toEqual(toldAnew());
    const dates = ['2027-02-01', '2027-06-30', '2027-02-01', '2027-03-14', '2027-12-24'];
    for (const [n, date] of dates.entries()) {
      const id = ids[n % 3] ?? fault();
      rig.save(id, rig.revision(id), rig.content({ title: `Moved ${n}`, performances: [performance('p1', date)] }));
      if (n % 2 === 0) await countStale(rig.house);
      if (n === 3) await rig.pass(30 * 3_600_000);
      const told = season(rig.house, keeper, Infinity);
      expect([n, told.behind, told.rows]).toEqual([n, 0, toldAnew()]);
    }
    // Another channel first: other columns, in every row.
    const reversed = () =>
      transaction(rig.house.db, (tx) => {
        tx.update(channels)
          .set({ place: sql`100 - ${channels.place}` })
          .run();
        markHouse(tx);
      });
    const before = season(rig.house, keeper, Infinity).channels.map((channel) => channel.id);
    reversed();
    expect(season(rig.house, keeper, Infinity).channels.map((channel) => channel.id)).toEqual(before.toReversed());
    expect(season(rig.house, keeper, Infinity).rows).toEqual(toldAnew());
    reversed();
  });

  test('a change made while others are counted is in no line that is old', async () => {
    const ids = Array.from({ length: 30 }, (_, i) => rig.make({ title: `Counted ${i}` }));
    const last = ids[ids.length - 1] ?? fault();
    // The others have their turn after each record, so that every one of the twelve changes falls into the counting.
    const counting = countStale(rig.house, 0);
    for (let n = 1; n <= 12; n += 1) {
      await new Promise((resolve) => setImmediate(resolve));
      rig.save(last, n, rig.content({ title: `Changed ${n}` }));
    }
    await counting;
    const line = keptLines(rig.house.db, rig.house.clock.now()).find((line) => line.id === last);
    expect([line?.stale, /Changed 12/.test(line?.line ?? '')]).toEqual([false, true]);
    expect(keptNow()).toEqual(reckoned());
  });

  test('a moment that changes nothing by itself does not hide the one that comes after it', async () => {
    const id = rig.make({
      title: 'Two moments',
      performances: [performance('p1', '2027-02-06'), performance('p2', '2027-02-26')],
    });
    await countStale(rig.house);
    const dateOf = () => season(rig.house, keeper, Infinity).rows.find((row) => row.id === id)?.date;
    const now = rig.house.clock.now();
    // As if the clock alone could change something of it in a minute, and of nothing else for a month.
    rig.house.db.run(sql`UPDATE tallies SET next_at = ${now + 40 * 86_400_000}`);
    rig.house.db.run(sql`UPDATE tallies SET next_at = ${now + 60_000} WHERE record_id = ${id}`);
    expect(dateOf()).toBe('2027-02-06');
    await rig.pass(120_000);
    expect(dateOf()).toBe('2027-02-06');
    await countStale(rig.house);
    rig.house.db.run(sql`UPDATE tallies SET next_at = ${now + 40 * 86_400_000} WHERE record_id <> ${id}`);
    await rig.pass(6 * 86_400_000);
    expect(dateOf()).toBe('2027-02-26');
    rig.house.db.run(sql`UPDATE tallies SET stale = 1`);
    await countStale(rig.house);
  });

  test('as the clock goes on, a line that counts as right is what would be reckoned', async () => {
    rig.make({
      title: 'Opens soon',
      tickets: level(1800, { opens: { kind: 'at', date: '2027-02-04', time: '12:00' } }),
    });
    rig.make({ title: 'Soon over', performances: [performance('p1', '2027-02-03'), performance('p2', '2027-02-20')] });
    rig.make({
      title: 'Told later',
      publicity: { visibility: 'public', announce: { date: '2027-02-05', time: '09:00', zone: 'Europe/Dublin' } },
    });
    await countStale(rig.house);
    for (const hours of [0.1, 5, 14, 3, 20, 9, 15, 0.5, 30]) {
      await rig.pass(hours * 3_600_000);
      const right = new Set(reckoned());
      expect(keptNow().filter((candidate) => candidate !== 'stale' && !right.has(candidate))).toEqual([]);
      expect(season(rig.house, keeper, Infinity).rows).toEqual(toldAnew());
      await countStale(rig.house);
      expect(keptNow()).toEqual(reckoned());
    }
  });
});

function fault(): never {
  throw new Error('nothing was made');
}
