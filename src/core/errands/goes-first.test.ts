import { waitsForStep, type BesideErrand } from './goes-first';

const errand = (channel: string, awaits: string | null = null, way: BesideErrand['way'] = null): BesideErrand => ({
  listing: `${channel}.0`,
  channel,
  way,
  awaits,
});
const letter = errand('letter', 'seller', 'correct');

test.each<[string, BesideErrand, BesideErrand[], boolean]>([
  ['nobody picked a way', errand('page'), [errand('seller')], false],
  ['another’s step goes first', errand('page'), [errand('seller', null, 'reschedule')], true],
  [
    'the step itself does not wait for itself',
    errand('seller', null, 'reschedule'),
    [errand('seller', null, 'reschedule')],
    false,
  ],
  ['two steps: each may be refused', errand('seller', null, 'reschedule'), [errand('room', null, 'cancel')], true],
  ['what is deleted there is waited for by nobody', errand('page'), [errand('seller', null, 'remove')], false],
  [
    'what is deleted waits for a step that goes first',
    errand('page', null, 'remove'),
    [errand('seller', null, 'cancel')],
    true,
  ],
  ['what the step awaits cannot wait for it', errand('seller'), [letter], false],
  ['nor what that awaits', errand('room'), [letter, errand('seller', 'room')], false],
  ['what the step does not await waits', errand('page', 'seller'), [letter, errand('seller')], true],
  ['two that await each other end', errand('page'), [letter, errand('seller', 'room'), errand('room', 'seller')], true],
])('%s', (_, mine, beside, expected) => expect(waitsForStep(mine, [mine, ...beside])).toBe(expected));
