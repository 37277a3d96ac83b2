import { spawn, type ChildProcess } from 'node:child_process';
import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { expect, type Browser, type Page } from '@playwright/test';
import Database from 'better-sqlite3';
import { freePort, isFree } from '../bench/free-port';

const root = path.resolve(import.meta.dirname, '..');

async function answers(url: string, seconds: number): Promise<boolean> {
  const until = Date.now() + seconds * 1000;
  while (Date.now() < until) {
    if (
      await fetch(url)
        .then((answer) => answer.ok)
        .catch(() => false)
    )
      return true;
    await new Promise((resolve) => setTimeout(resolve, 150));
  }
  return false;
}

/**
 * A demo that was read in and sent before, to start from: its folder, ports, and when it was ready, in ms since 1970.
 */
export interface Seeded {
  folder: string;
  port: number;
  outsidePort: number;
  at: number;
}

/** Waits until nobody listens on the ports of the last demo any more: what was ended closes in its own time. */
async function untilFree(ports: number[]): Promise<void> {
  for (const port of ports)
    await expect.poll(() => isFree(port), { message: `somebody goes on listening on port ${port}` }).toBe(true);
}

/** Copies what was seeded, with its simulated clock where it stood. */
function copySeeded({ folder: from, at }: Seeded, to: string): void {
  cpSync(from, to, { recursive: true });
  const outside = new Database(path.join(to, 'outside', 'outside.sqlite'));
  outside
    .prepare("UPDATE settings SET value = CAST(value AS INTEGER) - ? WHERE name = 'clock-offset'")
    .run(Date.now() - at);
  outside.close();
}

/** Turns every window away from the demo, so that none asks the next one how it stands. */
export async function leave(browser: Browser): Promise<void> {
  for (const page of browser.contexts().flatMap((browserContext) => browserContext.pages()))
    await page.goto('about:blank').catch(() => null);
}

/** The key of the outside's owner's pages and weather. */
export const outsideKey = 'a-key-of-the-stories';

/** So long the demo may say nothing while it is started, in ms. */
const silentMs = 240_000;

/** The key that the demo of a lane seals with: what was seeded is copied into other folders, and its key stays. */
const keyFileOf = (lane: number) => path.join(os.tmpdir(), `nuntiax-stories-${lane}.key`);

/**
 * The demo as the user starts it, on data of its own; its two processes can be killed by their ids. Stories run beside
 * each other in lanes, each on a seeded demo of its own: what stands on the outside names its ports.
 */
export async function startDemo(lane = Number(process.env.TEST_PARALLEL_INDEX ?? 0)) {
  const folder = mkdtempSync(path.join(os.tmpdir(), 'nuntiax-e2e-'));
  const seeded = (JSON.parse(process.env.NUNTIAX_SEEDED ?? '[]') as Seeded[])[lane] ?? null;
  const [port, outsidePort] = seeded ? [seeded.port, seeded.outsidePort] : [await freePort(), await freePort()];
  if (seeded) {
    copySeeded(seeded, folder);
    await untilFree([port, outsidePort]);
  }
  const app = `http://127.0.0.1:${port}`;
  const outside = `http://127.0.0.1:${outsidePort}`;
  const env = {
    ...process.env,
    NUNTIAX_DATA: folder,
    PORT: String(port),
    OUTSIDE_PORT: String(outsidePort),
    OUTSIDE_KEY: outsideKey,
    NUNTIAX_KEY_FILE: keyFileOf(lane),
  };
  let said = '';
  let demo: ChildProcess | null = null;
  const start = async (script: string, ready: (child: ChildProcess) => Promise<boolean>) => {
    const child = spawn(process.execPath, [`scripts/${script}.mjs`], {
      cwd: root,
      env,
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (data: Buffer) => (said += data.toString()));
    if (!(await ready(child))) throw new Error(`${script} did not start:\n${said}`);
    return child;
  };
  const ready = async (child: ChildProcess) => {
    // As long as it goes on saying something it is on its way, however slow the machine is.
    let [until, heard] = [Date.now() + silentMs, 0];
    while (Date.now() < until && !said.includes('Ctrl-C stops both')) {
      if (child.exitCode !== null || child.signalCode !== null) return false;
      if (said.length > heard) [until, heard] = [Date.now() + silentMs, said.length];
      await new Promise((resolve) => setTimeout(resolve, 150));
    }
    return (await answers(`${app}/api/health`, 10)) && (await answers(`${outside}/clock`, 10));
  };
  demo = await start('demo', ready);
  const pid = (name: string) =>
    Number([...said.matchAll(new RegExp(`${name}\\s+http\\S+\\s+\\(process (\\d+)\\)`, 'g'))].pop()?.[1] ?? 0);
  return {
    app,
    outside,
    folder,
    port,
    outsidePort,
    /** Kills one of the demo's processes outright, as a power cut would. */
    kill(name: 'Nuntiax' | 'Outside') {
      process.kill(pid(name), 'SIGKILL');
    },
    /** Waits until the demo has ended by itself, and starts it again. */
    async again() {
      if (demo?.exitCode === null) await new Promise((resolve) => demo?.once('exit', resolve));
      said = '';
      demo = await start('demo', ready);
    },
    outsideAgain: () => start('outside', () => answers(`${outside}/clock`, 30)).then((child) => void extra.push(child)),
    slow: (channel: string, slowMs: number) =>
      fetch(`${outside}/weather/${channel}`, {
        method: 'POST',
        body: JSON.stringify({ slowMs }),
        headers: { 'content-type': 'application/json', 'x-outside-key': outsideKey },
      }),
    async stop({ keep = false } = {}) {
      for (const child of [...extra, demo]) {
        if (child && child.exitCode === null) {
          child.kill('SIGTERM');
          await new Promise((resolve) => child.once('exit', resolve));
        }
      }
      if (!keep) rmSync(folder, { recursive: true, force: true });
    },
  };
}

const extra: ChildProcess[] = [];
export type Demo = Awaited<ReturnType<typeof startDemo>>;

/** The slip of a channel in the proof column. */
export const slip = (page: Page, channel: string) =>
  page.getByRole('region', { name: `${channel} proof`, exact: true });

/** Says that the warnings of what is to be sent have been seen, where there are any. */
export async function acknowledge(page: Page) {
  await expect(page.getByRole('button', { name: /^Send \d/ })).toBeVisible();
  const box = page.getByRole('checkbox', { name: /^I have seen the/ });
  if ((await box.count()) > 0) await box.check();
}

/** Waits until each channel of the open record has this standing. */
export async function expectStanding(page: Page, standing: string, channels = ['Lectern', 'Gatefold', 'Hearthside']) {
  for (const channel of channels)
    await expect(slip(page, channel).locator('[data-standing]').first()).toHaveAttribute('data-standing', standing, {
      // A placing whose answer was lost is not given up before half a minute.
      timeout: 120_000,
    });
}
