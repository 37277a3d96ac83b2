import { channelIdSchema, listingIdSchema, recordIdSchema } from '../base/ids';
import { neverSent, type ListingState } from '../listing/compare';
import type { ChannelRules } from '../listing/channel-rules';
import type { OperationRow } from '../listing/operations';
import { takenDown, type ListedState, type Shown, type ShownValue } from '../listing/shown';
import { narrowing, standsBeyond } from './narrowing';
import { nothingToDo } from './steps';
import type { SurveyedListing } from './surveyed';

const is = (state: ListedState): ShownValue => ({ kind: 'state', is: state });
const text = (words: string): ShownValue => ({ kind: 'text', text: words });
const row = (op: OperationRow['op'], part: Partial<OperationRow> = {}): OperationRow => ({
  ...{ op, fields: 'all', needs: [], undo: { how: 'wholly' }, tells: 'nobody', requests: 1, does: '' },
  ...part,
});
const down = (part: Partial<OperationRow> = {}) => row('unpublish', { fields: 'state', leadsTo: ['closed'], ...part });
const gentle = [row('amend'), row('publish', { leadsTo: ['public', 'unlisted'] }), down()];

interface Case {
  sent?: Shown | null;
  wanted?: Shown;
  why?: SurveyedListing['down'];
  operations?: readonly OperationRow[];
  state?: Partial<ListingState>;
  part?: Partial<SurveyedListing>;
  mirrors?: string;
  locked?: boolean;
}

function listing({
  sent,
  wanted,
  why = null,
  operations = gentle,
  state,
  part,
  mirrors,
  locked,
}: Case): SurveyedListing {
  const rules = {
    rows: [
      { field: 'title', each: 'event', label: 'title' },
      { field: 'start', each: 'performance', label: 'start' },
    ],
    ...{ gives: [], operations, mirrors: mirrors ?? null },
    locks: locked ? [{ fields: ['start'], when: { after: 'first sale' }, lets: 'none' }] : [],
  } as unknown as ChannelRules;
  return {
    ...{ id: listingIdSchema.parse('r.c.0'), record: recordIdSchema.parse('r'), channel: channelIdSchema.parse('c') },
    ...{ rules, part: 0, performanceIds: [], proof: {}, beneath: {}, findings: [], comparison: [], standing: 'due' },
    ...{ publicUrl: null, embargoUntil: null, steps: nothingToDo, left: [], errand: 'none' },
    wanted: wanted ?? takenDown,
    down: why,
    state: { ...neverSent, sent: sent === undefined ? { title: text('A'), listed: is('public') } : sent, ...state },
    lock: { sold: locked ? 2 : 0, starts: new Map(), state: 'public', sentAt: null, now: 0 },
    ...part,
  } as SurveyedListing;
}
const there = (state: ListedState, more: Shown = {}): Shown => ({ title: text('A'), listed: is(state), ...more });
const nights = { 'start@p1': text('a'), 'start@p2': text('b'), 'start@theirs-1': text('c') };

test.each<[string, Case, [op: string, keys: string, asks: boolean] | null]>([
  ['private by now', { why: 'private' }, ['unpublish', 'listed', false]],
  ['never sent', { why: 'private', sent: null }, null],
  ['deleted there', { why: 'private', state: { gone: true } }, null],
  ['what only shows another’s word', { why: 'private', mirrors: 'fernway' }, null],
  ['a draft there', { why: 'private', sent: there('draft') }, null],
  ['closed there', { why: 'private', sent: there('closed') }, null],
  ['unlisted there, and private', { why: 'private', sent: there('unlisted') }, ['unpublish', 'listed', false]],
  ['cancelled, which is said', { wanted: there('cancelled') }, null],
  [
    'to stay a draft',
    { wanted: there('draft'), operations: [down({ leadsTo: ['draft'] })] },
    ['unpublish', 'listed', false],
  ],
  ['to be unlisted, and public there', { wanted: there('unlisted') }, ['publish', 'listed', false]],
  ['to be unlisted, as it is there', { wanted: there('unlisted'), sent: there('unlisted') }, null],
  ['to be public, as it is there', { wanted: there('public') }, null],
  [
    'where it writes to people',
    { why: 'private', operations: [down({ needs: ['reason'] })] },
    ['unpublish', 'listed', true],
  ],
  [
    'where it is for ever',
    { why: 'private', operations: [down({ undo: { how: 'never' } })] },
    ['unpublish', 'listed', true],
  ],
  [
    'where it comes back in part',
    { why: 'private', operations: [down({ undo: { how: 'in part', stays: 'x' } })] },
    ['unpublish', 'listed', false],
  ],
  ['where nothing can be taken back', { why: 'private', operations: [row('place')] }, ['unpublish', 'listed', true]],
  [
    'a performance that is told to nobody any more',
    { wanted: there('public', { 'start@p1': text('a') }), sent: there('public', nights) },
    ['amend', 'start@p2', false],
  ],
  [
    'the same, where what is sold is locked',
    { wanted: there('public', { 'start@p1': text('a') }), sent: there('public', nights), locked: true },
    ['amend', 'start@p2', true],
  ],
  ['all of its performances are told', { wanted: there('public', nights), sent: there('public', nights) }, null],
])('what is taken back: %s', (_, given, expected) => {
  const back = narrowing(listing(given));
  expect(back && [back.op, back.changes.map((change) => change.key).join(), back.asks]).toEqual(expected);
});

test.each<[string, Case, boolean]>([
  ['only a person can take it back', { why: 'private', operations: [row('place')] }, true],
  ['an errand does', { why: 'private', operations: [row('place')], part: { errand: 'open' } }, false],
  ['one was refused', { why: 'private', operations: [row('place')], part: { errand: 'refused' } }, true],
  ['somebody said that it stays', { why: 'private', operations: [row('place')], part: { left: ['listed'] } }, false],
  ['it goes by itself', { why: 'private' }, false],
  ['nothing is beyond the record', { wanted: there('public') }, false],
])('it stands beyond the record where %s', (_, given, expected) => expect(standsBeyond(listing(given))).toBe(expected));
