import { spawn } from 'node:child_process';
import { createServer } from 'node:net';

/** The stand-ins in a process of their own, as they stand beside an application: what they cost is not ours. */
export async function startApart(data: string) {
  const port = await new Promise<number>((resolve) => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const at = server.address();
      server.close(() => resolve(typeof at === 'object' && at ? at.port : 0));
    });
  });
  const base = `http://127.0.0.1:${port}`;
  const key = 'a-key-of-the-bench';
  const child = spawn(process.execPath, ['--import', 'tsx', 'outside/main.ts'], {
    env: { ...process.env, NUNTIAX_DATA: data, OUTSIDE_PORT: String(port), OUTSIDE_KEY: key },
    stdio: 'ignore',
  });
  const headers = { 'x-outside-key': key };
  while (!(await fetch(`${base}/about`).catch(() => null))) await new Promise((resolve) => setTimeout(resolve, 100));
  return {
    base,
    headers,
    async stop() {
      child.kill('SIGTERM');
      await new Promise((resolve) => child.once('exit', resolve));
    },
  };
}
