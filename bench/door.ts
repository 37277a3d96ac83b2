import { mkdtempSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { NextRequest } from 'next/server';
import { GET } from '@/app/api/pulse/route';
import { pulse } from '@/desk/house/pulse';
import { theHouse } from '@/desk/house/the-house';
import { firstCode, join } from '@/desk/people/invitations';
import { doerOf } from '@/desk/people/who';
import { proxy } from '@/proxy';

/*
 * What the sign-in and the rights add to a request: one that is asked every second and a half (`/api/pulse`), through the
 * proxy and its route with a session, beside the same work without anybody asking who it is. Ends with one line of JSON.
 */

const rounds = Number(process.env.ROUNDS ?? 400);
const folder = mkdtempSync(path.join(os.tmpdir(), 'nuntiax-door-'));
Object.assign(process.env, { NUNTIAX_DATA: folder, NUNTIAX_KEY_FILE: path.join(folder, '.key'), NUNTIAX_ZONE: 'UTC' });
const house = theHouse();
const from = { headers: new Headers(), address: 'here' };
const given = { name: 'Ines', email: 'ines@yard.example', password: 'seven lanterns over a quiet quay' };
const came = await join(house, { ...given, code: firstCode(house)?.code }, from);
if (!came.ok) throw new Error(JSON.stringify(came.error));
const cookie = came.value.cookies.map((line) => line.split(';')[0]).join('; ');
const headers = { host: '127.0.0.1:4310', cookie };
const url = 'http://127.0.0.1:4310/api/pulse';
const doer = await doerOf(house, new Headers(headers));
if (!doer) throw new Error('nobody is signed in');

/** The time of the one in the middle, in milliseconds. */
async function median(work: () => Promise<unknown>): Promise<number> {
  const times: number[] = [];
  for (let i = 0; i < rounds; i += 1) {
    const at = performance.now();
    await work();
    times.push(performance.now() - at);
  }
  return times.sort((a, b) => a - b)[Math.floor(rounds / 2)] ?? 0;
}

const without = () => pulse(house, doer).then((told) => Response.json(told).text());
const withDoor = async () => {
  const passed = await proxy(new NextRequest(url, { headers }));
  if (passed.headers.get('x-middleware-next') !== '1') throw new Error(`stopped: ${passed.status}`);
  const answer = await GET(new Request(url, { headers }));
  if (answer.status !== 200) throw new Error(`answered ${answer.status}`);
  await answer.text();
};
await median(withDoor);
const [bare, full] = [await median(without), await median(withDoor)];
// What the pulse looks for beside itself ends first.
await new Promise((done) => setTimeout(done, 50));
house.db.close();
rmSync(folder, { recursive: true, force: true });
const round = (ms: number) => Math.round(ms * 1000) / 1000;
console.log(
  JSON.stringify({
    withoutMs: round(bare),
    withMs: round(full),
    addedMs: round(full - bare),
    ratio: round(full / bare),
  }),
);
