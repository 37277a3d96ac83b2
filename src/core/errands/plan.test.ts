import { channelIdSchema, listingIdSchema, recordIdSchema } from '../base/ids';
import { compareListing, neverSent as nothing, type ListingState } from '../listing/compare';
import type { ChannelRules } from '../listing/channel-rules';
import type { LockContext, OperationRow } from '../listing/operations';
import { finding, type Finding } from '../findings/finding';
import { refusalOf } from './narrowing';
import { byWay, overwrite, plan } from './plan';
import { stepsFor } from './steps';
import type { SurveyedListing } from './surveyed';
import { takenDown, type Shown, type ShownValue } from '../listing/shown';
import { standingOf } from '../listing/standing';

const now = 1_000_000_000;
const hourMs = 3_600_000;
const plain = { needs: [], undo: { how: 'wholly' }, tells: 'nobody', does: '' } as const;
const row = (op: OperationRow['op'], requests: number, part: Partial<OperationRow> = {}): OperationRow => ({
  ...plain,
  op,
  fields: 'all',
  requests,
  ...part,
});
const ops = [
  row('place', 2),
  row('amend', 1),
  row('publish', 1),
  row('unpublish', 1, { fields: 'state', leadsTo: ['closed'] }),
];
/** Just what the plan reads of a channel's rules. */
const rulesOf = (part: Partial<ChannelRules>) =>
  ({ rows: [], gives: [], locks: [], operations: ops, mirrors: null, ...part }) as unknown as ChannelRules;
const rules: Record<string, ChannelRules> = {
  market: rulesOf({
    gives: ['ticket link'],
    operations: [
      row('place', 3),
      ...ops.slice(1),
      row('reschedule', 1, { fields: ['start', 'end'], needs: ['reason'], tells: 'buyers' }),
      row('cancel', 1, {
        fields: 'state',
        leadsTo: ['cancelled'],
        needs: ['reason', 'code'],
        undo: { how: 'never' },
        tells: 'buyers',
      }),
    ],
    locks: [
      { fields: ['start', 'price'], when: { after: 'first sale' }, lets: 'none' },
      { fields: ['quantity'], when: { after: 'first sale' }, lets: 'only up' },
      { fields: ['doors'], when: { hoursBefore: 24 }, lets: 'none' },
    ],
  }),
  site: rulesOf({}),
  desk: rulesOf({
    operations: [
      ...ops.slice(0, 3),
      row('unpublish', 1, { fields: 'state', leadsTo: ['closed', 'draft'] }),
      row('remove', 1, { fields: 'state', needs: ['code'], undo: { how: 'never' } }),
    ],
  }),
  page: rulesOf({ operations: [...ops, row('renew', 1)] }),
};
const unlocked: LockContext = { sold: 0, starts: new Map(), state: 'public', sentAt: null, now };
const text = (words: string): ShownValue => ({ kind: 'text', text: words });
const on: ShownValue = { kind: 'state', is: 'public' };
const pin: ShownValue = { kind: 'flag', on: true };
const awaited: ShownValue = { kind: 'awaited', from: 'market', name: 'Market', gift: 'ticket link', track: null };
const known: ShownValue = { kind: 'url', href: 'https://tickets.example/' };
const shown = (title: string, more: Shown = {}): Shown => ({ title: text(title), listed: on, ...more });
const standing = (sent: Shown, observed: Shown = sent, part: Partial<ListingState> = {}): ListingState => ({
  ...nothing,
  sent,
  previous: sent,
  observed,
  sentAt: now - hourMs,
  observedAt: now - 1,
  lapsesAt: null,
  ...part,
});

/** A listing of record `r`, compared as it would be. */
function listing(
  name: string,
  wanted: Shown,
  state: ListingState = nothing,
  { record: id = 'r', ...part }: Partial<Omit<SurveyedListing, 'record'>> & { record?: string } = {},
): SurveyedListing {
  const record = recordIdSchema.parse(id);
  const channel = channelIdSchema.parse(name);
  const comparison = compareListing(wanted, state, {
    now,
    delayMs: hourMs / 6,
    dropped: new Set(),
    lapse: { field: 'pinned', leadMs: 2 * hourMs, renew: true },
  });
  const context = { rules: rules[channel] ?? rulesOf({}), lock: unlocked, wanted, state, comparison, ...part };
  return {
    ...context,
    ...{ id: listingIdSchema.parse(`${record}.${channel}.0`), record, channel, part: 0, performanceIds: [] },
    ...{ proof: wanted, beneath: {}, findings: [], standing: 'due', down: null, publicUrl: null },
    ...{ embargoUntil: null, steps: stepsFor(context), left: [], errand: 'none', ...part },
  };
}
const stop = (code: 'pencilled' | 'picture-none'): Finding =>
  code === 'pencilled' ? finding(['stage'], 'stops', { code }) : finding(['picture'], 'stops', { code, ratio: '3:2' });

