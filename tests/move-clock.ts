import { request } from 'node:http';

/**
 * Moves the outside's simulated clock. By a connection of its own: one that was kept and has been closed meanwhile, as
 * happens where a test waits long on a busy machine, would be reset.
 */
export function moveClock(base: string, ms: number): Promise<void> {
  return new Promise((resolve, reject) => {
    const asked = request(
      `${base}/clock`,
      { method: 'POST', agent: false, headers: { 'content-type': 'application/x-www-form-urlencoded' } },
      (answer) => {
        answer.resume();
        answer.on('end', () =>
          answer.statusCode === 200 ? resolve() : reject(new Error(`clock: ${answer.statusCode}`)),
        );
      },
    );
    asked.on('error', reject);
    asked.end(new URLSearchParams({ ms: String(ms) }).toString());
  });
}

/** Follows the clock of the stand-ins: on a busy machine it may take more than one question to be answered in time. */
export async function followed(house: { follow(): Promise<boolean> }): Promise<void> {
  for (let tries = 0; !(await house.follow()); tries += 1) if (tries > 30) throw new Error('the clock does not answer');
}
