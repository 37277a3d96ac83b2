// npm run check: proves the application on a fresh clone. Ends with one line: N passed, N failed.
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import path from 'node:path';
import { ensureBuilt, ensureInstalled, root, run } from './setup.mjs';

const chromium = process.env.CHROMIUM ?? '/usr/bin/chromium';
const results = path.join(root, 'test-results');
const bin = (...parts) => path.join(root, 'node_modules', ...parts);
let passed = 0;
let failed = 0;

function count(name, good, bad) {
  passed += good;
  failed += bad;
  console.log(`\ncheck: ${name}: ${good} passed, ${bad} failed`);
}

async function step(name, args) {
  console.log(`\ncheck: ${name} …`);
  const code = await run(process.execPath, args);
  count(name, code === 0 ? 1 : 0, code === 0 ? 0 : 1);
}

/** Runs a test runner and counts by its own report; a runner that ended badly without one counts as a failure. */
async function suite(name, args, report, read) {
  console.log(`\ncheck: ${name} …`);
  rmSync(report, { force: true });
  const code = await run(process.execPath, args);
  const [good, bad] = existsSync(report) ? read(JSON.parse(readFileSync(report, 'utf8'))) : [0, 0];
  count(name, good, bad === 0 && (code !== 0 || good === 0) ? 1 : bad);
}

async function ensureChromium() {
  if (existsSync(chromium)) return true;
  console.log('check: installing Chromium from Debian’s packages');
  if (process.getuid?.() === 0 && (await run('apt-get', ['update'], { quiet: true })) === 0)
    await run('apt-get', ['install', '-y', '--no-install-recommends', 'chromium']);
  if (existsSync(chromium)) return true;
  console.error(
    `check: there is no Chromium at ${chromium}, and it could not be installed. Install it (apt-get install chromium), or set CHROMIUM to where it is.`,
  );
  return false;
}

await ensureInstalled();
const browser = await ensureChromium();
mkdirSync(results, { recursive: true });
await step('route types', [bin('next', 'dist', 'bin', 'next'), 'typegen']);
await Promise.all([
  step('lint and walls', [bin('eslint', 'bin', 'eslint.js'), '.', '--max-warnings', '0']),
  step('one style of writing', [bin('prettier', 'bin', 'prettier.cjs'), '--check', '--log-level', 'warn', '.']),
  step('types', [bin('typescript', 'bin', 'tsc'), '--noEmit']),
  step('nothing unused', [bin('knip', 'bin', 'knip.js')]),
  step('no import circle', [
    bin('dependency-cruiser', 'bin', 'dependency-cruise.mjs'),
    ...['src', 'outside', 'demo', 'bench', 'tests', 'e2e', 'scripts'],
    ...['--config', '.dependency-cruiser.cjs'],
  ]),
]);
const jestReport = path.join(results, 'jest.json');
await suite(
  'unit and integration',
  [bin('jest', 'bin', 'jest.js'), '--json', `--outputFile=${jestReport}`],
  jestReport,
  (report) => [report.numPassedTests, report.numFailedTests + report.numRuntimeErrorTestSuites],
);
await ensureBuilt();
count('build', 1, 0);
await step('the weight of pages', ['--import', 'tsx', path.join('bench', 'weight.ts')]);
if (browser) {
  await suite(
    'the real interface',
    [bin('@playwright', 'test', 'cli.js'), 'test'],
    path.join(results, 'e2e.json'),
    ({ stats }) => {
      if (stats.flaky > 0) console.log(`check: ${stats.flaky} tests passed only at the second try`);
      return [stats.expected + stats.flaky, stats.unexpected];
    },
  );
} else count('the real interface', 0, 1);
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
