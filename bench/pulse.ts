import { machineDoer } from '@/core/people/doer';
import { keeper } from '@/core/testing/doers';
import { channelIdSchema, type ChannelId } from '@/core/base/ids';
import { listingId } from '@/channels/survey';
import { mkdtempSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { sample } from '@/core/testing/samples';
import { pulse } from '@/desk/house/pulse';
import { channelsOf, openHouse } from '@/house/house';
import { startRunner } from '@/runner/runner';
import { countStale } from '@/runner/tally';
import { putChannel } from '@/store/channels';
import { transaction } from '@/store/database';
import { claimErrand, claimsLeft, errandDue, makeDispatch, momentsDue } from '@/store/errands';
import { dueToRead, noteSent, putListing } from '@/store/listings';
import { pulseRow } from '@/store/pulse';
import { makeRecord } from '@/store/records';

/*
 * What is asked all the time, in a house of 15,000 listings: the pulse of a screen, a beat of the queue, a claim. Each
 * as a ratio to one reading by primary key in the same run.
 */

const listings = Number(process.env.LISTINGS ?? 15_000);
const channels = ['lectern', 'gatefold', 'hearthside'].map((id) => channelIdSchema.parse(id));
const [lectern] = channels as [ChannelId];
const folder = mkdtempSync(path.join(os.tmpdir(), 'nuntiax-pulse-'));
process.env.NUNTIAX_ZONE = 'Europe/Dublin';
const house = openHouse(folder, null);
const { db } = house;
const now = house.monotonic();

transaction(db, (tx) => {
  for (const id of channels) {
    const row = {
      id: channelIdSchema.parse(id),
      kind: id,
      name: id,
      shortName: id,
      settings: {},
      through: null,
      connected: true,
      audience: { who: 'everyone' as const },
      standingLeave: true,
    };
    putChannel(tx, row, { address: `http://127.0.0.1:9/${id}`, credentials: {}, knownAs: 'bench', at: now }, 'bench');
  }
  const shown = {
    title: { kind: 'text', text: 'An evening '.repeat(40) },
    listed: { kind: 'state', is: 'public' },
  } as const;
  for (let i = 0; i < listings / channels.length; i += 1) {
    const record = makeRecord(
      tx,
      sample({ title: `Event ${i}`, publicity: { visibility: 'private', announce: null } }),
      machineDoer('bench'),
      now,
      '',
    );
    for (const channel of channels) {
      const id = listingId(record.id, channel, 0);
      putListing(tx, { id, recordId: record.id, channel, part: 0, performanceIds: ['p1'] });
      const remote = { id: `x${i}`, publicUrl: null, etag: null, link: null, lapsesAt: null };
      noteSent(
        tx,
        { id, recordId: record.id },
        {
          sent: shown,
          sentTimes: {},
          previous: shown,
          believed: shown,
          remote,
          revision: 1,
          at: now,
          readAt: now + 86_400_000,
        },
      );
    }
    // Every third has an errand that waits for a day to come.
    if (i % 3 === 0)
      makeDispatch(
        tx,
        [
          {
            listing: listingId(record.id, lectern, 0),
            record: record.id,
            channel: lectern,
            revision: 1,
            op: 'amend',
            changes: [],
            awaits: null,
            notBefore: now + 86_400_000,
            deadline: i,
            gives: false,
          },
        ],
        'bench',
        now,
        now,
      );
  }
});
await countStale(house);

/** The least time of one call, in microseconds, over many. */
async function least(work: () => unknown, times = 400): Promise<number> {
  let best = Infinity;
  for (let i = 0; i < times; i += 1) {
    const started = performance.now();
    await work();
    best = Math.min(best, performance.now() - started);
  }
  return best * 1000;
}

const floor = await least(() => pulseRow(db));
const say = (name: string, us: number, target: number) => {
  const ratio = us / floor;
  console.log(`${name}: ${us.toFixed(0)} µs, ${ratio.toFixed(1)} times one reading by its key (target ${target})`);
  return ratio <= target;
};
console.log(`${listings} listings; one reading by its primary key: ${floor.toFixed(1)} µs`);
const good = [
  say('pulse', await least(() => pulse(house, keeper)), 20),
  say(
    'beat, nothing to do',
    await least(() => {
      channelsOf(house, db);
      momentsDue(db, house.clock.now());
      claimsLeft(db, []);
      errandDue(db, house.monotonic(), 0);
      for (const channel of channels) dueToRead(db, channel, house.monotonic(), 1);
    }),
    40,
  ),
  say('claim, nothing free', await least(() => claimErrand(db, lectern, house.monotonic(), 1)), 20),
];
// The real beat runs for a while, to be sure that what was timed is what it does.
const runner = startRunner(house);
const cpu = process.cpuUsage();
await new Promise((resolve) => setTimeout(resolve, 3_000));
const { user, system } = process.cpuUsage(cpu);
console.log(`the runner at rest: ${((user + system) / 30_000).toFixed(1)} % of one processor`);
await runner.stop();
db.close();
rmSync(folder, { recursive: true, force: true });
process.exit(good.every(Boolean) ? 0 : 1);
