import { spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import type { RecordId } from '@/core/base/ids';
import { recordAt } from '@/store/records';
import { makeRig, type Rig } from './rig';

/** The house from a script, as a process of its own, on the folder of a house beside it. */
let rig: Rig;
beforeAll(async () => {
  rig = await makeRig();
});
afterAll(() => rig.end());

const house = (...args: string[]) =>
  new Promise<{ code: number | null; lines: Record<string, unknown>[]; said: string }>((resolve) => {
    const env = { ...process.env, NUNTIAX_DATA: rig.house.folder, NUNTIAX_CLOCK: undefined };
    const child = spawn(process.execPath, [path.join('scripts', 'house.mjs'), ...args], { env });
    const [out, said]: [string[], string[]] = [[], []];
    child.stdout.on('data', (part: Buffer) => out.push(String(part)));
    child.stderr.on('data', (part: Buffer) => said.push(String(part)));
    child.on('close', (code) => {
      const lines = out
        .join('')
        .split('\n')
        .filter((line) => line !== '');
      resolve({ code, lines: lines.map((line) => JSON.parse(line) as Record<string, unknown>), said: said.join('') });
    });
  });

test('every verb that the README names is there, and one that is not is told with those that are', async () => {
  const section = /### From a script[\s\S]*?(?=\n### )/.exec(readFileSync('README.md', 'utf8'))?.[0] ?? '';
  const cells = section.split('\n').flatMap((line) => /^\| (`.+?) \|/.exec(line)?.[1] ?? []);
  const named = cells.flatMap((cell) => [...cell.matchAll(/`([a-z]+)/g)].map((found) => found[1]));
  const { code, said } = await house('nonsense');
  expect([code, named.length, named.filter((verb) => !said.includes(String(verb)))]).toEqual([1, 13, []]);
});

test('a record is changed, sent and looked at from a script, by the clock that the application has', async () => {
  const id = rig.make({ title: 'By a script' });
  const { code, lines } = await house('clock');
  expect([
    code,
    lines[0]?.clock,
    Math.abs(Number(new Date(String(lines[0]?.now))) - rig.house.clock.now()) < 60_000,
  ]).toEqual([0, 'simulated', true]);
  const listing = rig.listings(id)[0];
  const { lines: standings } = await house('standings');
  const record = String(standings.find((standing) => standing.listing === listing?.id)?.code);
  expect(await house('set', record, 'title=Said by a script', 'performances.0.start=20:30')).toMatchObject({
    code: 0,
    lines: [{ code: record, revision: 2, saved: true }],
  });
  // A text stays one, whatever it looks like; a number is one, and what is none is refused.
  const typed = [
    'subtitle=1984',
    'shortTitle=true',
    'tickets.levels.0.price=2100',
    'tags=["a","b"]',
    'performances.0.end=null',
  ];
  expect(await house('set', record, ...typed)).toMatchObject({ code: 0, lines: [{ revision: 3 }] });
  expect(recordAt(rig.house.db, id as RecordId)?.content).toMatchObject({
    ...{ subtitle: '1984', shortTitle: 'true', tags: ['a', 'b'] },
    tickets: { levels: [{ price: 2100 }] },
    performances: [{ end: null }],
  });
  expect(await house('set', record, 'tickets.levels.0.price=dear')).toMatchObject({ code: 1, lines: [] });
  expect(await house('set', record, 'tags=["a"')).toMatchObject({ code: 1, said: expect.stringContaining('no JSON') });
  expect(await house('set', record, 'performances.0.start=25:00')).toMatchObject({ code: 1, lines: [] });
  expect(await house('set', record, 'nothing.there=1')).toMatchObject({
    code: 1,
    said: expect.stringContaining('nothing'),
  });
  // No application works the queue: it is worked off by the script itself.
  expect((await house('send', record)).code).toBe(0);
  expect(rig.standings(id)).toEqual({ 'lectern.0': 'instep', 'gatefold.0': 'instep', 'hearthside.0': 'instep' });
  expect(await rig.publicCount('lectern', 'Said by a script')).toBe(1);
  expect((await house('private', record)).code).toBe(0);
  expect((await house('errands')).lines.every((line) => line.state === 'done')).toBe(true);
  const channels = (await house('channels')).lines.map((line) => line.id);
  expect(channels).toEqual(expect.arrayContaining(['lectern', 'gatefold', 'hearthside']));
});
