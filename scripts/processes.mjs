// Starts and stops the processes of the application and of the outside services.
import { spawn } from 'node:child_process';
import path from 'node:path';
import { root } from './setup.mjs';

// What these processes write is for their owner alone.
process.umask(0o077);

const children = new Set();

/** Starts a Node process of ours; it is ended with this one. */
export function start(args, env, { onEnd } = {}) {
  const child = spawn(process.execPath, args, {
    cwd: root,
    stdio: ['ignore', 'inherit', 'inherit'],
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1', ...env },
  });
  children.add(child);
  child.on('close', (code, signal) => {
    children.delete(child);
    onEnd?.(code, signal);
  });
  return child;
}

/** Runs a Node process of ours to its end; resolves to its exit code. */
export function finish(args, env) {
  return new Promise((resolve) => start(args, env, { onEnd: (code) => resolve(code ?? 1) }));
}

/** Asks all that was started to end, and waits for it. */
export async function stopAll() {
  const all = [...children];
  const ended = all.map((child) => new Promise((resolve) => child.once('close', resolve)));
  for (const child of all) child.kill('SIGTERM');
  const slow = setTimeout(() => all.forEach((child) => child.kill('SIGKILL')), 5000);
  await Promise.all(ended);
  clearTimeout(slow);
}

/**
 * Asks `url` until it answers with JSON, `seconds` have passed, or the process that is to answer there (`from`) has
 * ended. `null`: no answer.
 */
export async function answerOf(url, seconds, from = null) {
  const until = Date.now() + seconds * 1000;
  const ended = () => from !== null && (from.exitCode !== null || from.signalCode !== null);
  do {
    try {
      return await (await fetch(url, { signal: AbortSignal.timeout(3000) })).json();
    } catch {
      await new Promise((resolve) => setTimeout(resolve, 150));
    }
  } while (Date.now() < until && !ended());
  return null;
}

/** Opens the first screen once: whoever comes next need not wait for what a new process has to load. */
export async function warmUp(address) {
  await fetch(`${address}/season`, { signal: AbortSignal.timeout(10_000) })
    .then((answer) => answer.text())
    .catch(() => null);
}

/** Ends this process and all it started, once, on Ctrl-C or when asked to. */
export function stopOnSignal() {
  let stopping = false;
  const stop = async () => {
    if (stopping) return;
    stopping = true;
    await stopAll();
    process.exit(0);
  };
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, stop);
  return () => stopping;
}

const next = path.join(root, 'node_modules', 'next', 'dist', 'bin', 'next');

/** The address that the application answers at: this machine alone unless told otherwise. */
export function bindHost() {
  return process.env.NUNTIAX_HOST ?? '127.0.0.1';
}

/** Arguments that start the built application. Bound to this machine unless told otherwise. */
export function applicationArgs(port) {
  return [next, 'start', '--hostname', bindHost(), '--port', String(port)];
}
