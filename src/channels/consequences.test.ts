import { quoteKey, saidOfQuotes, type Quote } from '@/core/errands/quotes';
import type { ChangeGround } from '@/core/errands/change-ground';
import { consequences, doesNothing } from '@/core/errands/consequences';
import { newLevel, newNotice, newOutlet, newTickets } from '@/core/record/new-record';
import type { RecordContent } from '@/core/record/record';
import { codedVenues, performance, sample } from '@/core/testing/samples';
import { changedFacts, draftedReason } from '@/core/words/change-words';
import { noticePart } from '@/core/listing/parts';
import { channelOf, plainRow } from './channels';
import { shownFrom, surveyRecord } from './survey';
import type { KnownListing } from './survey-shapes';
import { inputOf, morning } from './testing/fixture';

/*
 * One change on ten channels: what is right at once, locked, right later, said already, wrong until when, and who is
 * told. Everything stands as it was sent two days ago, and was read since.
 */

const hourMs = 3_600_000;
const kinds = [
  ...['lectern', 'gatefold', 'pennyseat', 'hearthside', 'hearthside-posts', 'murmurline'],
  ...['fernway', 'ostinato', 'marrowby-diary', 'postbag'],
];
const rows = kinds.map((kind) => plainRow(kind, kind === 'postbag' ? { settings: { segment: 'members' } } : {}));
const channels = rows.map((row) => channelOf(row));
const sources = new Map(
  channels.flatMap((channel) =>
    channel.rules.mirrors === null ? [] : [[channel.rules.id, shownFrom(channel, channels)] as const],
  ),
);
const outlets = [
  newOutlet('o1', 'Gatefold', { channel: 'gatefold', allocation: 200 }),
  newOutlet('o2', 'Pennyseat', { channel: 'pennyseat', allocation: 30 }),
];
const notices = ['hearthside-posts', 'murmurline', 'postbag'].map((channel) =>
  newNotice(`n-${channel}`, channel, { words: '{{ title }}, {{ weekday }} at {{ start }}' }),
);
const content = sample({
  outlets,
  notices,
  tickets: newTickets({ levels: [newLevel('s', 'Standard', 2200)], outlets }),
} as Partial<RecordContent>);

const ground = (given: RecordContent, known: readonly KnownListing[], now = morning): ChangeGround => {
  const { facts, listings } = surveyRecord(
    inputOf({ content: given, venues: codedVenues, channels: rows, listings: known, now, monotonic: now }),
  );
  return { content: given, facts, listings };
};
/** Everything as it is wanted stands there, since so long; `sold` on the marketplace. */
function standing(given: RecordContent, sold: number, sinceMs = 48 * hourMs): KnownListing[] {
  const first = ground(given, []);
  return first.listings.map(({ id, channel, part, performanceIds, wanted }) => ({
    ...{ id, channel, part, performanceIds, publicUrl: null, link: null, gifts: {} },
    ...{ sold: channel === 'gatefold' ? sold : 0, twins: [], note: '', turnedDown: false, gone: false },
    ...{ sent: wanted, sentTimes: {}, previous: wanted, observed: wanted, lapsesAt: null, pendingOutcome: null },
    ...{ sentAt: morning - sinceMs, observedAt: morning - 60_000 },
  }));
}
function change(part: Partial<RecordContent>, sold = 212, sinceMs?: number, base = content) {
  const known = standing(base, sold, sinceMs);
  const [before, after] = [ground(base, known), ground({ ...base, ...part }, known)];
  const made = consequences({
    now: morning,
    usual: new Map(),
    before,
    after,
    sources,
    rooms: ['The Vat', 'Wick Room'],
    handedOn: null,
  });
  return { before, after, made };
}
const later = { performances: [performance('p1', '2027-03-14', { start: '20:00' })] };
const names = (items: readonly { channel: string }[]) => items.map(({ channel }) => channel).sort();

test('a later start with 212 sold: each listing stands in one row, and none is left out', () => {
  const { made } = change(later);
  expect({
    atOnce: names(made.atOnce),
    locked: made.locked.map(({ channel, sold, ways }) => [channel, sold, ways.map(({ id }) => id)]),
    later: names(made.later),
    said: made.said.map(({ channel, mending }) => [channel, mending]),
    rest: [made.asks, made.held, made.busy, made.apart],
  }).toEqual({
    atOnce: ['fernway', 'hearthside', 'lectern'],
    locked: [['gatefold', 212, ['reschedule', 'leave']]],
    later: ['marrowby-diary', 'ostinato', 'pennyseat'],
    said: [
      ['hearthside-posts', 'edit'],
      ['murmurline', 'anew'],
      ['postbag', 'anew'],
    ],
    rest: [[], [], [], []],
  });
});

