import { spawn, spawnSync } from 'node:child_process';
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
import ts from 'typescript';
import { z } from 'zod';

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
 * So many test files, the nearest first, are run against a fault, those next to it before the others, and together no
 * longer than is left of a minute on a slow day: what does not end then goes round in circles.
 */
const mostTests = 60;
const nextTo = 4;
const mostOfTestsMs = 40_000;
/** So many runs of a model are drawn against one fault: as many as a minute allows beside the other tests. */
const modelRuns = '4';
/** Test files that take longer by themselves are named, and not run. */
const longTestMs = 60_000;

/** One fault: what stands at a place, and what is put there. */
interface Fault {
  file: string;
  at: number;
  end: number;
  put: string;
  sort: string;
}

const files = (folder: string, wanted: RegExp) =>
  readdirSync(path.join(root, folder), { recursive: true, encoding: 'utf8' })
    .filter((file) => wanted.test(file))
    .map((file) => path.join(folder, file));

const swaps: Partial<Record<ts.SyntaxKind, [string, string]>> = {
  [ts.SyntaxKind.LessThanToken]: ['<=', 'bound'],
  [ts.SyntaxKind.LessThanEqualsToken]: ['<', 'bound'],
  [ts.SyntaxKind.GreaterThanToken]: ['>=', 'bound'],
  [ts.SyntaxKind.GreaterThanEqualsToken]: ['>', 'bound'],
  [ts.SyntaxKind.EqualsEqualsEqualsToken]: ['!==', 'condition'],
  [ts.SyntaxKind.ExclamationEqualsEqualsToken]: ['===', 'condition'],
  [ts.SyntaxKind.AmpersandAmpersandToken]: ['||', 'condition'],
  [ts.SyntaxKind.BarBarToken]: ['&&', 'condition'],
  [ts.SyntaxKind.PlusToken]: ['-', 'digits'],
  [ts.SyntaxKind.MinusToken]: ['+', 'order'],
};
/** Names of clocks that are easily taken for each other. */
const clocks: Record<string, string> = { now: 'monotonic', monotonic: 'now' };

