import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import ts from 'typescript';
import { z } from 'zod';
import type { Fault } from './faults';

/*
 * Which tests come by a place of the code, and how long each test file takes. A copy of the tree gets a mark at the head of
 * every body, block, branch and second half of a condition; all tests are run on it once, and each test file, with the
 * processes that it starts, writes down the marks that it came by.
 */

/** A body, block or branch of a file, or the file itself: from where to where its mark speaks for. */
interface Place {
  file: string;
  at: number;
  end: number;
}

const reachSchema = z.object({
  /** How long each test file takes, in ms. Not there: it fails on what is not broken, and sees nothing. */
  times: z.record(z.string(), z.number()),
  places: z.array(z.object({ file: z.string(), at: z.number(), end: z.number() })),
  /** The numbers of the places that a test file comes by; null where it says nothing of that. */
  reached: z.record(z.string(), z.array(z.number()).nullable()),
});
type Kept = z.infer<typeof reachSchema>;

/** A file's text with marks, numbered from `places.length` on; their places are added to `places`. */
function marked(file: string, text: string, places: Place[]): string {
  const source = ts.createSourceFile(file, text, ts.ScriptTarget.Latest, true);
  const put: { at: number; text: string }[] = [];
  const mark = (at: number, end: number) => `__marks[${places.push({ file, at, end }) - 1}] = 1`;
  const head = mark(0, text.length);
  const around = (node: ts.Node, [before, between, after]: readonly [string, string, string]) => {
    const [at, end] = [node.getStart(), node.getEnd()];
    put.push({ at, text: `${before}${mark(at, end)}${between}` }, { at: end, text: after });
  };
  const visit = (node: ts.Node): void => {
    if (ts.isTypeNode(node)) return;
    if (ts.isBlock(node)) put.push({ at: node.getStart() + 1, text: ` ${mark(node.getStart(), node.getEnd())};` });
    for (const branch of branchesOf(node))
      around(branch, ts.isStatement(branch) ? ['{ ', '; ', ' }'] : ['(', ', ', ')']);
    ts.forEachChild(node, visit);
  };
  visit(source);
  let marks = text;
  for (const { at, text: what } of put
    .map((each, order) => ({ ...each, order }))
    .sort((a, b) => b.at - a.at || b.order - a.order))
    marks = marks.slice(0, at) + what + marks.slice(at);
  return `${prelude}${head};\n${marks}`;
}

/** What is done or not, as a condition falls out: bodies without a block, branches, and what is asked only then. */
function branchesOf(node: ts.Node): ts.Node[] {
  if (ts.isArrowFunction(node)) return ts.isBlock(node.body) ? [] : [node.body];
  if (ts.isConditionalExpression(node)) return [node.whenTrue, node.whenFalse];
  if (ts.isBinaryExpression(node)) return halves.has(node.operatorToken.kind) ? [node.right] : [];
  if (!ts.isIfStatement(node)) return [];
  const { thenStatement, elseStatement } = node;
  return [thenStatement, ...(elseStatement && !ts.isIfStatement(elseStatement) ? [elseStatement] : [])].filter(
    (branch) => !ts.isBlock(branch),
  );
}

const halves: ReadonlySet<ts.SyntaxKind> = new Set([
  ts.SyntaxKind.AmpersandAmpersandToken,
  ts.SyntaxKind.BarBarToken,
  ts.SyntaxKind.QuestionQuestionToken,
]);

/** Where a process that a test starts writes its marks down, when it ends: in a file of its own beside the test's. */
const prelude = `const __marks = globalThis.reachMarks ??= (() => {
  const made = [];
  const to = process.env.REACH_TO;
  if (to) process.on('exit', () => process.getBuiltinModule('node:fs').writeFileSync(to + process.pid, JSON.stringify(Object.keys(made).map(Number))));
  return made;
})(); `.replaceAll('\n', ' ');

const setup = `
const { writeFileSync } = require('node:fs');
const path = require('node:path');
globalThis.reachMarks = new Uint8Array(PLACES);
afterAll(() => {
  const reached = [];
  globalThis.reachMarks.forEach((here, at) => here && reached.push(at));
  writeFileSync(process.env.REACH_TO + 'test', JSON.stringify(reached));
});
process.env.REACH_TO = path.join(ROOT, 'reached', path.relative(ROOT, expect.getState().testPath).replaceAll('/', '~') + '@');
`;

const resultsSchema = z.object({
  testResults: z.array(z.object({ name: z.string(), status: z.string(), startTime: z.number(), endTime: z.number() })),
});

/** Runs jest once in a folder: how long each test file took, in ms, and null where it failed. */
function ran(folder: string, env: NodeJS.ProcessEnv, args: readonly string[]): Map<string, number | null> {
  const told = path.join(folder, 'results.json');
  const jest = path.join(folder, 'node_modules', 'jest', 'bin', 'jest.js');
  spawnSync(process.execPath, [jest, '--silent', '--json', `--outputFile=${told}`, ...args], {
    cwd: folder,
    stdio: 'ignore',
    env,
  });
  return new Map(
    resultsSchema
      .parse(JSON.parse(readFileSync(told, 'utf8')))
      .testResults.map(({ name, status, startTime, endTime }) => [
        path.relative(folder, name),
        status === 'passed' ? endTime - startTime : null,
      ]),
  );
}

