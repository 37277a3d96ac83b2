import { facts } from '@/core/facts/facts';
import { leftOut } from '@/core/listing/left-out';
import { shownKey } from '@/core/listing/shown';
import { newLevel, newNotice, newTickets } from '@/core/record/new-record';
import { valueWords } from '@/core/listing/rich-words';
import type { Venue } from '@/core/record/directory';
import type { RecordContent } from '@/core/record/record';
import { registrationSchema } from '@/core/record/ticket-schema';
import { performance, sample, venues } from '@/core/testing/samples';
import { plainRow } from './channels';
import {
  bareListing,
  channelById,
  codes,
  listingOf,
  morning as now,
  onlyConnected,
  rows,
  shownOn,
  surveyOf,
} from './testing/fixture';

const level = newLevel('s', 'Standard', 2200);

test('a marketplace that knows no passes is stopped rather than selling them as tickets', () => {
  const { rules } = channelById('gatefold');
  expect(rules.rows.some((row) => row.field === 'covers')).toBe(true);
  const part = {
    performances: [performance('p1', '2027-03-14'), performance('p2', '2027-03-15')],
    tickets: newTickets({ levels: [{ ...level, covers: { kind: 'all' as const } }] }),
  };
  expect(shownOn(part, 'gatefold')['covers@s']).toBe('both');
  expect(codes(part, 'lectern', { channels: onlyConnected(['lectern']) })).not.toContain('stops left-out-here');
});

describe('what a level says of who comes in', () => {
  const one = newLevel('s', 'Standard', 2200);
  const family = newLevel('f', 'Family', 6000, { admits: 4 });
  const of = (...levels: ReturnType<typeof newLevel>[]) => ({ tickets: newTickets({ levels }) });
  test('a bundle is offered as often as its people fit in, and goes out with how many they are', () => {
    const part = of(one, family);
    const room = shownOn(part, 'gatefold');
    expect(shownOn(of(newLevel('d', 'Double', 3000, { admits: 2 })), 'gatefold')[shownKey('admits', 'd')]).toBe('2');
    expect([room[shownKey('admits', 'f')], room[shownKey('admits', 's')], room[shownKey('quantity', 'f')]]).toEqual([
      '4',
      undefined,
      '105',
    ]);
    expect(room.price).toBeUndefined();
    expect(shownOn(part, 'lectern').price).toBe('€22, €60 for 4 people');
  });
  test.each<[string, Parameters<typeof newLevel>[3], string[]]>([
    ['anyone', {}, []],
    ['members, with a code', { buyers: 'members', code: 'LAMP' }, []],
    ['members, without one', { buyers: 'members' }, ['stops hidden-codeless']],
    ['the invited, without one', { buyers: 'invited' }, ['stops hidden-codeless']],
    ['who have a code, without one', { buyers: 'code' }, ['stops code-empty']],
  ])('sold to %s', (_, part, expected) => {
    const record = of(one, newLevel('m', 'Friends', 1200, part));
    expect(codes(record, 'gatefold').filter((code) => /code/.test(code))).toEqual(expected);
    expect(codes(record, 'lectern').some((code) => /hidden-codeless/.test(code))).toBe(false);
    expect(shownOn(record, 'gatefold')[shownKey('code', 'm')]).toBe(part?.code);
  });
  test('an open price goes as one', () =>
    expect(
      shownOn(of(newLevel('o', 'Open', 500, { choose: true })), 'gatefold')[shownKey('choose', 'o')],
    ).toBeDefined());
  test.each([
    [{ words: 'Bring a coat.', several: '' }, 1],
    [{ words: '', several: 'You are %n.' }, 1],
    [{ words: '', several: '' }, 0],
  ])('our words in the letter that go nowhere are told: %j', (letter, times) => {
    const { facts: said } = surveyOf({ content: sample({ tickets: newTickets({ levels: [level], letter }) }) });
    const { rules } = channelById('gatefold');
    const told = (part: Parameters<typeof leftOut>[0]) =>
      leftOut(part, said).filter((f) => f.code === 'left-out-here' && f.what.some((what) => /our words/.test(what)));
    expect(told({ ...rules, rows: rules.rows.filter((row) => row.field !== 'letter') })).toHaveLength(times);
    expect(told(rules)).toEqual([]);
  });
  test('a seller without a place for bundles among its levels is stopped; one that knows no levels is told', () => {
    const { facts: said } = surveyOf({ content: sample(of(one, family)) });
    const toldBy = (part: Parameters<typeof leftOut>[0]) =>
      leftOut(part, said).flatMap((found) =>
        found.code === 'left-out-here' && found.what.some((what) => what.includes('several people'))
          ? [`${found.weight} ${found.code}`]
          : [],
      );
    const { rules } = channelById('gatefold');
    expect(toldBy(rules)).toEqual([]);
    expect(toldBy({ ...rules, rows: rules.rows.filter((row) => row.field !== 'admits') })).toEqual([
      'stops left-out-here',
    ]);
    expect(toldBy({ ...rules, rows: rules.rows.filter((row) => row.each !== 'level') })).toEqual([
      'notes left-out-here',
    ]);
  });
});

test('who waits for a link that cannot come is told, with the ways out', () => {
  const part = (precision: 'exact' | 'month') => ({
    performances: [
      performance('p', '2027-03-14', precision === 'exact' ? {} : { precision, start: null, doors: null }),
    ],
    tickets: newTickets({ levels: [level] }),
  });
  expect(codes(part('month'), 'lectern')).toContain('warns giver-stopped');
  expect(codes(part('month'), 'gatefold')).not.toContain('warns giver-stopped');
  expect(codes(part('exact'), 'lectern')).not.toContain('warns giver-stopped');
});

