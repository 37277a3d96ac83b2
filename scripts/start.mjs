// npm run start: the application for real use, empty at first, on the machine's own clock.
import path from 'node:path';
import { answerOf, applicationArgs, bindHost, finish, start, stopOnSignal, warmUp } from './processes.mjs';
import { ensureBuilt, ensureInstalled, root } from './setup.mjs';

const port = Number(process.env.PORT ?? 4310);
const stopping = stopOnSignal();
await ensureInstalled();
await ensureBuilt();
const data = path.resolve(root, process.env.NUNTIAX_DATA ?? path.join('data', 'house'));
const asked = await finish(['--import', 'tsx', 'src/desk/people/run-may-bind.ts', bindHost()], { NUNTIAX_DATA: data });
if (asked !== 0) process.exit(1);
const application = start(
  applicationArgs(port),
  { NUNTIAX_DATA: data, NUNTIAX_DEMO: '', PORT: String(port) },
  { onEnd: (code) => stopping() || process.exit(code ?? 1) },
);
if ((await answerOf(`http://127.0.0.1:${port}/api/health`, 300, application)) !== null) {
  await warmUp(`http://127.0.0.1:${port}`);
  console.log(`\n  Nuntiax   http://127.0.0.1:${port}\n  Data      ${data}\n`);
}
