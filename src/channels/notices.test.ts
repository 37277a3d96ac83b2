import { readAny } from './kit/read';
import { takenDown } from '@/core/listing/shown';
import { newNotice } from '@/core/record/new-record';
import { noticePart } from '@/core/listing/parts';
import type { Notice, RecordContent } from '@/core/record/record';
import { takeTheirs } from '@/core/listing/take-theirs';
import { performance, sample } from '@/core/testing/samples';
import { bareListing, channelById, planOf, surveyOf } from './testing/fixture';
import type { KnownListing } from './survey-shapes';

const posts = 'hearthside-posts';
const hourMs = 3_600_000;
const now = Date.parse('2027-02-02T10:20Z');
const part = noticePart('n1');
const link = 'https://tickets.example/e/1';

function survey(
  notices: Partial<Notice>[],
  more: { known?: Partial<KnownListing>; record?: Partial<RecordContent>; now?: number } = {},
) {
  const content = sample({
    ...more.record,
    notices: notices.map((notice, i) => newNotice(`n${i + 1}`, posts, notice)),
    leftOff: ['lectern', 'hearthside'],
  });
  const gatefold = bareListing('gatefold', 0, { link });
  const listings = [gatefold, ...(more.known ? [bareListing(posts, part, more.known)] : [])];
  const made = surveyOf({ content, listings, now: more.now ?? now });
  const mine = made.listings.filter((listing) => listing.channel === posts);
  const planned = planOf(made).errands.filter((errand) => errand.channel === posts);
  return { mine, planned, made };
}

/** A notice as it stands after it was sent and read: `lapsesAt` from now, in hours. */
function standing(
  notice: Partial<Notice>,
  lapsesIn: number | null,
  observed: { pinned?: boolean } = {},
): Partial<KnownListing> {
  const sent = survey([notice]).mine[0]?.wanted ?? {};
  const shown =
    observed.pinned === undefined ? sent : { ...sent, pinned: { kind: 'flag' as const, on: observed.pinned } };
  return {
    sent,
    previous: sent,
    observed: shown,
    sentAt: now - 200 * hourMs,
    observedAt: now - 100,
    lapsesAt: lapsesIn === null ? null : now + lapsesIn * hourMs,
  };
}

test('words are filled from the facts, or written from them where there are none', () => {
  const { mine } = survey([{ words: '{{ title }}: {{ weekday }} at {{ start }}', pin: true }, {}]);
  const bodies = mine.map((listing) => (listing.wanted.body?.kind === 'text' ? listing.wanted.body.text : ''));
  expect(bodies[0]).toBe('Odalys Quarry: Sunday at 19:30');
  expect(bodies[1]).toMatch(
    /^Odalys Quarry with Tin Meridian. Sunday 14 March, 19:30, The Vat, Tallow Yard, Marrowby. €22/,
  );
  expect(mine.map((listing) => [listing.wanted.pinned, listing.wanted.link])).toEqual(
    [true, false].map((on) => [
      { kind: 'flag', on },
      { kind: 'url', href: `${link}?via=${posts}.${on ? 'n1' : 'n2'}` },
    ]),
  );
});

test('no event without a notice has a listing there', () => expect(survey([]).mine).toEqual([]));

const pinned = { words: 'Come', pin: true };
test.each<
  [
    string,
    Partial<Notice>,
    number | null,
    { pinned?: boolean },
    { record?: Partial<RecordContent>; now?: number },
    string | null,
    string[],
  ]
>([
  ['long before it lapses', pinned, 72, {}, {}, 'instep', []],
  ['two days before, to the minute', pinned, 48, {}, {}, 'due', ['renew']],
  ['after it has lapsed', pinned, -3, { pinned: false }, {}, 'due', ['renew']],
  ['taken off by hand long before', pinned, 72, { pinned: false }, {}, 'drifted', []],
  [
    'lapsed, and the event is over',
    pinned,
    -3,
    { pinned: false },
    { record: { performances: [performance('p1', '2027-01-14')] } },
    'instep',
    [],
  ],
  ['never pinned', { words: 'Come' }, null, {}, {}, 'instep', []],
  ['not wanted pinned any more', { words: 'Come' }, 72, {}, {}, 'due', ['amend']],
])('a pin %s', (_, notice, lapsesIn, observed, more, expected, ops) => {
  const before = notice.pin ? notice : { ...notice, pin: lapsesIn !== null };
  const { mine, planned } = survey([notice], { ...more, known: standing(before, lapsesIn, observed) });
  // The moment of an event that is over changes nothing but its words, which are the same here.
  expect([mine[0]?.standing, planned.map((errand) => errand.op)]).toEqual([expected, ops]);
});