/** What a plan comes to, in short. */
function told(listings: SurveyedListing[]) {
  const { errands, held } = plan(listings);
  return {
    go: errands.map(
      (errand) =>
        `${errand.op} ${errand.listing}${errand.needs.length > 0 ? ` after ${errand.needs.join()}` : ''}${errand.notBefore === null ? '' : ` from ${errand.notBefore - now}`}`,
    ),
    changes: errands.map((errand) => errand.changes.map((change) => change.key).join()),
    held: held.map(
      (listing) =>
        `${listing.listing}: ${listing.reasons.map((f) => f.code).join()}${listing.waitsFor === null ? '' : `waits for ${listing.waitsFor}`}`,
    ),
    requests: errands.reduce((sum, errand) => sum + errand.requests, 0),
  };
}

describe('what goes, in which order', () => {
  test.each<[string, SurveyedListing[], Partial<ReturnType<typeof told>>]>([
    ['nothing wanted, nothing sent', [], { go: [], held: [], requests: 0 }],
    [
      'a new event: who gives the link goes first, and the others after it',
      [
        listing('site', shown('A', { link: awaited })),
        listing('page', shown('A', { link: awaited })),
        listing('market', shown('A')),
      ],
      { go: ['place r.market.0', 'place r.site.0 after r.market.0', 'place r.page.0 after r.market.0'], requests: 7 },
    ],
    [
      'a link that is known is waited for by nobody',
      [listing('site', shown('A', { link: known })), listing('market', shown('A'))],
      { go: ['place r.market.0', 'place r.site.0'] },
    ],
    [
      'each record by itself, as they come',
      [
        listing('site', shown('B', { link: awaited }), nothing, { record: 'b' }),
        listing('site', shown('A', { link: awaited }), nothing, { record: 'a' }),
        listing('market', shown('B'), nothing, { record: 'b' }),
        listing('market', shown('A'), nothing, { record: 'a' }),
      ],
      {
        go: [
          'place b.market.0',
          'place b.site.0 after b.market.0',
          'place a.market.0',
          'place a.site.0 after a.market.0',
        ],
      },
    ],
    [
      'what stops one holds it, and what needs its link',
      [
        listing('market', shown('A'), nothing, { findings: [stop('pencilled')] }),
        listing('site', shown('A', { link: awaited })),
        listing('page', shown('A', { link: known })),
      ],
      { go: ['place r.page.0'], held: ['r.market.0: pencilled', 'r.site.0: waits for market'] },
    ],
    [
      'its own fault is told beside that of the link',
      [
        listing('market', shown('A'), nothing, { findings: [stop('pencilled')] }),
        listing('site', shown('A', { link: awaited }), nothing, { findings: [stop('picture-none')] }),
      ],
      { go: [], held: ['r.market.0: pencilled', 'r.site.0: picture-nonewaits for market'] },
    ],
    [
      'a warning holds nothing',
      [listing('site', shown('A'), nothing, { findings: [finding(['stage'], 'warns', { code: 'all-past' })] })],
      { go: ['place r.site.0'] },
    ],
    [
      'an errand that is under way is not planned again, and its link is counted on',
      [listing('market', shown('A'), nothing, { errand: 'open' }), listing('site', shown('A', { link: awaited }))],
      { go: ['place r.site.0 after r.market.0'] },
    ],
    [
      'an embargo is each errand’s earliest moment',
      [
        listing('market', shown('A'), nothing, { embargoUntil: now + 5 }),
        listing('site', shown('A'), nothing, { embargoUntil: now + 7 }),
      ],
      { go: ['place r.market.0 from 5', 'place r.site.0 from 7'] },
    ],
  ])('%s', (_, listings, expected) => expect(told(listings)).toMatchObject(expected));
});

