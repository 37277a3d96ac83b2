// Sets up a clone: installs what the lock names and builds what changed. Needs nothing but Node.
import { spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, lstatSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';

export const root = path.resolve(import.meta.dirname, '..');
const at = (...parts) => path.join(root, ...parts);

/**
 * Runs a command in the project; resolves to its exit code. What it says goes nowhere (`quiet`), or to standard error
 * (`aside`).
 */
export function run(command, args, { env = {}, quiet = false, aside = false } = {}) {
  return new Promise((resolve) => {
    const child = spawn(command, args, {
      cwd: root,
      stdio: quiet ? 'ignore' : aside ? ['inherit', 2, 2] : 'inherit',
      env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1', ...env },
    });
    child.on('error', () => resolve(127));
    child.on('close', (code) => resolve(code ?? 1));
  });
}

function stamp(file) {
  return existsSync(file) ? readFileSync(file, 'utf8') : '';
}

function hashOf(files) {
  const hash = createHash('sha256');
  for (const file of files)
    hash
      .update(file)
      .update('\0')
      .update(readFileSync(at(file)))
      .update('\0');
  return hash.digest('hex');
}

function filesBelow(folder) {
  return readdirSync(at(folder), { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile())
    .map((entry) => path.relative(root, path.join(entry.parentPath, entry.name)))
    .sort();
}

/** Installs the packages of the lock, unless they are there already. Exits where that fails. */
export async function ensureInstalled({ aside = false } = {}) {
  const mark = at('node_modules', '.nuntiax-lock');
  const wanted = `${hashOf(['package-lock.json'])} ${process.version}`;
  if (stamp(mark) === wanted) return;
  // What is linked from elsewhere is kept there: it is not installed over.
  if (lstatSync(at('node_modules'), { throwIfNoEntry: false })?.isSymbolicLink()) return;
  console.error(
    'setup: installing packages (the database driver is compiled where no prebuilt is reachable: some minutes)',
  );
  // Where Node's headers lie on the machine, native parts are compiled against them and nothing is fetched.
  const headers =
    existsSync('/usr/include/node/node.h') && !process.env.npm_config_nodedir ? { npm_config_nodedir: '/usr' } : {};
  const code = await run(process.platform === 'win32' ? 'npm.cmd' : 'npm', ['ci', '--no-audit', '--no-fund'], {
    env: headers,
    aside,
  });
  if (code !== 0) {
    console.error('setup: the packages could not be installed; see above');
    process.exit(1);
  }
  writeFileSync(mark, wanted);
}

/** Builds the application, unless nothing changed since the last build. Exits where that fails. */
export async function ensureBuilt() {
  const mark = at('.next', 'nuntiax-built');
  const wanted = hashOf([
    ...filesBelow('src'),
    'package-lock.json',
    'next.config.ts',
    'postcss.config.mjs',
    'tsconfig.json',
  ]);
  if (stamp(mark) === wanted) return;
  console.log('setup: building the application (about a minute)');
  const code = await run(process.execPath, [at('node_modules', 'next', 'dist', 'bin', 'next'), 'build']);
  if (code !== 0) {
    console.error('setup: the build failed; see above');
    process.exit(1);
  }
  mkdirSync(path.dirname(mark), { recursive: true });
  writeFileSync(mark, wanted);
}
