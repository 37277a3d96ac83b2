// npm run backup [-- FILE], npm run restore -- FILE: the house as one archive, beside a running application or alone.
import path from 'node:path';
import { ensureInstalled, root, run } from './setup.mjs';

process.umask(0o077);
await ensureInstalled({ aside: true });
process.env.NUNTIAX_DATA ??= path.join(root, 'data', 'house');
const [verb, file] = process.argv.slice(2);
const from = process.env.INIT_CWD ?? process.cwd();
process.exit(
  await run(process.execPath, [
    '--import',
    'tsx',
    path.join(root, 'src/desk/house/run-backup.ts'),
    verb,
    ...(file === undefined ? [] : [path.resolve(from, file)]),
  ]),
);