test('what else is to say goes first; the renewal follows', () => {
  const known = standing(pinned, 5);
  const { planned } = survey([{ words: 'Come all', pin: true }], { known });
  expect(planned.map((errand) => [errand.op, errand.changes.map((change) => change.key)])).toEqual([
    ['amend', ['body']],
  ]);
  expect(survey([pinned], { known }).mine[0]?.findings.map((finding) => finding.code)).toContain('lapsing');
});

test('a notice taken out of the record comes down; one with a moment of its own waits for it', () => {
  const gone = survey([], { known: standing(pinned, 72) });
  expect([gone.mine[0]?.wanted, gone.planned.map((errand) => errand.op)]).toEqual([takenDown, ['unpublish']]);
  const later = survey([{ notBefore: { date: '2027-03-01', time: '10:00', zone: 'Europe/Dublin' } }]);
  expect([
    later.mine[0]?.standing,
    later.planned[0]?.notBefore,
    later.mine[0]?.findings.map((finding) => finding.code),
  ]).toEqual(['embargoed', Date.parse('2027-03-01T10:00Z'), ['goes-later']]);
  const embargo = survey([{ notBefore: { date: '2027-03-01', time: '10:00', zone: 'Europe/Dublin' } }], {
    record: {
      publicity: { visibility: 'public', announce: { date: '2027-03-02', time: '10:00', zone: 'Europe/Dublin' } },
    },
  });
  expect(embargo.planned[0]?.notBefore).toBe(Date.parse('2027-03-02T10:00Z'));
});

test('what the channel shows is taken into the notice it stands for, and nowhere else', () => {
  const content = sample({
    notices: [newNotice('n1', posts, { words: 'Ours' }), newNotice('n2', posts, { words: 'Another' })],
  });
  const take = (key: string, value: Parameters<typeof takeTheirs>[2]) => {
    const show = (next: RecordContent) =>
      surveyOf({ content: next, listings: [bareListing('gatefold', 0, { link })] }).listings.find(
        (listing) => listing.channel === posts && listing.part === part,
      )?.proof ?? {};
    const taken = takeTheirs(content, key, value, { rules: channelById(posts).rules, part, show });
    return taken.ok
      ? [taken.value.notices.map((notice) => [notice.words, notice.pin]), taken.value.words.full === content.words.full]
      : taken.error;
  };
  expect(take('body', { kind: 'text', text: 'Theirs' })).toEqual([
    [
      ['Theirs', false],
      ['Another', false],
    ],
    true,
  ]);
  expect(take('pinned', { kind: 'flag', on: true })).toEqual([
    [
      ['Ours', true],
      ['Another', false],
    ],
    true,
  ]);
  expect([take('link', { kind: 'url', href: link }), take('body', { kind: 'flag', on: true })]).toEqual([
    'not-a-fact-of-the-record',
    'made-from-others',
  ]);
});

test('the public page of a post has the last word', () => {
  const wire = { text: 'Told', pinned: true, visible: true };
  const page = (words: string) =>
    `<article itemscope itemtype="https://schema.org/SocialMediaPosting"><p itemprop="articleBody">${words}</p></article>`;
  const read = (more: object, seen: string) =>
    readAny(channelById(posts).rules, { wire: { ...wire, ...more }, page: seen }, { items: new Set() });
  expect(read({}, page('Seen')).body).toEqual({ kind: 'text', text: 'Seen' });
  // What its interface calls public and nobody sees waits there; what it calls hidden was taken down.
  expect([read({}, '').listed, read({ visible: false }, '').listed]).toEqual([
    { kind: 'state', is: 'draft' },
    { kind: 'state', is: 'closed' },
  ]);
});