test('a draft is kept on the channel that it was wanted on, and on nothing that shows that channel', () => {
  const channels = [...rows, plainRow('fernway'), plainRow('ostinato')];
  const downOn = (channel: string, draftOn: string[]) => listingOf({ draftOn }, channel, { channels }).down;
  expect(['lectern', 'fernway'].map((channel) => downOn(channel, [channel]))).toEqual([null, null]);
  expect([downOn('ostinato', []), downOn('ostinato', ['fernway']), downOn('ostinato', ['lectern'])]).toEqual([
    null,
    'draft there',
    null,
  ]);
});

test('what is left as it is there asks again at its very moment, and where something else is wanted by then', () => {
  const part = {
    tickets: newTickets({ levels: [level] }),
    performances: [performance('p', '2027-03-14', { end: null })],
  };
  const sent = listingOf(part, 'gatefold').wanted;
  const moved = { ...part, performances: [performance('p', '2027-03-14', { start: '20:00', end: null })] };
  const known = bareListing('gatefold', 0, { sent, observed: sent, observedAt: 1, sentAt: 1, sold: 5 });
  const lockedWith = (left?: { at: number; start: string }) => {
    const keys =
      left === undefined
        ? {}
        : listingOf(
            { ...part, performances: [performance('p', '2027-03-14', { start: left.start, end: null })] },
            'gatefold',
          ).wanted;
    const listing = listingOf(moved, 'gatefold', {
      listings: [known],
      ...(left === undefined
        ? {}
        : { left: new Map([[known.id, { listing: known.id, keys, because: 'x', until: left.at, by: 'Maren' }]]) }),
    });
    return [listing.steps.locked.length > 0, listing.left.length > 0];
  };
  expect(lockedWith()).toEqual([true, false]);
  expect(lockedWith({ at: now + 1, start: '20:00' })).toEqual([false, true]);
  expect(lockedWith({ at: now, start: '20:00' })).toEqual([true, false]);
  expect(lockedWith({ at: now + 1, start: '21:00' })).toEqual([true, false]);
});

test.each<[string, ('none' | 'cancelled' | 'postponed')[], Record<string, string[]>]>([
  ['none', ['none', 'none'], { lectern: [], gatefold: [], hearthside: [] }],
  [
    'one called off',
    ['cancelled', 'none'],
    { lectern: ['a cancelled'], gatefold: ['a cancelled'], hearthside: ['a cancelled'] },
  ],
  ['all called off: the listing itself is', ['cancelled', 'cancelled'], { lectern: [], gatefold: [], hearthside: [] }],
  ['all put off', ['postponed', 'postponed'], { lectern: ['a postponed', 'b postponed'], gatefold: [] }],
  [
    'one and the other',
    ['cancelled', 'postponed'],
    { lectern: ['a cancelled', 'b postponed'], gatefold: ['a cancelled', 'b postponed'] },
  ],
])('what befell dates: %s', (_, turns, expected) => {
  const performances = turns.map((turn, i) => performance('ab'[i] ?? '', `2027-03-1${4 + i}`, { turn }));
  for (const [channel, told] of Object.entries(expected))
    expect([
      channel,
      Object.entries(shownOn({ performances, tickets: newTickets({ levels: [level] }) }, channel))
        .filter(([key]) => key.startsWith('befell@'))
        .map(([key, words]) => `${key.slice(7)} ${words}`),
    ]).toEqual([channel, told]);
});

test('what is asked of those who register is missed only where one registers', () => {
  const registration = registrationSchema.parse({ closes: '2027-03-05', approval: true });
  const said = facts(sample({ tickets: newTickets({ mode: 'registration', registration }) }), {
    code: 'X',
    venues,
    now,
  });
  const toldBy = (part: Partial<Parameters<typeof leftOut>[0]>) =>
    leftOut({ ...channelById('lectern').rules, ...part }, said).flatMap((found) =>
      found.code === 'left-out-here' ? found.what : [],
    );
  expect(toldBy({})).toEqual([]);
  expect(toldBy({ gives: ['registration link'] })).toEqual([
    'the last day to register',
    'that each registration needs a yes',
  ]);
});

test.each<[string, string | null, RecordContent['tickets']['mode'], string[]]>([
  ['what one pays with there', 'EUR', 'ticketed', []],
  ['another money than one pays with there', 'AUD', 'ticketed', ['warns currency-elsewhere']],
  ['a country that is not known', null, 'ticketed', []],
  ['another money, and nothing sold', 'AUD', 'free entry', []],
])('prices in %s', (_, pays, mode, expected) => {
  const there = new Map([...venues].map(([id, venue]) => [id, { ...venue, pays: pays as Venue['pays'] }]));
  const of = (channel: string) =>
    codes({ tickets: newTickets({ mode, levels: [level] }) }, channel, { venues: there }).filter((code) =>
      code.includes('currency'),
    );
  expect([of('gatefold'), of('lectern')]).toEqual([expected, []]);
});

test('what one post’s link leads to by choice is of no other and not of the listing', () => {
  const notices = ['n1', 'n2'].map((id) => newNotice(id, 'hearthside-posts', { words: 'Come' }));
  const to = { kind: 'address', href: 'https://chosen.example/' } as const;
  const linkOf = (noticeId: string | null) =>
    surveyOf({
      content: sample({ notices, linkChoices: [{ id: 'c', channel: 'hearthside-posts', noticeId, to, reason: '' }] }),
    })
      .listings.filter((listing) => listing.channel === 'hearthside-posts')
      .map((listing) => valueWords(listing.proof.link ?? { kind: 'text', text: '' }).includes('chosen.example'));
  expect([linkOf('n1'), linkOf(null)]).toEqual([
    [true, false],
    [true, true],
  ]);
});
