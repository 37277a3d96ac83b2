import { readFileSync } from 'node:fs';
import path from 'node:path';
import { z } from 'zod';
import type { RecordContent } from '@/core/record';
import { addPicture } from '@/desk/add-picture';
import { connectChannel } from '@/desk/connect-channel';
import { importEvents } from '@/desk/import-events';
import { makeDispatch } from '@/desk/make-dispatch';
import { readNow } from '@/desk/read-now';
import { saveRecord } from '@/desk/save-record';
import { planFor, surveyAll } from '@/desk/survey';
import { openHouse } from '@/runner/house';
import { startRunner } from '@/runner/runner';
import { putSetting, setting } from '@/store/connections';
import { allRecords, recordAt, recordOfOrigin } from '@/store/records';
import { drawPoster } from './posters';

const folder = path.resolve(process.env.NUNTIAX_DATA ?? 'data');
const outside = process.env.OUTSIDE_URL ?? 'http://127.0.0.1:4320';
const actor = 'Maren';
const files = ['house-season.csv', 'salt-and-static-tour.csv', 'house-diary.ics'];
const house = openHouse(folder, `${outside}/clock`);

if (setting(house.db, 'demo-seeded') === 'yes') process.exit(0);
await house.follow();
await connectAll();
for (const name of files) {
  const report = importEvents(house, name, readFileSync(path.join(import.meta.dirname, 'files', name), 'utf8'), 'Europe/Dublin', actor);
  if (!report.ok) throw new Error(`${name}: ${report.error}`);
  for (const row of report.value.broken) throw new Error(`${name}, line ${row.line}, ${row.field}: ${row.message}`);
  console.log(`${name}: ${report.value.made.length} records`);
}
await addPosters();
await sendMost();
await makeDrift();
await settle();
changeAfterwards();
putSetting(house.db, 'demo-seeded', 'yes');
console.log(`${allRecords(house.db).length} records are ready`);
house.db.close();
process.exit(0);

/** Opens an account at each service and connects it, as a user would under Channels. */
async function connectAll() {
  const answer = await fetch(`${outside}/accounts`, { method: 'POST' });
  const accounts = z.record(z.string(), z.record(z.string(), z.string())).parse(await answer.json());
  for (const [channel, credentials] of Object.entries(accounts)) {
    const connected = await connectChannel(house, channel, { address: `${outside}/${channel}`, credentials }, actor);
    if (!connected.ok) throw new Error(`${channel}: ${JSON.stringify(connected.error)}`);
  }
}

/** Saves a change to the record that came from a row of the demo files. */
function change(origin: string, reason: string, edit: (content: RecordContent) => RecordContent) {
  const known = recordOfOrigin(house.db, origin);
  const record = known && recordAt(house.db, known.id);
  if (!record) throw new Error(`no record came from ${origin}`);
  const saved = saveRecord(house, { id: record.id, base: record.revision, content: edit(record.content), actor, reason });
  if (saved.kind !== 'saved') throw new Error(`${origin}: ${JSON.stringify(saved)}`);
  return record.id;
}

async function addPosters() {
  const references = files.filter((name) => name.endsWith('.csv')).flatMap((name) => [...readFileSync(path.join(import.meta.dirname, 'files', name), 'utf8').matchAll(/^((?:TY|SS)-\d+),/gm)].map((m) => m[1] ?? ''));
  for (const reference of references) {
    const poster = await drawPoster(reference);
    if (!poster) continue;
    const added = await addPicture(house, poster.fileName, poster.bytes, actor);
    if (!added.ok) throw new Error(added.error);
    const { id: pictureId, width, height } = added.value;
    change(`csv:${reference}`, 'poster added', (content) => ({ ...content, pictures: [{ pictureId, width, height, alt: poster.alt, credit: 'Tallow Yard', focal: { x: 0.6, y: 0.42 } }] }));
  }
}

/** Sends what can go, but for a few events that are left for the person at the desk. */
async function sendMost() {
  const left = ['TY-105', 'TY-110', 'SS-11'].map((reference) => recordOfOrigin(house.db, `csv:${reference}`)?.id);
  const listings = planFor(surveyAll(house)).errands.filter((one) => !left.includes(one.record) && one.notBefore === null).map((one) => one.listing);
  const made = makeDispatch(house, new Set(listings), actor);
  if (!made.ok) throw new Error(made.error);
  console.log(`${made.value.errands} errands go out`);
  await settle();
}

/** Lets the runner work until nothing is left to do. */
async function settle() {
  const runner = startRunner(house);
  const until = Date.now() + 120_000;
  do await new Promise((resolve) => setTimeout(resolve, 150));
  while (!runner.idle() && Date.now() < until);
  await runner.stop();
}

/** Somebody edits listings by hand, on the owner's pages of the services. */
async function makeDrift() {
  await editByHand('hearthside', 'Cold Lantern Trio', { headline: 'Cold Lantern Trio: the quiet night' });
  await editByHand('lectern', 'The Salt Parliament', { act: 'tickets' });
  readNow(house);
}

/** Opens an owner's page, finds the listing by its title, and posts its form with some fields changed. */
async function editByHand(channel: string, title: string, fields: Record<string, string>) {
  const list = await (await fetch(`${outside}/${channel}/owner`)).text();
  const address = [...list.matchAll(/<a href="([^"]+)">([^<]*)<\/a>/g)].find(([, , words]) => words === title)?.[1];
  if (address === undefined) throw new Error(`${title} does not stand on ${channel}`);
  const form = await (await fetch(outside + address)).text();
  const decode = (text: string) => text.replace(/&#39;/g, "'").replace(/&quot;/g, '"').replace(/&lt;/g, '<').replace(/&gt;/g, '>').replace(/&amp;/g, '&');
  const typed = Object.fromEntries([
    ...[...form.matchAll(/<input name="(\w+)" value="([^"]*)">/g)].map(([, name = '', value = '']) => [name, decode(value)]),
    ...[...form.matchAll(/<textarea name="(\w+)">([^<]*)<\/textarea>/g)].map(([, name = '', value = '']) => [name, decode(value)]),
  ]);
  await fetch(outside + address, { method: 'POST', body: new URLSearchParams({ ...typed, act: 'save', ...fields }), redirect: 'manual' });
}

/** Facts that moved since: these events are to send. */
function changeAfterwards() {
  change('csv:TY-103', 'later start', (content) => ({ ...content, performances: content.performances.map((one) => ({ ...one, doors: '15:00', start: '15:30', end: '17:45' })) }));
  change('csv:TY-108', 'support added', (content) => ({ ...content, lineUp: [...content.lineUp, { id: 'support1', name: 'Wren Halfpenny', role: 'support' }] }));
}
