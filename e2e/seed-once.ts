import { spawnSync } from 'node:child_process';
import { rmSync } from 'node:fs';
import path from 'node:path';
import type { FullConfig } from '@playwright/test';
import { startDemo, type Seeded } from './demo';

/** Reads the scenario in and sends it, as the demo command does, once for each lane; gives back what clears it away. */
export default async function seedOnce({ workers }: FullConfig) {
  // Two demos that find nothing built would build into each other.
  const build = "import('./scripts/setup.mjs').then(({ ensureBuilt }) => ensureBuilt())";
  spawnSync(process.execPath, ['-e', build], { cwd: path.resolve(import.meta.dirname, '..'), stdio: 'inherit' });
  const seeds = await Promise.all(Array.from({ length: workers }, (_, lane) => seed(lane)));
  process.env.NUNTIAX_SEEDED = JSON.stringify(seeds);
  return () => seeds.forEach(({ folder }) => rmSync(folder, { recursive: true, force: true }));
}

async function seed(lane: number): Promise<Seeded> {
  const { folder, port, outsidePort, stop } = await startDemo(lane);
  await stop({ keep: true });
  return { folder, port, outsidePort, at: Date.now() };
}
