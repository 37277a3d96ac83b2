import { by, keeper } from '@/core/testing/doers';
import type { RecordId } from '@/core/base/ids';
import { connectChannel } from '@/desk/channels/connect-channel';
import { saveAndSend } from '@/desk/records/save-and-send';
import { newTickets } from '@/core/record/new-record';
import { tryPurchase } from '@/desk/records/try-purchase';
import { tickSheet } from '@/desk/records/tick-sheet';
import { ticksOf } from '@/store/sheets';
import { makeRig, type Rig } from './rig';

/*
 * What a use-case refuses, and why: one that is asked of what is not there, or of what was read otherwise, writes
 * nothing and says the way out.
 */

let rig: Rig;
let id: RecordId;
beforeAll(async () => {
  rig = await makeRig(['lectern']);
  id = rig.make();
});
afterAll(() => rig.end());

const gone = 'gone' as RecordId;
const ticks = () => ticksOf(rig.house.db, id).map(({ line, by: name }) => [line, name]);
const tick = (part: object) =>
  tickSheet(rig.house, by('Maren'), { recordId: id, line: 'doors', value: '19:00', on: true, ...part });

test('a line of the sheet is ticked as it is saved, by name, and the tick is taken back', () => {
  expect(tick({ value: '18:30' })).toMatchObject({ ok: false, error: expect.stringContaining('doors reads “19:00”') });
  expect(tick({ recordId: gone })).toMatchObject({ ok: false });
  expect(tick({ line: 'no such line' })).toMatchObject({ ok: false });
  expect(ticks()).toEqual([]);
  expect(tick({}).ok).toBe(true);
  expect(ticks()).toEqual([['doors', 'Maren']]);
  // Taken back whatever is read there by now.
  expect(tick({ value: '18:30', on: false }).ok).toBe(true);
  expect(ticks()).toEqual([]);
});

test('what is not there is neither saved nor sent', () => {
  const wish = { id: gone, base: 1, content: rig.content(), reason: '' };
  expect(saveAndSend(rig.house, keeper, wish, new Set(), {})).toEqual({
    kind: 'stopped',
    messages: ['This record is not there any more.'],
  });
});

test('nothing is tried where nothing could be bought', async () => {
  const none = rig.make({ title: 'No level', tickets: newTickets({ levels: [] }) });
  rig.send();
  await rig.settle();
  expect(await tryPurchase(rig.house, by('Maren'), { recordId: none, channel: 'lectern' })).toEqual({
    ok: false,
    error: expect.stringContaining('nothing to be bought'),
  });
  expect(await tryPurchase(rig.house, by('Maren'), { recordId: gone, channel: 'lectern' })).toEqual({
    ok: false,
    error: expect.stringContaining('not there any more'),
  });
});

test.each<[string, RegExp]>([
  ['lectern', /http:\/\/ or https:\/\//],
  ['ftp://host.example', /http:\/\/ or https:\/\//],
  ['http://maren@host.example', /alone/],
  ['http://host.example/?a=b', /alone/],
  ['http://host.example/#a', /alone/],
])('no channel is connected at %s', async (address, words) => {
  const made = await connectChannel(rig.house, keeper, { kind: 'gatefold' }, { address, credentials: {} });
  expect(made.ok ? '' : made.error.address).toMatch(words);
});