describe('what an errand changes', () => {
  const sent = shown('A', { place: text('The Vat') });
  test.each<[string, SurveyedListing[], Partial<ReturnType<typeof told>>]>([
    ['nothing: in step', [listing('site', sent, standing(sent))], { go: [], held: [] }],
    [
      'one field',
      [listing('site', { ...sent, title: text('B') }, standing(sent))],
      { go: ['amend r.site.0'], changes: ['title'] },
    ],
    [
      'a field that has no value any more',
      [listing('site', shown('A'), standing(sent))],
      { go: ['amend r.site.0'], changes: ['place'] },
    ],
    [
      'what the channel shows already is not sent',
      [listing('site', shown('B', { place: text('The Vat') }), standing(sent, shown('B', { place: text('The Vat') })))],
      { go: [] },
    ],
    [
      'what somebody changed there is not sent over',
      [listing('site', sent, standing(sent, { ...sent, title: text('by hand') }))],
      { go: [] },
    ],
    [
      '… though another field goes',
      [listing('site', { ...sent, place: text('Wick Room') }, standing(sent, { ...sent, title: text('by hand') }))],
      { go: ['amend r.site.0'], changes: ['place'] },
    ],
    [
      'what is late is not sent again',
      [listing('site', sent, standing(sent, shown('old'), { previous: shown('old') }))],
      { go: [] },
    ],
    [
      'taken down: by that alone, and whatever the embargo',
      [listing('site', takenDown, standing(sent), { embargoUntil: now + 5 })],
      { go: ['unpublish r.site.0'], changes: ['listed'] },
    ],
    ['taken down, never sent: nothing', [listing('site', takenDown)], { go: [] }],
    [
      'come back: all of it, for what changed meanwhile was not compared',
      [listing('site', sent, standing({ ...sent, ...takenDown }, takenDown))],
      { go: ['publish r.site.0'], changes: ['title,listed,place'] },
    ],
    [
      'a pin that lapses, with nothing else to say',
      [
        listing(
          'page',
          shown('A', { pinned: pin }),
          standing(shown('A', { pinned: pin }), undefined, { lapsesAt: now + hourMs }),
        ),
      ],
      { go: ['renew r.page.0'], changes: ['pinned'], requests: 1 },
    ],
    [
      'a pin that lapses, with something else to say: that first',
      [
        listing(
          'page',
          shown('B', { pinned: pin }),
          standing(shown('A', { pinned: pin }), undefined, { lapsesAt: now + hourMs }),
        ),
      ],
      { go: ['amend r.page.0'], changes: ['title'] },
    ],
    [
      'a pin that holds',
      [
        listing(
          'page',
          shown('A', { pinned: pin }),
          standing(shown('A', { pinned: pin }), undefined, { lapsesAt: now + 3 * hourMs }),
        ),
      ],
      { go: [] },
    ],
  ])('%s', (_, listings, expected) => expect(told(listings)).toMatchObject(expected));
});

describe('ours again, over what stands there', () => {
  const sent = shown('A', { place: text('The Vat') });
  test('only the fields that were chosen', () => {
    const surveyedListing = listing('site', sent, standing(sent, { ...sent, title: text('x'), place: text('y') }));
    expect(overwrite(surveyedListing, ['title'])).toMatchObject({
      op: 'amend',
      changes: [{ key: 'title', before: text('x'), after: text('A') }],
      needs: [],
    });
  });
  test('of one that is gone from there, everything', () => {
    const gone = overwrite(listing('site', sent, standing(sent, takenDown)), ['listed']);
    expect([gone.op, gone.changes.map((change) => change.key)]).toEqual(['publish', ['title', 'listed', 'place']]);
  });
});

test('coming back clears what the record no longer says', () => {
  const before = standing({ ...shown('A', { place: text('The Vat') }), ...takenDown }, takenDown);
  const [errand] = plan([listing('site', shown('A'), before)]).errands;
  // What it was told before it was taken down was not seen since: it goes by what was sent.
  expect(errand?.changes.map((change) => [change.key, change.after])).toContainEqual(['title', text('A')]);
});

