import { spawn } from 'node:child_process';
import {
  cpSync,
  existsSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { parseArgs } from 'node:util';
import { faultsOf, type Fault } from './mutate/faults';
import { Reach } from './mutate/reach';

/*
 * npm run mutate -- --seed 1 --count 20 [--only core/listing]: breaks one line at a time in a copy of the tree, and says whether the
 * tests that reach it see that. Prints a line a fault and, at the end, {"mutants":…,"killed":…}. Where
 * tests do not end in time they are run once more on the right line: where they end then, the fault goes round in circles, and is
 * seen; where they do not, nobody knows, and it is counted apart and not as killed. What cannot be told from the right
 * line by any test is listed in scripts/mutants-equal.json, with its reason, and is not drawn.
 */

const { values } = parseArgs({
  options: {
    seed: { type: 'string', default: '1' },
    count: { type: 'string', default: '20' },
    only: { type: 'string', default: '' },
  },
});
const root = path.join(import.meta.dirname, '..');
const rooms = ['src/core', 'src/channels', 'src/runner', 'src/desk'];
const mostMs = 60_000;
/** So long for a fault whose tests do not end on the right line either, because something else is at work. */
const longerMs = 4 * mostMs;
/**
 * The tests next to a fault are run before the others, and together they take no longer than is left of a minute on a
 * slow day: what does not end then goes round in circles. How long they take is measured with marks, which cost more than half
 * as much again.
 */
const nextTo = 4;
const mostOfTestsMs = 45_000 * 1.6;
/** So many runs of a model are drawn against one fault: as many as a minute allows beside the other tests. */
const modelRuns = '4';
/** Test files that take longer by themselves are named, and not run: a minute, and as much more as marks cost. */
const longTestMs = 60_000 * 1.6;

const files = (folder: string, wanted: RegExp) =>
  readdirSync(path.join(root, folder), { recursive: true, encoding: 'utf8' })
    .filter((file) => wanted.test(file))
    .map((file) => path.join(folder, file));

const importsOf = new Map<string, string[]>();
/** What a file brings in of ours, not counting types. */
function imported(file: string): string[] {
  const known = importsOf.get(file);
  if (known) return known;
  const text = readFileSync(path.join(root, file), 'utf8');
  const found = [...text.matchAll(/^(?:import|export)(?! type)[\s\S]*?from '([^']+)';|import\('([^']+)'\)/gm)].flatMap(
    (match) => {
      const said = match[1] ?? match[2] ?? '';
      if (!said.startsWith('.') && !said.startsWith('@/')) return [];
      const base = said.startsWith('@/') ? path.join('src', said.slice(2)) : path.join(path.dirname(file), said);
      return ['.ts', '.tsx', '/index.ts']
        .map((end) => base + end)
        .filter((candidate) => existsSync(path.join(root, candidate)));
    },
  );
  importsOf.set(file, found);
  return found;
}

/** How many steps it is from a test to each file that it reaches. */
function stepsFrom(test: string): Map<string, number> {
  const steps = new Map([[test, 0]]);
  for (const file of steps.keys())
    for (const next of imported(file)) if (!steps.has(next)) steps.set(next, (steps.get(file) ?? 0) + 1);
  return steps;
}

/** Numbers that look drawn by chance, the same ones for a seed (mulberry32). */
function drawnBy(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
  };
}

/**
 * What became of the tests against a fault: they failed, they passed, they did not end in the time there is, or it is the
 * fault that kept them from ending.
 */
type Outcome = 'seen' | 'not seen' | 'no end' | 'endless';

function runTests(folder: string, tests: readonly string[], withinMs: number): Promise<Outcome> {
  return new Promise((done) => {
    const jest = path.join(root, 'node_modules', 'jest', 'bin', 'jest.js');
    const run = spawn(process.execPath, [jest, '--bail', '--silent', '--runTestsByPath', ...tests], {
      cwd: folder,
      stdio: 'ignore',
      detached: true,
      env,
    });
    const end = (came: Outcome) => {
      clearTimeout(timer);
      // A worker that a fault sent round in a circle does not end with who started it.
      try {
        if (run.pid !== undefined) process.kill(-run.pid, 'SIGKILL');
      } catch {
        // All of them have ended.
      }
      done(came);
    };
    const timer = setTimeout(() => end('no end'), withinMs);
    run.on('exit', (code, signal) => signal === null && end(code === 0 ? 'not seen' : 'seen'));
  });
}

/** The tests that are run against a fault: those that come by its place, the nearest first, then the short ones. */
function against(fault: Fault): string[] {
  const reaches = reach.at(fault);
  const far = new Map(tests.map(([test, steps]) => [test, steps.get(fault.file) ?? Infinity]));
  const of = (test: string) => far.get(test) ?? Infinity;
  const ms = (test: string) => reach.times.get(test) ?? Infinity;
  const coming = [...far.keys()].filter((test) => of(test) < Infinity && ms(test) <= longTestMs && reaches(test));
  const near = coming.toSorted((a, b) => of(a) - of(b) || ms(a) - ms(b)).slice(0, nextTo);
  const rest = coming.filter((test) => !near.includes(test)).toSorted((a, b) => ms(a) - ms(b));
  let sum = 0;
  return [...near, ...rest].filter((test) => {
    const more = ms(test) / os.availableParallelism();
    if (sum + more > mostOfTestsMs) return false;
    sum += more;
    return true;
  });
}

