import { by, keeper } from '@/core/testing/doers';
import type { RecordId } from '@/core/base/ids';
import { mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import os from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import type { RecordContent } from '@/core/record/record';
import { addPicture } from '@/desk/records/add-picture';
import { feedOf } from '@/desk/channels/feed-of';
import { takeCall } from '@/desk/channels/take-call';
import { connectChannel } from '@/desk/channels/connect-channel';
import { decideErrand } from '@/desk/dispatch/decide-errand';
import { makeDispatch } from '@/desk/dispatch/make-dispatch';
import { readNow } from '@/desk/drift/read-now';
import { makeVenue } from '@/desk/directory/make-venue';
import { saveRecord } from '@/desk/records/save-record';
import { surveyById } from '@/house/survey';
import { allChannels } from '@/store/channels';
import { recordAt } from '@/store/records';
import { openHouse } from '@/house/house';
import { startRunner } from '@/runner/runner';
import { newPicture } from '@/core/record/new-record';
import { performance, sample, tallowYard } from '@/core/testing/samples';
import { startOutside } from '../outside/server';
import { followed, moveClock } from './move-clock';

/**
 * A house of its own with the real outside services beside it, over real HTTP and on real files: on the channels asked
 * for.
 */
export async function makeRig(names: readonly string[] = ['lectern', 'gatefold', 'hearthside']) {
  const folder = mkdtempSync(path.join(os.tmpdir(), 'nuntiax-'));
  let outside = await startOutside({ folder: path.join(folder, 'outside'), port: 0 });
  const { base } = outside;
  // Its stand-ins answer at once: what takes its time takes it by the simulated clock.
  const house = openHouse(folder, `${base}/clock`, { machine: () => house.clock.now() });
  // No test cuts the power: a process that ends leaves whole files without it.
  house.db.run('PRAGMA synchronous = OFF');
  await followed(house);
  // What reads our calendar feed reads it where the application would show it.
  const calls: { url: string; signature: string; body: string; status: number }[] = [];
  const feeds = createServer(async (request, response) => {
    const url = request.url ?? '';
    if (url.startsWith('/api/hooks/')) {
      const parts: Buffer[] = [];
      for await (const part of request) parts.push(part as Buffer);
      const [signature, body] = [String(request.headers['x-signature']), Buffer.concat(parts).toString('utf8')];
      const answer = takeCall(house, url.replace('/api/hooks/', ''), signature, body);
      calls.push({ url, signature, body, status: answer === 'taken' ? 202 : answer === 'refused' ? 401 : 404 });
      response.statusCode = calls[calls.length - 1]?.status ?? 500;
      return void response.end();
    }
    const feed = feedOf(house, url.replace('/feeds/', ''));
    response.statusCode = feed === null ? 404 : 200;
    response.end(feed?.text ?? '');
  });
  await new Promise<void>((resolve) => feeds.listen(0, '127.0.0.1', resolve));
  process.env.NUNTIAX_ORIGIN = `http://127.0.0.1:${(feeds.address() as AddressInfo).port}`;
  const accounts = (await (await fetch(`${base}/accounts`, { method: 'POST' })).json()) as Record<
    string,
    Record<string, string>
  >;
  const connect = (name: string, credentials: Record<string, string>) => {
    const kind = name.replace(/-\d$/, '');
    const there = allChannels(house.db).some((channel) => channel.id === name);
    const own = name === kind ? {} : { name };
    return connectChannel(house, by('Maren'), there ? { id: name } : { kind }, {
      address: `${base}/${kind}`,
      credentials,
      ...own,
    });
  };
  for (const name of names) await connect(name, accounts[name] ?? {});
  const picture = await addPicture(
    house,
    by('Maren'),
    'harp.jpg',
    await sharp({ create: { width: 1800, height: 1200, channels: 3, background: '#1c3d3a' } })
      .jpeg()
      .toBuffer(),
  );
  const venue = makeVenue(house, by('Maren'), tallowYard);
  if (!picture.ok || !venue.ok) throw new Error('the rig could not be set up');

  const settle = async (seconds = 25) => {
    const runner = startRunner(house);
    const until = Date.now() + seconds * 1000;
    do {
      await new Promise((resolve) => setTimeout(resolve, 60));
      // Nobody need wait for what the channels and the pauses between two tries take: their clock is simulated.
      if (!runner.idle(0)) continue;
      await moveClock(base, 1_000);
      await house.follow();
    } while (!runner.idle(20_000) && Date.now() < until);
    await runner.stop();
  };
  const place = { venueId: venue.value.venue.id, roomId: venue.value.roomId };
  const content = (part: Partial<RecordContent> = {}): RecordContent => {
    const made = sample({
      performances: [performance('p1', '2027-03-14')],
      pictures: [newPicture(picture.value, { alt: 'A harp', credit: 'us' })],
      ...part,
    });
    return { ...made, performances: made.performances.map((performance) => ({ ...performance, ...place })) };
  };
  return {
    house,
    base,
    connect,
    accounts,
    settle,
    /** Calls that channels made to the house, with what became of each. */
    calls,
    /** Moves the simulated clock on. */
    async pass(ms: number) {
      await moveClock(base, ms);
      await followed(house);
    },
    venueId: venue.value.venue.id,
    content,
    save(id: RecordId | null, base: number, next: RecordContent, actor = 'Maren') {
      return saveRecord(house, by(actor), { id, base, content: next, reason: '' });
    },
    /** Saves a new record and gives its id. */
    make(part: Partial<RecordContent> = {}): RecordId {
      const saved = saveRecord(house, by('Maren'), { id: null, base: 0, content: content(part), reason: '' });
      if (saved.kind !== 'saved') throw new Error(JSON.stringify(saved));
      return saved.id;
    },
    send(only: string[] | null = null) {
      return makeDispatch(house, by('Maren'), only && new Set(only), { seen: 'all', givers: 'along' });
    },
    /** A person says that an errand that was refused is to be tried again. */
    again: (errand: number) => decideErrand(house, keeper, errand, 'again'),
    standings: (id: RecordId) =>
      Object.fromEntries(
        (surveyById(house, id)?.survey.listings ?? []).map((listing) => [
          listing.id.split('.').slice(1).join('.'),
          listing.standing,
        ]),
      ),
    /** Somebody presses “Read everything back now”. */
    readAll: () => readNow(house, keeper),
    facts: (id: RecordId) => {
      const surveyed = surveyById(house, id);
      if (!surveyed) throw new Error('no record');
      return surveyed.survey.facts;
    },
    /** What a record says now. */
    record: (id: RecordId) => recordAt(house.db, id)?.content ?? null,
    revision: (id: RecordId) => recordAt(house.db, id)?.revision ?? 0,
    listings: (id: RecordId) => surveyById(house, id)?.survey.listings ?? [],
    /** How many things stand on a stand-in's public list. */
    async publicCount(channel: string, title: string): Promise<number> {
      const page = await (await fetch(`${base}/${channel}/`)).text();
      return page.split(`>${title}<`).length - 1;
    },
    weather: (channel: string, change: object) =>
      fetch(`${base}/weather/${channel}`, {
        method: 'POST',
        body: JSON.stringify(change),
        headers: { 'content-type': 'application/json' },
      }),
    owner: async (
      channel: string,
      listing: { state: { sent: unknown }; publicUrl: string | null },
      remoteId: string,
      form: Record<string, string>,
    ) =>
      void (await fetch(`${base}/${channel}/owner/${remoteId}`, {
        method: 'POST',
        body: new URLSearchParams(form),
        redirect: 'manual',
      })),
    async stopOutside() {
      await outside.stop();
    },
    async startOutsideAgain() {
      outside = await startOutside({ folder: path.join(folder, 'outside'), port: Number(new URL(base).port) });
    },
    async end() {
      feeds.close();
      house.db.close();
      await outside.stop();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

export type Rig = Awaited<ReturnType<typeof makeRig>>;
