// npm run outside: starts only the outside services of the demo, for when they were stopped on purpose.
import path from 'node:path';
import { start, stopOnSignal } from './processes.mjs';
import { ensureInstalled, root } from './setup.mjs';

stopOnSignal();
await ensureInstalled();
start(
  ['--import', 'tsx', 'outside/main.ts'],
  { NUNTIAX_DATA: path.resolve(root, process.env.NUNTIAX_DATA ?? path.join('data', 'demo')) },
  { onEnd: () => process.exit(1) },
);