test('by when each is right: after the step for what is locked, by its batch, its visit, its source', () => {
  const { made } = change(later);
  const by = new Map([...made.atOnce, ...made.later].map((item) => [item.channel as string, item.by]));
  const when = (channel: string) =>
    [by.get(channel)?.asRule, by.get(channel)?.atLatest].map((at) => new Date(at ?? 0).toISOString().slice(5, 16));
  expect(when('lectern')).toEqual(['02-02T10:22', '02-02T10:42']);
  expect(when('pennyseat')).toEqual(['02-02T11:00', '02-02T12:00']);
  expect(when('marrowby-diary')).toEqual(['02-03T10:00', '02-03T12:00']);
  expect(when('ostinato')).toEqual(['02-04T02:22', '02-04T02:41']);
  expect(made.later.map(({ channel, op }) => [channel, op])).toContainEqual(['ostinato', null]);
  // The shortest first: channels that are right by the same moment stand together.
  expect(made.wrong.map(({ channels: ids }) => ids.length).reduce((a, b) => a + b)).toBe(6);
  expect(made.wrong.at(-1)?.channels).toEqual(['ostinato']);
});

test('a step foretells whom it writes to, and what it leaves', () => {
  const { made } = change(later);
  const step = made.locked[0]?.foreseen.reschedule;
  expect([step?.tells, step?.told, step?.undo.how, step?.leaves]).toEqual(['buyers', 212, 'in part', []]);
  expect(made.holders).toEqual([expect.objectContaining({ channel: 'gatefold', sold: 212, told: 'way' })]);
});

test('with nothing sold nothing is locked, and nobody has to be told', () => {
  const { made } = change(later, 0);
  expect([made.locked, made.holders]).toEqual([[], []]);
  expect(names(made.atOnce)).toContain('gatefold');
  expect(made.atOnce.every(({ behindStep }) => !behindStep)).toBe(true);
});

test('what shows only after the doors open is told so', () => {
  const soon = { ...content, performances: [performance('p1', '2027-02-03', { start: '19:30' })] };
  const { made } = change({ performances: [performance('p1', '2027-02-03', { start: '20:00' })] }, 0, undefined, soon);
  expect(made.later.map(({ channel, afterDoors }) => [channel, afterDoors])).toEqual([
    ['pennyseat', false],
    ['marrowby-diary', false],
    ['ostinato', true],
  ]);
});

test('a short notice is edited within its twenty minutes, and is put right in a reply after them', () => {
  const mending = (sinceMs: number) =>
    change(later, 0, sinceMs).made.said.find(({ channel }) => channel === 'murmurline')?.mending;
  expect([mending(19 * 60_000), mending(21 * 60_000)]).toEqual(['edit', 'anew']);
});

test('a post that was never sent goes only when it is asked for', () => {
  const known = standing(content, 0).filter(({ part }) => part !== noticePart('n-murmurline'));
  const after = ground({ ...content, ...later }, known);
  const before = ground(content, known);
  const made = consequences({ now: morning, usual: new Map(), before, after, sources, rooms: [], handedOn: null });
  expect(made.apart.map(({ channel, tells }) => [channel, tells])).toEqual([['murmurline', 'followers']]);
  expect(names(made.said)).not.toContain('murmurline');
});

test('sentences that quoted the old hour are found; those that were wrong before are none of this change', () => {
  const words = { ...content.words, teaser: 'From half past seven.', line: 'In the Wick Room.' };
  const known = standing({ ...content, words }, 0);
  const [before, after] = [ground({ ...content, words }, known), ground({ ...content, words, ...later }, known)];
  const made = consequences({
    now: morning,
    usual: new Map(),
    before,
    after,
    sources,
    rooms: ['The Vat', 'Wick Room'],
    handedOn: null,
  });
  expect(made.sentences.map(({ where, mention }) => [where, mention.text])).toEqual([['teaser', 'half past seven']]);
});

test('moments of the sale that go by the start move with it', () => {
  const { made } = change(later);
  expect(made.moments.map(({ what, level, after, before }) => [what, level, after - before])).toEqual([
    ['off sale', 'Standard', hourMs / 2],
  ]);
});

test('an unchanged record in step does nothing; words alone ask nothing of anybody', () => {
  expect(doesNothing(change({}).made)).toBe(true);
  const { made } = change({ words: { ...content.words, teaser: 'Harp, and tape.' } });
  expect([made.locked, made.holders, made.moments]).toEqual([[], [], []]);
  expect(doesNothing(made)).toBe(false);
});

test.each<[string, Partial<Parameters<typeof performance>[2]>, string, string[]]>([
  ['later', { start: '20:00' }, 'It starts half an hour later, at 20:00.', ['start']],
  ['earlier', { start: '18:30' }, 'It starts an hour earlier, at 18:30.', ['start']],
  [
    'another day',
    { date: '2027-05-14' },
    'It takes place on Fri 14 May 2027 at 19:30, not on Sun 14 Mar 2027. Tickets stay valid.',
    ['doors', 'start', 'end'],
  ],
  ['another room', { roomId: 'wick' }, 'It takes place in Wick Room, Tallow Yard.', ['place']],
  ['cancelled', { turn: 'cancelled' }, 'Odalys Quarry on Sun 14 Mar 2027 is cancelled.', ['status']],
  [
    'postponed',
    { turn: 'postponed' },
    'Odalys Quarry on Sun 14 Mar 2027 is postponed. A new date follows. Tickets stay valid.',
    ['status'],
  ],
])('the reason is drafted: %s', (_, part, words, labels) => {
  const { before, after } = change({ performances: [performance('p1', '2027-03-14', part)] }, 0);
  expect(draftedReason(before.facts, after.facts)).toBe(words);
  expect(changedFacts(before.facts, after.facts).map(({ label }) => label)).toEqual(labels);
});

