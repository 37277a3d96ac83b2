import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';

/*
 * Everything that carries our facts away, or lays them where others read them, goes one way: through the outside door,
 * which asks the way out. Here stands every primitive by which something can leave the process or fill a shelf, with
 * the files that may name it. One that is named elsewhere is beside that way.
 */

const root = path.join(__dirname, '..', 'src');
const files = readdirSync(root, { recursive: true, withFileTypes: true })
  .filter((file) => file.isFile() && /\.tsx?$/.test(file.name) && !/\.test\.tsx?$/.test(file.name))
  .map((file) => path.relative(root, path.join(file.parentPath, file.name)));
const sources = new Map(files.map((file) => [file, readFileSync(path.join(root, file), 'utf8')]));
/** Files of the server in which a pattern is found. What runs in a browser reaches our own house alone. */
const naming = (pattern: RegExp) =>
  [...sources].flatMap(([file, text]) => (pattern.test(text) && !/^(ui|app)\//.test(file) ? [file] : [])).sort();

const primitives: [string, RegExp, string[]][] = [
  ['HTTP by undici', /from 'undici'/, ['channels/kit/reach.ts']],
  // The clock of the demo tells the time, and is told nothing.
  ['fetch', /(?:await|return|void|=>|=|\(|globalThis\.)\s*fetch\(/, ['desk/house/move-clock.ts', 'house/clocks.ts']],
  ['HTTP by node', /from 'node:https?2?'|XMLHttpRequest|WebSocket|EventSource/, []],
  // Addresses are resolved before they are reached; a town is found in a list of ours.
  ['sockets', /from 'node:(net|tls|dgram)'/, ['channels/kit/reach.ts']],
  ['mail', /from 'nodemailer'/, ['channels/kit/smtp.ts']],
  ['another process', /from 'node:child_process'/, ['desk/files/read-beside.ts']],
  ['what makes the way over HTTP', /\bmakeHttp\(/, ['channels/kit/reach.ts', 'house/house.ts']],
  ['what makes the way by mail', /\bmakeMail\(/, ['channels/kit/smtp.ts', 'house/house.ts']],
  ['the door itself', /\bmakeOutsideDoor\(/, ['house/house.ts', 'house/outside-door.ts']],
  ['who asks the door for a way', /outside\.(http|mail|shelve)\(/, ['house/clients.ts']],
  // What is kept of an account is for ourselves, but for a shelf: that is filled through the door.
  [
    'what is kept of an account',
    /\bkeepAt\(/,
    [
      'desk/channels/connect-channel.ts',
      'desk/dispatch/by-hand.ts',
      'house/clients.ts',
      'house/feeds.ts',
      'house/hooks.ts',
      'store/channels.ts',
    ],
  ],
  [
    'a shelf is filled',
    /\bshelve\(/,
    [
      'channels/kit/feed-shelf.ts',
      'channels/kit/hand-door.ts',
      'channels/kit/kept.ts',
      'house/clients.ts',
      'house/outside-door.ts',
    ],
  ],
  // On whose behalf something leaves: an errand, a reading (which can tell nothing), or a person who tries a purchase.
  ['on whose behalf', /\bgoingOut\(/, ['house/way-out.ts', 'runner/errand/run-errand.ts', 'runner/readings.ts']],
  // Who may answer for what leaves.
  [
    'who answers for it',
    /\bbefore(:|\()[^=\n]*tx/,
    ['house/outside-door.ts', 'house/way-out.ts', 'runner/errand/run-errand.ts'],
  ],
];

test.each(primitives)('%s is named only where it belongs', (_, pattern, allowed) => {
  expect(naming(pattern)).toEqual(allowed);
});

test('whoever answers for what leaves asks the one question', () => {
  for (const file of ['house/way-out.ts', 'runner/errand/run-errand.ts'])
    expect([file, /before\b.*askWayOut\(/s.test(sources.get(file) ?? '')]).toEqual([file, true]);
});

test('what tells nothing of ours is named one by one: signing in, reading by a call, and taking a trial back', () => {
  const named = naming(/\btellsNothing\b/);
  expect(named).toEqual(['channels/gatefold/door.ts', 'channels/hearthside/rpc.ts', 'channels/kit/http.ts']);
  expect((sources.get('channels/gatefold/door.ts') ?? '').match(/\btellsNothing\b/g)).toHaveLength(2);
});
