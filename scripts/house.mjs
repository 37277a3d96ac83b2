// npm run house -- VERB …: the house from a script, beside a running application or alone; answers with lines of JSON.
import path from 'node:path';
import { ensureInstalled, root, run } from './setup.mjs';

await ensureInstalled({ aside: true });
const [verb, ...rest] = process.argv.slice(2);
const from = process.env.INIT_CWD ?? process.cwd();
const args = verb === 'read' ? rest.map((file) => path.resolve(from, file)) : rest;
process.exit(
  await run(process.execPath, [
    '--import',
    'tsx',
    path.join(root, 'src/desk/house/run-verb.ts'),
    ...(verb === undefined ? [] : [verb]),
    ...args,
  ]),
);
