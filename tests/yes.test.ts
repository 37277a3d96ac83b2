import { by, keeper } from '@/core/testing/doers';
import type { RecordId } from '@/core/base/ids';
import { newEntry, newWords } from '@/core/record/new-record';
import { performance } from '@/core/testing/samples';
import { clashKey, doubleBookings, makeDispatch } from '@/desk/dispatch/make-dispatch';
import { toSend } from '@/desk/dispatch/to-send';
import { seasonClashes } from '@/desk/records/bookings';
import { channelsView } from '@/desk/channels/channels-view';
import { allowHost } from '@/desk/channels/connect-channel';
import { accountOf, allChannels, keepAt } from '@/store/channels';
import { foreignHost } from '@/house/clients';
import { countStale } from '@/runner/tally';
import { pulseRow } from '@/store/pulse';
import { makeRig, type Rig } from './rig';

/* What a yes asks for: double bookings and warnings that are to be seen, each once. */

let rig: Rig;
beforeAll(async () => {
  rig = await makeRig(['lectern']);
});
afterAll(() => rig.end());

const idsOf = (id: RecordId) => new Set(rig.listings(id).map((listing) => listing.id as string));
const said = (id: RecordId, seen: string[]) => {
  const made = makeDispatch(rig.house, by('Maren'), idsOf(id), { seen });
  return made.ok ? 'gone out' : made.error;
};

test('a double booking is to be seen before anything tells of either event; seen once, it is not asked again', () => {
  const night = { performances: [performance('p1', '2027-05-09')], lineUp: [newEntry('a', 'Reed Count')] };
  const one = rig.make({ title: 'First There', ...night });
  rig.make({ title: 'Second There', ...night });
  const clashes = doubleBookings(seasonClashes(rig.house, keeper), one);
  expect(clashes.map((clash) => clash.code)).toContain('room-overlap');
  const warnings = toSend(rig.house, keeper, [one]).flatMap((event) =>
    event.errands.flatMap((errand) => errand.unseen),
  );
  expect(said(one, warnings)).toMatch(/With “Second There”: .*Tick that you have seen it/);
  expect(said(one, [...warnings, ...clashes.slice(1).map(clashKey)])).toMatch(/Tick that you have seen it/);
  expect(said(one, [...warnings, ...clashes.map(clashKey)])).toBe('gone out');
  const other = rig.make({ title: 'Third', performances: [performance('p1', '2027-06-09')], lineUp: [] });
  expect(doubleBookings(seasonClashes(rig.house, keeper), other)).toEqual([]);
});

test('a warning that nobody has seen holds the yes; how many there are is said', () => {
  // Its teaser was drafted, and nobody has looked at it.
  const id = rig.make({
    title: 'Warned Of',
    performances: [performance('p1', '2027-07-09')],
    words: newWords({ teaser: 'Soon.', drafted: ['teaser'] }),
    lineUp: [],
  });
  const unseen = toSend(rig.house, keeper, [id]).flatMap((event) => event.errands.flatMap((errand) => errand.unseen));
  expect(unseen.length).toBeGreaterThan(0);
  expect(said(id, [])).toMatch(unseen.length === 1 ? /^One warning is not/ : /^\d+ warnings are not/);
  expect(said(id, unseen)).toBe('gone out');
});

test('a host that a channel gave addresses on is told until it is allowed', () => {
  const [row] = allChannels(rig.house.db);
  const account = row && accountOf(row);
  if (!row || !account) throw new Error('no channel');
  keepAt(rig.house.db, account, foreignHost, 'elsewhere.example', 'https://elsewhere.example/1');
  const foreign = () =>
    channelsView(rig.house, keeper)
      .channels.find(({ id }) => id === row.id)
      ?.foreign.map(({ host }) => host);
  expect(foreign()).toEqual(['elsewhere.example']);
  expect(allowHost(rig.house, keeper, row.id, 'elsewhere.example').ok).toBe(true);
  expect([foreign(), allowHost(rig.house, keeper, row.id, 'never.example').ok]).toEqual([[], false]);
});

test('what is to go and cannot is counted apart from what is pencilled; put right, it is counted no more', async () => {
  const held = async () => {
    await countStale(rig.house);
    return pulseRow(rig.house.db).held;
  };
  const before = await held();
  const id = rig.make({ title: 'No Picture', performances: [performance('p1', '2027-08-09')], pictures: [] });
  const pencilled = rig.make({ title: 'Perhaps', stage: 'pencilled', performances: [performance('p1', '2027-08-19')] });
  expect([await held(), rig.listings(pencilled).length]).toEqual([before + 1, 1]);
  rig.save(id, 1, rig.content({ title: 'No Picture', performances: [performance('p1', '2027-08-09')] }));
  expect(await held()).toBe(before);
});
