import { by } from '@/core/testing/doers';
import { mkdtempSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { newOutlet, newPicture } from '@/core/record/new-record';
import { performance as night, sample, tallowYard } from '@/core/testing/samples';
import { addDays } from '@/core/base/zones';
import { connectChannel } from '@/desk/channels/connect-channel';
import { makeDispatch } from '@/desk/dispatch/make-dispatch';
import { makeVenue } from '@/desk/directory/make-venue';
import { addPicture } from '@/desk/records/add-picture';
import { saveRecord } from '@/desk/records/save-record';
import { channelsOf, openHouse } from '@/house/house';
import { startRunner } from '@/runner/runner';
import { ask } from '@/store/database';
import { errandsWhere } from '@/store/errands';
import { allRecords, recordAt } from '@/store/records';
import { startApart } from './apart';

// The stand-ins stand on this machine.
process.env.NUNTIAX_PRIVATE ??= '127.0.0.1';

/*
 * A long queue against real stand-ins: 1,000 errands, placings and then amendments, on ten channels. The time is held
 * against the bound that the accounts' own budgets set; and a picture and a venue are sent or asked for once, not once
 * an errand.
 */

const errands = Number(process.env.ERRANDS ?? 1_000);
/** What answers at once and is written to: what answers by the hour has no pace of its own. */
const names = [
  'lectern',
  'gatefold',
  'gatefold-2',
  'hearthside',
  'hearthside-2',
  'concourse',
  'vestibule',
  'fernway',
  'fernway-2',
  'fernway-3',
];
const kindOf = (name: string) => name.replace(/-\d$/, '');
const events = Math.round(errands / (2 * (names.length - 1)));
const folder = mkdtempSync(path.join(os.tmpdir(), 'nuntiax-pace-'));
const outside = await startApart(folder);
const house = openHouse(folder, `${outside.base}/clock`);
await house.follow();
const accounts = (await (
  await fetch(`${outside.base}/accounts`, { method: 'POST', headers: outside.headers })
).json()) as Record<string, Record<string, string>>;
for (const name of names) {
  const connected = await connectChannel(
    house,
    by('bench'),
    { kind: kindOf(name) },
    {
      address: `${outside.base}/${kindOf(name)}`,
      credentials: accounts[name] ?? {},
      ...(name === kindOf(name) ? {} : { name }),
    },
  );
  if (!connected.ok) throw new Error(JSON.stringify(connected.error));
}
const poster = await sharp({ create: { width: 1800, height: 1200, channels: 3, background: '#1c3d3a' } })
  .jpeg()
  .toBuffer();
const picture = await addPicture(house, by('bench'), 'harp.jpg', poster);
const venue = makeVenue(house, by('bench'), tallowYard);
if (!picture.ok || !venue.ok) throw new Error('the house could not be set up');
for (let i = 0; i < events; i += 1) {
  const at = { venueId: venue.value.venue.id, roomId: venue.value.roomId };
  const content = sample({
    title: `Event ${i}`,
    performances: [{ ...night('p1', addDays('2027-03-01', i)), ...at }],
    pictures: [newPicture(picture.value, { alt: 'x', credit: 'x' })],
    lineUp: [],
    online: { keep: null, join: null },
    tickets: {
      ...sample().tickets,
      // Half of them are sold by each of the two accounts.
      outlets: [newOutlet('o1', 'Gatefold', { channel: i % 2 === 0 ? 'gatefold' : 'gatefold-2' })],
    },
  });
  const saved = saveRecord(house, by('bench'), { id: null, base: 0, content, reason: '' });
  if (saved.kind !== 'saved') throw new Error(JSON.stringify(saved));
}

/** Calls of every stand-in so far, by name. */
async function counts(): Promise<Record<string, Record<string, number>>> {
  const all = await Promise.all(
    [...new Set(names.map(kindOf))].map(async (name) => {
      const answer = await fetch(`${outside.base}/weather/${name}`, {
        method: 'POST',
        body: '{}',
        headers: { 'content-type': 'application/json', ...outside.headers },
      });
      return [name, ((await answer.json()) as { counts: Record<string, number> }).counts] as const;
    }),
  );
  return Object.fromEntries(all);
}

const seconds = (ms: number) => (ms / 1000).toFixed(1);

/** Works the queue off and gives how long that took, and the requests of each account. */
async function workOff(name: string): Promise<number> {
  const made = makeDispatch(house, by('bench'), null, { seen: 'all' });
  if (!made.ok) throw new Error(made.error);
  const before = await counts();
  const runner = startRunner(house);
  const started = performance.now();
  // A question that costs nothing: what is asked here is not what is timed.
  const left = "SELECT id FROM errands WHERE state IN ('waiting', 'running') LIMIT 1";
  while (ask(house.db, left).length > 0) await new Promise((resolve) => setTimeout(resolve, 50));
  const took = performance.now() - started;
  await runner.stop();
  const after = await counts();
  let bound = 0;
  for (const { row, rules } of channelsOf(house, house.db)) {
    const calls = Object.entries(after[row.kind] ?? {}).map(
      ([call, n]) => [call, n - (before[row.kind]?.[call] ?? 0)] as const,
    );
    if (row.through !== null) continue;
    // Accounts of one kind are counted together there, and have as much to do each.
    const accountsOf = names.filter((name) => kindOf(name) === row.kind).length;
    const requests = calls.reduce((sum, [, n]) => sum + n, 0) / accountsOf;
    const { budget } = rules;
    // The account that takes longest by its own budget: no queue can be quicker.
    bound = Math.max(bound, (Math.max(0, requests - budget.burst) * budget.perMs) / budget.requests);
    const once = calls.filter(([call, n]) => n > 0 && /image|media|photo|venue/.test(call));
    console.log(
      `  ${row.name}: ${Math.round(requests)} requests${once.length > 0 ? `; ${once.map(([call, n]) => `${call} ${n}`).join(', ')}` : ''}`,
    );
  }
  const refused = errandsWhere(house.db, { states: ['refused'] });
  if (refused.length > 0) throw new Error(`${refused.length} refused: ${refused[0]?.lastError?.message ?? ''}`);
  console.log(
    `${name}: ${made.value.errands} errands in ${seconds(took)} s; the bound of the budgets is ${seconds(bound)} s; ratio ${(took / bound).toFixed(2)} (target 1.1)`,
  );
  return took / bound;
}

const placing = await workOff('placings');
for (const { id } of allRecords(house.db)) {
  const record = recordAt(house.db, id);
  if (!record) continue;
  saveRecord(house, by('bench'), {
    id,
    base: record.revision,
    content: { ...record.content, title: `${record.content.title}, later` },
    reason: '',
  });
}
const amending = await workOff('amendments');
house.db.close();
await outside.stop();
rmSync(folder, { recursive: true, force: true });
process.exit(Math.max(placing, amending) <= 1.1 ? 0 : 1);