/** Those next to the fault first, then the rest, all of it in the time that there is for one fault. */
async function tried(folder: string, near: readonly string[], withinMs = mostMs): Promise<Outcome> {
  const began = Date.now();
  for (const tests of [near.slice(0, nextTo), near.slice(nextTo)]) {
    if (tests.length === 0) continue;
    const came = await runTests(folder, tests, Math.max(1, withinMs - (Date.now() - began)));
    if (came !== 'not seen') return came;
  }
  return 'not seen';
}

const equal = JSON.parse(readFileSync(path.join(root, 'scripts', 'mutants-equal.json'), 'utf8')) as {
  file: string;
  line: string;
  put: string;
}[];
const tests = [...files('src', /\.test\.ts$/), ...files('tests', /\.test\.ts$/)].map(
  (test) => [test, stepsFrom(test)] as const,
);
const copiedParts = [
  'src',
  'tests',
  'outside',
  'demo',
  'bench',
  'drizzle',
  'scripts',
  'docs',
  'README.md',
  'package.json',
  'package-lock.json',
  'tsconfig.json',
  'jest.config.mjs',
];

/** A copy of the tree that may be broken; what is installed is the tree's own. */
function copied(): string {
  const folder = mkdtempSync(path.join(os.tmpdir(), 'nuntiax-mutate-'));
  for (const part of copiedParts)
    if (existsSync(path.join(root, part))) cpSync(path.join(root, part), path.join(folder, part), { recursive: true });
  symlinkSync(path.join(root, 'node_modules'), path.join(folder, 'node_modules'));
  return folder;
}

const folder = copied();
const env = { ...process.env, MODEL_RUNS: modelRuns };
const broken = rooms.flatMap((room) => files(room, /(?<!\.test)\.tsx?$/)).filter((file) => !file.includes('/testing/'));
let marked: string | null = null;
const reach = Reach.for(root, () => ({ marked: (marked = copied()), right: folder }), broken, env);
if (marked !== null) rmSync(marked, { recursive: true, force: true });
for (const [test, ms] of reach.times)
  if (ms > longTestMs) console.error(`not run: ${test} takes ${Math.round(ms / 1000)} s by itself`);
const random = drawnBy(Number(values.seed));
const drawn = broken
  .filter((file) => file.includes(values.only))
  .flatMap((file) => faultsOf(root, file))
  .map((fault) => ({ fault, by: random() }))
  .sort((a, b) => a.by - b.by)
  .map(({ fault }) => fault);
/** The line of a fault, with what was put otherwise marked. */
function shownAt(text: string, at: number, end: number): string {
  const from = text.lastIndexOf('\n', at) + 1;
  const marked = `${text.slice(from, at)}«${text.slice(at, end)}»${text.slice(end, text.indexOf('\n', end))}`.trim();
  return marked.slice(Math.max(0, at - from - 60)).slice(0, 130);
}

const count: Record<Outcome, number> = { seen: 0, 'not seen': 0, 'no end': 0, endless: 0 };
const made = () => Object.values(count).reduce((sum, some) => sum + some, 0);
try {
  for (const fault of drawn) {
    const { file, at, end, put, sort } = fault;
    if (made() >= Number(values.count)) break;
    const text = readFileSync(path.join(root, file), 'utf8');
    const line = text.slice(text.lastIndexOf('\n', at) + 1, text.indexOf('\n', at)).trim();
    if (equal.some((known) => known.file === file && known.line === line && known.put === put)) continue;
    const near = against(fault);
    writeFileSync(path.join(folder, file), text.slice(0, at) + put + text.slice(end));
    let came = await tried(folder, near);
    writeFileSync(path.join(folder, file), text);
    if (came === 'no end') {
      const right = await tried(folder, near);
      if (right === 'not seen') came = 'endless';
      // Where the right line takes as long, it is the machine that is busy: the fault is given longer.
      else {
        writeFileSync(path.join(folder, file), text.slice(0, at) + put + text.slice(end));
        came = await tried(folder, near, longerMs);
        writeFileSync(path.join(folder, file), text);
      }
    }
    count[came] += 1;
    console.error(
      `${came === 'not seen' || came === 'no end' ? came.toUpperCase() : came.padEnd(8)} ${sort}: ${file}: ${shownAt(text, at, end)}  [→ ${put.slice(0, 40)}]`,
    );
  }
} finally {
  rmSync(folder, { recursive: true, force: true });
}
const killed = count.seen + count.endless;
const share = Math.round((killed / Math.max(1, made())) * 100) / 100;
console.log(JSON.stringify({ mutants: made(), killed, noEnd: count['no end'], share }));
