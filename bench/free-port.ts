import { randomInt } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { createServer } from 'node:net';

/** The first port that this machine gives by itself to whoever asks for any; 32768 where it does not say. */
function firstGiven(): number {
  try {
    return Number(readFileSync('/proc/sys/net/ipv4/ip_local_port_range', 'utf8').split(/\s/)[0]) || 32_768;
  } catch {
    return 32_768;
  }
}

/** Whether nobody listens on a port of this machine. */
export function isFree(port: number): Promise<boolean> {
  return new Promise((resolve) => {
    const server = createServer();
    server.once('error', () => resolve(false));
    server.listen(port, '127.0.0.1', () => server.close(() => resolve(true)));
  });
}

/**
 * A port of this machine that nobody listens on, of those that the machine never gives by itself: let go and taken
 * again, as by a process that is started anew, it is not some connection's meanwhile.
 */
export async function freePort(): Promise<number> {
  const end = Math.max(firstGiven(), 12_000);
  for (;;) {
    const port = randomInt(10_000, end);
    if (await isFree(port)) return port;
  }
}