function faultsOf(file: string): Fault[] {
  const text = readFileSync(path.join(root, file), 'utf8');
  const source = ts.createSourceFile(file, text, ts.ScriptTarget.Latest, true, ts.ScriptKind.TSX);
  const found: Fault[] = [];
  const add = (node: ts.Node, put: string, sort: string) =>
    found.push({ file, at: node.getStart(), end: node.getEnd(), put, sort });
  const visit = (node: ts.Node): void => {
    if (ts.isTypeNode(node) || ts.isImportDeclaration(node) || ts.isInterfaceDeclaration(node)) return;
    if (ts.isBinaryExpression(node)) {
      const swap = swaps[node.operatorToken.kind];
      // Texts that are joined are words, not figures.
      const words = [node.left, node.right].some(
        (side) => ts.isStringLiteralLike(side) || ts.isTemplateExpression(side),
      );
      if (swap && !words) add(node.operatorToken, ...swap);
    } else if (ts.isPrefixUnaryExpression(node) && node.operator === ts.SyntaxKind.ExclamationToken)
      add(node, node.operand.getText(), 'condition');
    else if (
      ts.isIfStatement(node) &&
      !node.elseStatement &&
      /^\{?\s*(return|throw|continue)\b/.test(node.thenStatement.getText())
    )
      add(node.expression, 'false', 'gate');
    else if (ts.isNumericLiteral(node) && !ts.isPropertyAssignment(node.parent))
      add(node, `${node.getText()} + 1`, 'digits');
    else if (ts.isPropertyAccessExpression(node) && /^(house|clock|input|context)$/.test(node.expression.getText())) {
      const other = clocks[node.name.text];
      if (other !== undefined) add(node.name, other, 'clock');
    }
    ts.forEachChild(node, visit);
  };
  visit(source);
  return found;
}

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
      env: { ...process.env, MODEL_RUNS: modelRuns },
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

/** How long each test file takes, in ms: all are run once on what is not broken; what fails then sees nothing. */
function timed(folder: string): Map<string, number> {
  const told = path.join(folder, 'timed.json');
  const jest = path.join(root, 'node_modules', 'jest', 'bin', 'jest.js');
  spawnSync(process.execPath, [jest, '--silent', '--json', `--outputFile=${told}`], {
    cwd: folder,
    stdio: 'ignore',
    env: { ...process.env, MODEL_RUNS: modelRuns },
  });
  const { testResults } = timesSchema.parse(JSON.parse(readFileSync(told, 'utf8')));
  for (const { name, status } of testResults)
    if (status !== 'passed') console.error(`not run: ${path.relative(folder, name)} fails before anything is broken`);
  return new Map(
    testResults.map(
      ({ name, status, startTime, endTime }) =>
        [path.relative(folder, name), status === 'passed' ? endTime - startTime : Infinity] as const,
    ),
  );
}
const timesSchema = z.object({
  testResults: z.array(z.object({ name: z.string(), status: z.string(), startTime: z.number(), endTime: z.number() })),
});

/** The nearest tests that are run against a fault in a file. */
function nearest(file: string): string[] {
  const near = tests
    .flatMap(([test, steps]) => (steps.has(file) ? [{ test, far: steps.get(file) ?? 0 }] : []))
    // Of those equally near, the short ones first: more of them are run in the time there is.
    .sort((a, b) => a.far - b.far || (times.get(a.test) ?? 0) - (times.get(b.test) ?? 0));
  let ms = 0;
  return near
    .map(({ test }) => test)
    .filter((test) => (times.get(test) ?? 0) <= longTestMs)
    .filter((test) => {
      const more = (times.get(test) ?? 0) / os.availableParallelism();
      if (ms + more > mostOfTestsMs) return false;
      ms += more;
      return true;
    })
    .slice(0, mostTests);
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
const random = drawnBy(Number(values.seed));
const all = rooms
  .flatMap((room) => files(room, /(?<!\.test)\.tsx?$/))
  .filter((file) => !file.includes('/testing/') && file.includes(values.only))
  .flatMap(faultsOf);
const drawn = all
  .map((fault) => ({ fault, by: random() }))
  .sort((a, b) => a.by - b.by)
  .map(({ fault }) => fault);

const folder = mkdtempSync(path.join(os.tmpdir(), 'nuntiax-mutate-'));
for (const part of [
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
])
  if (existsSync(path.join(root, part))) cpSync(path.join(root, part), path.join(folder, part), { recursive: true });
symlinkSync(path.join(root, 'node_modules'), path.join(folder, 'node_modules'));
const times = timed(folder);
for (const [test, ms] of times)
  if (ms > longTestMs && ms < Infinity) console.error(`not run: ${test} takes ${Math.round(ms / 1000)} s by itself`);
const count: Record<Outcome, number> = { seen: 0, 'not seen': 0, 'no end': 0, endless: 0 };
const made = () => Object.values(count).reduce((sum, some) => sum + some, 0);
try {
  for (const { file, at, end, put, sort } of drawn) {
    if (made() >= Number(values.count)) break;
    const text = readFileSync(path.join(root, file), 'utf8');
    const line = text.slice(text.lastIndexOf('\n', at) + 1, text.indexOf('\n', at)).trim();
    if (equal.some((known) => known.file === file && known.line === line && known.put === put)) continue;
    const near = nearest(file);
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
      `${came === 'not seen' || came === 'no end' ? came.toUpperCase() : came.padEnd(8)} ${sort}: ${file}: ${line.slice(0, 110)}  [${text.slice(at, end).slice(0, 40)} → ${put.slice(0, 40)}]`,
    );
  }
} finally {
  rmSync(folder, { recursive: true, force: true });
}
const killed = count.seen + count.endless;
const share = Math.round((killed / Math.max(1, made())) * 100) / 100;
console.log(JSON.stringify({ mutants: made(), killed, noEnd: count['no end'], share }));