/** Runs all tests in a copy with marks, and those that fail there once more in one without. */
function measured(copies: { marked: string; right: string }, files: readonly string[], env: NodeJS.ProcessEnv): Kept {
  const places: Place[] = [];
  for (const file of files) {
    const at = path.join(copies.marked, file);
    writeFileSync(at, marked(file, readFileSync(at, 'utf8'), places));
  }
  mkdirSync(path.join(copies.marked, 'reached'));
  writeFileSync(
    path.join(copies.marked, 'reach-setup.cjs'),
    setup.replaceAll('ROOT', JSON.stringify(copies.marked)).replace('PLACES', String(places.length)),
  );
  writeFileSync(
    path.join(copies.marked, 'reach.config.mjs'),
    `import config from './jest.config.mjs';
// What a test file leaves behind is not cleared property by property: the marks are many.
const off = { testEnvironmentOptions: { globalsCleanup: 'off' }, setupFilesAfterEnv: ['<rootDir>/reach-setup.cjs'] };
export default { ...config, ...off };
`,
  );
  const first = ran(copies.marked, env, ['--config', 'reach.config.mjs']);
  const failed = [...first].flatMap(([test, ms]) => (ms === null ? [test] : []));
  const again = failed.length === 0 ? null : ran(copies.right, env, ['--runTestsByPath', ...failed]);
  const written = readdirSync(path.join(copies.marked, 'reached'));
  const times: Kept['times'] = {};
  const reached: Kept['reached'] = {};
  for (const [test, ms] of [...first, ...(again ?? [])]) {
    if (ms === null) continue;
    times[test] = ms;
    const of = `${test.replaceAll('/', '~')}@`;
    const said = written.filter((file) => file.startsWith(of));
    const marks = (file: string) =>
      z.array(z.number()).parse(JSON.parse(readFileSync(path.join(copies.marked, 'reached', file), 'utf8')));
    reached[test] = first.get(test) !== null && said.includes(`${of}test`) ? [...new Set(said.flatMap(marks))] : null;
  }
  for (const test of failed)
    if (times[test] === undefined) console.error(`not run: ${test} fails before anything is broken`);
  return { times, places, reached };
}

/** A name for what a tree's folders hold: the same as long as no file of them is another. */
function nameOf(root: string, folders: readonly string[]): string {
  const hash = createHash('sha256');
  for (const folder of folders)
    for (const file of readdirSync(path.join(root, folder), { recursive: true, withFileTypes: true }).sort((a, b) =>
      path.join(a.parentPath, a.name) < path.join(b.parentPath, b.name) ? -1 : 1,
    ))
      if (file.isFile()) hash.update(file.name).update(readFileSync(path.join(file.parentPath, file.name)));
  return hash.digest('hex').slice(0, 16);
}

/** What is known of the tests: how long each takes, and which come by a place. */
export class Reach {
  private readonly of = new Map<string, ReadonlySet<number>>();
  private constructor(private readonly kept: Kept) {
    for (const [test, marks] of Object.entries(kept.reached)) if (marks) this.of.set(test, new Set(marks));
  }

  /**
   * Measures it, or reads what was measured of the same tree before (it is kept in the folder for what is temporary).
   *
   * @param copies two copies of the tree, made only where it is to be measured
   * @param files the files whose places are asked for
   */
  static for(
    root: string,
    copies: () => { marked: string; right: string },
    files: readonly string[],
    env: NodeJS.ProcessEnv,
  ): Reach {
    const at = path.join(
      os.tmpdir(),
      `nuntiax-reach-${nameOf(root, ['src', 'tests', 'outside', 'demo', 'scripts'])}.json`,
    );
    if (existsSync(at)) return new Reach(reachSchema.parse(JSON.parse(readFileSync(at, 'utf8'))));
    const kept = measured(copies(), files, env);
    writeFileSync(`${at}.part`, JSON.stringify(kept));
    renameSync(`${at}.part`, at);
    return new Reach(kept);
  }

  /** The test files that passed, with how long each takes, in ms. */
  get times(): ReadonlyMap<string, number> {
    return new Map(Object.entries(this.kept.times));
  }

  /**
   * Which tests come by the innermost body, block or branch around a fault, or by what it keeps from being done; where
   * that is not known of one, it may.
   */
  at(fault: Fault): (test: string) => boolean {
    const { file } = fault;
    const at = fault.taken ?? fault.at;
    let inner: number | null = null;
    let least = Infinity;
    for (const [number, place] of this.kept.places.entries()) {
      if (place.file !== file || place.at > at || place.end <= at || place.end - place.at >= least) continue;
      inner = number;
      least = place.end - place.at;
    }
    return (test) => inner === null || (this.of.get(test)?.has(inner) ?? true);
  }
}
