import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:http';
import os from 'node:os';
import path from 'node:path';
import Database from 'better-sqlite3';
import { feedOf } from '@/desk/channels/feed-of';
import { openHouse } from '@/house/house';
import { followed } from '../tests/move-clock';
import { freePort } from './free-port';

/** The demo's house with its stand-ins, as it is when it was just read in. */
export interface DemoHouse {
  house: ReturnType<typeof openHouse>;
  /** Address of the stand-ins. */
  base: string;
  /** What the stand-ins keep themselves. */
  outsideDb: Database.Database;
  end(): void;
}

/** Reads the demo into a folder of its own, with stand-ins of its own, and opens it. */
export async function demoHouse(): Promise<DemoHouse> {
  const folder = mkdtempSync(path.join(os.tmpdir(), 'nuntiax-told-'));
  const [outsidePort, feedPort] = [await freePort(), await freePort()];
  const base = `http://127.0.0.1:${outsidePort}`;
  const env = {
    ...process.env,
    NUNTIAX_DATA: folder,
    PORT: String(feedPort),
    OUTSIDE_PORT: String(outsidePort),
    OUTSIDE_URL: base,
    OUTSIDE_KEY: 'a-key-of-the-bench',
    NUNTIAX_PRIVATE: '127.0.0.1',
    NUNTIAX_CLOCK: `${base}/clock`,
    NUNTIAX_ZONE: 'Europe/Dublin',
    NUNTIAX_DEMO: 'yes',
    NUNTIAX_ORIGIN: `http://127.0.0.1:${feedPort}`,
  };
  process.env.NUNTIAX_ORIGIN = env.NUNTIAX_ORIGIN;
  const outside = spawn(process.execPath, ['--import', 'tsx', 'outside/main.ts'], { env, stdio: 'ignore' });
  while (!(await fetch(`${base}/about`).catch(() => null))) await new Promise((resolve) => setTimeout(resolve, 100));
  await new Promise((resolve, reject) => {
    const seed = spawn(process.execPath, ['--import', 'tsx', 'demo/seed.ts'], { env, stdio: 'ignore' });
    seed.on('exit', (code) => (code === 0 ? resolve(null) : reject(new Error('the demo could not be read in'))));
  });
  const house = openHouse(folder, `${base}/clock`, { machine: () => house.clock.now() });
  await followed(house);
  const feeds = createServer((request, response) => {
    const feed = feedOf(house, (request.url ?? '').replace('/feeds/', ''));
    response.statusCode = feed === null ? 404 : 200;
    response.end(feed?.text ?? '');
  });
  await new Promise<void>((resolve) => feeds.listen(feedPort, '127.0.0.1', resolve));
  const outsideDb = new Database(path.join(folder, 'outside', 'outside.sqlite'), { readonly: true });
  return {
    house,
    base,
    outsideDb,
    end() {
      outside.kill('SIGTERM');
      feeds.close();
      house.db.close();
      outsideDb.close();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