test('what a turn says of tickets stands in the reason, without what was known of refunds before', () => {
  const tickets = (refunds: string) => ({ ...content.tickets, refunds });
  const off = { performances: [performance('p1', '2027-03-14', { turn: 'cancelled' as const })] };
  const base = { ...content, tickets: tickets('Up to a week before.') };
  const reason = (part: Partial<RecordContent>) => {
    const { before, after } = change(part, 0, undefined, base);
    return draftedReason(before.facts, after.facts);
  };
  const cancelled = 'Odalys Quarry on Sun 14 Mar 2027 is cancelled.';
  expect(reason(off)).toBe(cancelled);
  expect(reason({ ...off, tickets: tickets('Up to a week before. Tickets are paid back.') })).toBe(
    `${cancelled} Tickets are paid back.`,
  );
  expect(reason({ ...off, tickets: tickets('Ask at the door.') })).toBe(`${cancelled} Ask at the door.`);
});

test('the reason names each date that a turn befell, and no other', () => {
  const reason = (count: number, off: number) => {
    const nights = (turn: 'none' | 'cancelled') =>
      Array.from({ length: count }, (_, i) => {
        const day = `2027-03-${14 + i}`;
        return performance(`p${i}`, day, i < off ? { turn } : {});
      });
    const base = { ...content, performances: nights('none') };
    const { before, after } = change({ performances: nights('cancelled') }, 0, undefined, base);
    return draftedReason(before.facts, after.facts);
  };
  expect(reason(3, 1)).toBe('Odalys Quarry on Sun 14 Mar 2027 is cancelled.');
  expect(reason(3, 2)).toBe('Odalys Quarry on Sun 14 Mar 2027 and Mon 15 Mar 2027 is cancelled.');
  expect(reason(6, 5)).toBe('Odalys Quarry on 5 dates from Sun 14 Mar 2027 until Thu 18 Mar 2027 is cancelled.');
});

test('what quotes the old fact beyond the channels is named: a file taken out, a document, ticked lines', () => {
  const fileId = 'a'.repeat(64);
  const paper = {
    id: 'd1',
    fileId,
    name: 'plan.pdf',
    type: 'application/pdf',
    bytes: 9,
    title: '',
    who: 'anyone' as const,
    from: null,
  };
  const base = { ...content, documents: [paper] };
  const quotes = (part: Partial<RecordContent>, handedOn: number | null) => {
    const known = standing(base, 212);
    const [before, after] = [ground(base, known), ground({ ...base, ...part }, known)];
    return consequences({ now: morning, usual: new Map(), before, after, sources, rooms: [], handedOn }).quotes;
  };
  const fresh = { ...paper, id: 'd2', fileId: 'b'.repeat(64), title: 'The new plan' };
  expect(quotes({ ...later, documents: [paper, fresh] }, 5)).toEqual([
    { kind: 'file', at: 5 },
    { kind: 'document', id: 'd1', name: 'plan.pdf' },
  ]);
  expect(quotes({ ...later, documents: [{ ...paper, title: 'The plan' }] }, null)).toEqual([
    { kind: 'document', id: 'd1', name: 'The plan' },
  ]);
  // What says nothing else than before contradicts nothing; nor does what was taken off.
  expect([quotes({}, 5), quotes({ ...later, documents: [] }, null)]).toEqual([[], []]);
});

test('what is said of what quotes the old fact names each as seen to, or as left', () => {
  const quotes: Quote[] = [
    { kind: 'file', at: 5 },
    { kind: 'document', id: 'd1', name: 'The plan' },
    { kind: 'sheet', lines: 1 },
  ];
  const said = (...mended: string[]) => saidOfQuotes(quotes, new Set(mended));
  expect(saidOfQuotes([], new Set(['file']))).toBeNull();
  expect(said(...quotes.map(quoteKey))).toBe(
    'sees to what quotes the old fact: the file that was taken out, the document The plan and 1 line of the sheet',
  );
  expect(said('document d1')).toBe(
    'sees to what quotes the old fact: the document The plan; left what quotes the old fact as it is: the file that was taken out and 1 line of the sheet',
  );
});

test('of the posts and letters, those tell who bought that say that they do', () => {
  const marked = notices.map((notice) => ({ ...notice, holders: notice.channel === 'postbag' }));
  const { made } = change({ ...later, notices: marked }, 212);
  const telling = standing(content, 0).filter(({ id }) => made.telling.includes(id));
  expect(telling.map(({ channel }) => channel)).toEqual(['postbag']);
});