describe('what is locked there', () => {
  const at = (n: number): ShownValue => ({ kind: 'instant', at: n, zone: 'UTC' });
  const count = (n: number): ShownValue => ({ kind: 'count', n });
  const before = shown('A', { 'start@p': at(1), 'price@l': text('20'), 'quantity@l': count(50), 'doors@p': at(0) });
  const sold: LockContext = { ...unlocked, sold: 12 };
  const planned = (wanted: Shown, lock: LockContext = sold) =>
    plan([listing('market', wanted, standing(before), { lock })]);
  const short = ({ errands, locked }: ReturnType<typeof plan>) => [
    errands.map((errand) => `${errand.op} ${errand.changes.map((change) => change.key).join()}`),
    locked.map(
      (listing) => `${listing.locked.map((change) => change.key).join()}: ${listing.ways.map((way) => way.id).join()}`,
    ),
  ];
  test.each<[string, Shown, LockContext, unknown]>([
    ['nothing sold: everything is plain', { ...before, 'start@p': at(2) }, unlocked, [['amend start@p'], []]],
    [
      'sold: the start goes by its own step, or stays',
      { ...before, 'start@p': at(2) },
      sold,
      [[], ['start@p: reschedule,leave']],
    ],
    [
      'the title goes along by itself',
      { ...before, title: text('B'), 'start@p': at(2) },
      sold,
      [['amend title'], ['start@p: reschedule,leave']],
    ],
    ['a price has no way but to be left', { ...before, 'price@l': text('25') }, sold, [[], ['price@l: leave']]],
    ['a quantity rises plainly', { ...before, 'quantity@l': count(60) }, sold, [['amend quantity@l'], []]],
    ['and falls not at all', { ...before, 'quantity@l': count(40) }, sold, [[], ['quantity@l: leave']]],
    ['a new performance was never sold', { ...before, 'start@q': at(9) }, sold, [['amend start@q'], []]],
    [
      '24 hours before',
      { ...before, 'doors@p': at(5) },
      { ...unlocked, starts: new Map([['p', now + 23 * hourMs]]) },
      [[], ['doors@p: leave']],
    ],
    [
      '25 hours before',
      { ...before, 'doors@p': at(5) },
      { ...unlocked, starts: new Map([['p', now + 25 * hourMs]]) },
      [['amend doors@p'], []],
    ],
    [
      'cancelling is for ever: a person picks it, or the plainer step',
      { listed: { kind: 'state', is: 'cancelled' } },
      sold,
      [[], ['listed: cancel,unpublish,leave']],
    ],
  ])('%s', (_, wanted, lock, expected) => expect(short(planned(wanted, lock))).toEqual(expected));

  test('the way that was picked takes the rest along, and says whom it tells and what it needs', () => {
    const surveyedListing = listing('market', { ...before, title: text('B'), 'start@p': at(2) }, standing(before), {
      lock: sold,
    });
    expect(byWay(surveyedListing, 'reschedule').changes.map((change) => change.key)).toEqual(['start@p', 'title']);
    const [way] = plan([surveyedListing]).locked[0]?.ways ?? [];
    expect(way).toMatchObject({ id: 'reschedule', tells: 'buyers', needs: ['reason'] });
  });
});

describe('the standing: the most pressing wins', () => {
  const sent = shown('A', { place: text('The Vat') });
  const both = standing(sent, { ...sent, title: text('x') });
  test.each<[string, Shown, ListingState, 'none' | 'open' | 'refused', boolean, string]>([
    ['never sent', sent, nothing, 'none', false, 'unplaced'],
    ['never sent, under embargo', sent, nothing, 'none', true, 'embargoed'],
    ['queued', sent, nothing, 'open', false, 'underway'],
    ['queued, under embargo', sent, nothing, 'open', true, 'embargoed'],
    ['refused, whatever else', sent, both, 'refused', false, 'refused'],
    ['going out, though it drifted', sent, both, 'open', false, 'underway'],
    ['drifted', sent, both, 'none', false, 'drifted'],
    ['drifted before to send', { ...sent, place: text('y') }, both, 'none', false, 'drifted'],
    ['at odds before drifted', { ...sent, title: text('z') }, both, 'none', false, 'atodds'],
    ['to send', { ...sent, title: text('z') }, standing(sent), 'none', false, 'due'],
    [
      'late',
      sent,
      standing(sent, shown('old', { place: text('The Vat') }), { previous: shown('old') }),
      'none',
      false,
      'late',
    ],
    [
      'not read yet',
      sent,
      standing(sent, undefined, { sentAt: now - 1, observedAt: now - 5 }),
      'none',
      false,
      'unread',
    ],
    ['in step', sent, standing(sent), 'none', false, 'instep'],
    ['taken down', takenDown, standing({ ...sent, ...takenDown }, takenDown), 'none', false, 'withdrawn'],
  ])('%s', (_, wanted, state, errand, embargoed, expected) => {
    expect(
      standingOf({
        wanted,
        state,
        comparison: listing('site', wanted, state).comparison,
        errand,
        embargoed,
        twice: false,
        turnedDown: false,
      }),
    ).toBe(expected);
  });
});

