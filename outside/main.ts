import path from 'node:path';
import { keptKey } from './key';
import { startOutside } from './server';

const folder = path.resolve(process.env.NUNTIAX_DATA ?? 'data', 'outside');
const { base } = await startOutside({
  folder,
  port: Number(process.env.OUTSIDE_PORT ?? 4320),
  slowMs: Number(process.env.OUTSIDE_SLOW_MS ?? 0),
  key: process.env.OUTSIDE_KEY ?? keptKey(folder),
});
console.log(`outside: ${base}`);
for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, () => process.exit(0));
