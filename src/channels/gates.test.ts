import { gated, type GateContext } from '@/core/listing/gates';
import { facts } from '@/core/facts/facts';
import type { RecordContent } from '@/core/record/record';
import { newOutlet, newTickets, newNotice } from '@/core/record/new-record';
import { noticePart } from '@/core/listing/parts';
import { performance, sample, venues } from '@/core/testing/samples';
import { bareListing, channelById, morning as now, onlyConnected, rows, surveyOf } from './testing/fixture';

const announce = (date: string, time = '09:00') => ({
  visibility: 'public' as const,
  announce: { date, time, zone: 'Europe/Dublin' },
});

/** Everything that may keep a listing back, one row each: what the gate says. */
const kept: [
  string,
  Partial<RecordContent>,
  string,
  Partial<GateContext>,
  { down?: string; until?: number; stops?: string[] },
][] = [
  ['public', {}, 'lectern', {}, {}],
  [
    'private',
    { publicity: { visibility: 'private', announce: null } },
    'lectern',
    {},
    { down: 'private', stops: ['not-public'] },
  ],
  [
    'unlisted, where everybody sees what there is',
    { publicity: { visibility: 'unlisted', announce: null } },
    'hearthside',
    {},
    { down: 'unlisted' },
  ],
  ['unlisted, where that can be said', { publicity: { visibility: 'unlisted', announce: null } }, 'gatefold', {}, {}],
  ['left off', {}, 'lectern', { leftOff: true }, { down: 'left off' }],
  [
    'not among the outlets',
    { tickets: newTickets({ outlets: [newOutlet('b', 'Box office')] }) },
    'gatefold',
    {},
    { down: 'no outlet' },
  ],
  ['no use for it', { tickets: newTickets({ mode: 'free entry' }) }, 'gatefold', {}, { down: 'no use' }],
  ['taken out of the record', {}, 'hearthside-posts', { emptied: 'taken out' }, { down: 'taken out' }],
  ['pencilled', { stage: 'pencilled' }, 'lectern', {}, { stops: ['pencilled'] }],
  [
    'every date held',
    { performances: [performance('p1', '2027-03-14', { pencilled: true })] },
    'lectern',
    {},
    { stops: ['pencilled'] },
  ],
  ['carried over from a copy', { carried: ['prices'] }, 'lectern', {}, { stops: ['carried-over'] }],
  [
    'left from another town',
    { carried: ['town.prices', 'prices'] },
    'lectern',
    {},
    { stops: ['carried-over', 'other-town'] },
  ],
  ['under embargo', { publicity: announce('2027-02-04') }, 'lectern', {}, { until: Date.parse('2027-02-04T09:00Z') }],
  ['announced already', { publicity: announce('2027-02-01') }, 'lectern', {}, {}],
  [
    'an announce moment that does not exist',
    { publicity: announce('2027-03-28', '01:30') },
    'lectern',
    {},
    { stops: ['moment-unclear'] },
  ],
  ['a moment of its own', {}, 'hearthside-posts', { ownMoment: { at: now + 5, zone: 'UTC' } }, { until: now + 5 }],
  [
    'a moment of its own that is unclear',
    {},
    'hearthside-posts',
    { ownMoment: { at: 'unclear', zone: 'UTC' } },
    { stops: ['moment-unclear'] },
  ],
  [
    'of two moments the later',
    { publicity: announce('2027-02-04') },
    'hearthside-posts',
    { ownMoment: { at: now + 5, zone: 'UTC' } },
    { until: Date.parse('2027-02-04T09:00Z') },
  ],
  ['not connected', {}, 'lectern', { connected: false }, { stops: ['not-connected'] }],
];

test.each(kept)('%s', (_, part, channel, context, expected) => {
  const made = facts(sample(part), { code: 'X', venues, now });
  const { rules } = channelById(channel);
  const said = gated({
    facts: made,
    rules,
    connected: true,
    audience: { who: 'everyone' },
    leftOff: false,
    draftThere: false,
    emptied: null,
    ownMoment: null,
    stands: 'never',
    now,
    ...context,
  });
  expect(said.down).toBe(expected.down ?? null);
  expect(said.until).toBe(expected.until ?? null);
  expect(said.findings.filter((finding) => finding.weight === 'stops').map((finding) => finding.code)).toEqual(
    expected.stops ?? [],
  );
});

test('the plan asks the same gates: what they keep back is in no errand but one that takes it down', () => {
  for (const [name, part, channel, context, expected] of kept) {
    if (context.ownMoment || context.emptied) continue;
    const content = sample({ ...part, leftOff: context.leftOff ? [channel] : [] });
    const channels = context.connected === false ? onlyConnected([]) : rows;
    const listing = surveyOf({ content, channels }).listings.find(
      (surveyedListing) => surveyedListing.channel === channel,
    );
    const back = expected.down !== undefined || expected.until !== undefined || expected.stops !== undefined;
    const shows =
      listing !== undefined &&
      listing.down === null &&
      listing.embargoUntil === null &&
      !listing.findings.some((finding) => finding.weight === 'stops');
    if (channel !== 'hearthside-posts') expect([name, shows]).toEqual([name, !back]);
  }
});

test('a notice that was taken out is taken down, whatever else is so', () => {
  const known = bareListing('hearthside-posts', noticePart('n1'), {
    sent: { listed: { kind: 'state', is: 'public' } },
    sentAt: 1,
  });
  const content = sample({ notices: [newNotice('n2', 'hearthside-posts')] });
  const mine = surveyOf({ content, listings: [known] }).listings.find((listing) => listing.id === known.id);
  expect([mine?.down, mine?.standing]).toEqual(['taken out', 'due']);
});

test('no page of ours leads to a marketplace that does not sell it any more', () => {
  const given = bareListing('gatefold', 0, {
    performanceIds: ['p1'],
    link: 'https://g.example/e/1',
    sent: { listed: { kind: 'state', is: 'public' } },
    sentAt: 1,
  });
  const link = (part: Partial<RecordContent>) =>
    surveyOf({ content: sample(part), listings: [given] }).listings.find((listing) => listing.channel === 'lectern')
      ?.wanted.link;
  expect(link({})).toEqual({ kind: 'url', href: 'https://g.example/e/1?via=lectern' });
  expect([
    link({ leftOff: ['gatefold'] }),
    link({ performances: [performance('p1', '2027-03-14', { turn: 'postponed' })] }),
  ]).toEqual([undefined, undefined]);
});