test.each<[string, string, Shown, string, string | null]>([
  ['to be taken down', 'desk', takenDown, 'unpublish', 'remove'],
  ['to be a draft again', 'desk', shown('A', { listed: { kind: 'state', is: 'draft' } }), 'unpublish', null],
  ['to say something else', 'desk', shown('B'), 'amend', null],
  ['to be taken down where nothing can be deleted', 'site', takenDown, 'unpublish', null],
])('what is %s: whether deleting is offered beside', (_, channel, wanted, op, deleting) => {
  const { steps } = listing(channel, wanted, standing(shown('A')));
  expect([steps.op, steps.deleting?.id ?? null]).toEqual([op, deleting]);
});

describe('what may leave, by the record as it is right before it goes', () => {
  const is = (state: 'public' | 'unlisted' | 'draft' | 'closed' | 'cancelled'): ShownValue => ({
    kind: 'state',
    is: state,
  });
  const opening = (state: 'public' | 'unlisted') => [{ key: 'listed', before: null, after: is(state) }];
  const wording = [{ key: 'title', before: null, after: text('A') }];
  const stopping = (code: 'pencilled' | 'lock-undecided') =>
    finding(['stage'], 'stops', code === 'pencilled' ? { code } : { code, listings: ['r.market.0'], where: 'Market' });
  const site = (state: Parameters<typeof is>[0], part: Partial<Omit<SurveyedListing, 'record'>> = {}) =>
    listing('site', shown('A', { listed: is(state) }), nothing, part);
  test.each<[string, SurveyedListing | undefined, Parameters<typeof refusalOf>[1], typeof wording, RegExp | null]>([
    ['words of what is public', site('public'), 'amend', wording, null],
    ['taking out of sight, whatever it says', site('public', { embargoUntil: now + 1 }), 'unpublish', [], null],
    ['a part that is gone', undefined, 'amend', wording, /is not there/],
    ['deleting what is down', site('closed'), 'remove', [], null],
    ['deleting what is public', site('public'), 'remove', [], /to be seen/],
    ['deleting what stays a draft', site('draft'), 'remove', [], /to be seen/],
    ['deleting what is cancelled, which is to be read', site('cancelled'), 'remove', [], /to be seen/],
    ['deleting a part that is gone', undefined, 'remove', [], /is not there/],
    ['cancelling what is cancelled', site('cancelled'), 'cancel', [], null],
    ['cancelling what is not', site('public'), 'cancel', [], /not cancelled any more/],
    ['words of what is down', site('closed'), 'amend', wording, /does not allow/],
    ['words of what is cancelled', site('cancelled'), 'amend', wording, null],
    ['words of a draft', site('draft'), 'amend', wording, null],
    ['opening a draft', site('draft'), 'publish', opening('public'), /keeps it a draft/],
    ['opening a draft by the link alone', site('draft'), 'publish', opening('unlisted'), /keeps it a draft/],
    ['showing everybody what is unlisted', site('unlisted'), 'publish', opening('public'), /unlisted/],
    ['placing under embargo', site('public', { embargoUntil: now + 1 }), 'place', wording, /embargo/],
    ['words that a finding stops', site('public', { findings: [stopping('pencilled')] }), 'amend', wording, /stops it/],
    [
      'what was said yes to beside a lock',
      site('public', { findings: [stopping('lock-undecided')] }),
      'amend',
      wording,
      null,
    ],
  ])('%s', (_, listing, op, changes, why) => {
    if (why === null) expect(refusalOf(listing, op, changes)).toBeNull();
    else expect(refusalOf(listing, op, changes)).toMatch(why);
  });
});
