// npm run files -- check FILE…: what reading files would do, without a house.
import path from 'node:path';
import { ensureInstalled, root, run } from './setup.mjs';

await ensureInstalled({ aside: true });
process.exit(
  await run(process.execPath, [
    '--import',
    'tsx',
    path.join(root, 'src/desk/files/check-files.ts'),
    ...process.argv
      .slice(2)
      .map((one, i, all) =>
        i === 0 || one.startsWith('--') || all[i - 1] === '--zone'
          ? one
          : path.resolve(process.env.INIT_CWD ?? process.cwd(), one),
      ),
  ]),
);
