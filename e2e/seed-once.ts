import { rmSync } from 'node:fs';
import { startDemo, type Seeded } from './demo';

/** Reads the scenario in and sends it once, as the demo command does; gives back what clears it away. */
export default async function seedOnce() {
  const { folder, port, outsidePort, stop } = await startDemo();
  await stop({ keep: true });
  const seeded: Seeded = { folder, port, outsidePort, at: Date.now() };
  process.env.NUNTIAX_SEEDED = JSON.stringify(seeded);
  return () => rmSync(folder, { recursive: true, force: true });
}
