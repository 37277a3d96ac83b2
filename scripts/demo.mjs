// npm run demo: sets up, starts the outside services and the application on the demo scenario.
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import path from 'node:path';
import { answerOf, applicationArgs, bindHost, finish, start, stopAll, stopOnSignal, warmUp } from './processes.mjs';
import { ensureBuilt, ensureInstalled, root } from './setup.mjs';

const port = Number(process.env.PORT ?? 4310);
const outsidePort = Number(process.env.OUTSIDE_PORT ?? 4320);
const data = path.resolve(root, process.env.NUNTIAX_DATA ?? path.join('data', 'demo'));
const outsideUrl = `http://127.0.0.1:${outsidePort}`;
const address = `http://127.0.0.1:${port}`;
const env = {
  NUNTIAX_DATA: data,
  PORT: String(port),
  OUTSIDE_PORT: String(outsidePort),
  OUTSIDE_URL: outsideUrl,
  // The demo's outside services stand on this machine.
  NUNTIAX_PRIVATE: '127.0.0.1',
  NUNTIAX_CLOCK: `${outsideUrl}/clock`,
  NUNTIAX_ZONE: process.env.NUNTIAX_ZONE ?? 'Europe/Dublin',
  // The demo signs its person in by itself; nothing else ever does.
  NUNTIAX_DEMO: 'yes',
};

const stopping = stopOnSignal();
await ensureInstalled();
await ensureBuilt();

// Whoever reaches the demo is signed in: it answers on this machine alone.
if (!['127.0.0.1', 'localhost', '::1'].includes(bindHost()))
  await end('the demo signs everybody in, and answers on this machine alone: take NUNTIAX_HOST away');
const running = await answerOf(`${address}/api/health`, 0);
if (running !== null) await end(`something already answers at ${address}; stop it first, or set PORT`);
if (process.argv.includes('--fresh')) {
  // Only what the demo itself makes; never the folder as a whole.
  for (const name of [
    'nuntiax.sqlite',
    'nuntiax.sqlite-wal',
    'nuntiax.sqlite-shm',
    'pictures',
    'renditions',
    'outside',
  ])
    rmSync(path.join(data, name), { recursive: true, force: true });
}
mkdirSync(data, { recursive: true });
const fresh = !existsSync(path.join(data, 'nuntiax.sqlite'));

const about = await answerOf(`${outsideUrl}/about`, 0);
if (about !== null && about.folder !== path.join(data, 'outside'))
  await end(`something else answers at ${outsideUrl}; stop it first, or set OUTSIDE_PORT`);
let outside = null;
if (about === null) {
  outside = start(['--import', 'tsx', 'outside/main.ts'], env, {
    onEnd: () =>
      stopping() ||
      console.log('demo: the outside services ended. The application goes on; start them again with: npm run outside'),
  });
  if ((await answerOf(`${outsideUrl}/about`, 300, outside)) === null) await end('the outside services did not start');
}
// Whoever has the demo has the key of the outside's owner's pages, weather and accounts.
env.OUTSIDE_KEY = process.env.OUTSIDE_KEY ?? readFileSync(path.join(data, 'outside', 'key'), 'utf8').trim();
if (fresh)
  console.log('demo: reading the scenario in, and sending most of it to the outside services (about a minute)');
if ((await finish(['--import', 'tsx', 'demo/seed.ts'], env)) !== 0 && !stopping())
  await end('the scenario could not be read in; see above');

const application = start(applicationArgs(port), env, {
  onEnd: async () => {
    if (stopping()) return;
    console.log('demo: the application ended. Start it again with: npm run demo');
    await stopAll();
    process.exit(1);
  },
});
if ((await answerOf(`${address}/api/health`, 300, application)) === null) await end('the application did not start');
await warmUp(address);
console.log(
  `\n  Nuntiax   ${address}   (process ${application.pid})\n  Outside   ${outsideUrl}   (${outside ? `process ${outside.pid}` : 'was running already'})\n  with key  ${outsideUrl}/?key=${env.OUTSIDE_KEY}   (owner’s pages, weather, accounts)\n  Data      ${data}\n\n  Ctrl-C stops both. npm run demo -- --fresh starts the scenario over.\n`,
);

async function end(message) {
  console.error(`demo: ${message}`);
  await stopAll();
  process.exit(1);
}
