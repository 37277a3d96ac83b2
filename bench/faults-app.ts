import path from 'node:path';
import { openHouse } from '@/house/house';
import { startRunner } from '@/runner/runner';

/** The working half of the application in a process of its own: the house on the data folder, and the queue. */
const house = openHouse(path.resolve(process.env.NUNTIAX_DATA ?? 'data'), process.env.NUNTIAX_CLOCK ?? null);
await house.follow();
const runner = startRunner(house);
process.on('SIGTERM', () => void runner.stop().then(() => process.exit(0)));
process.stdout.write('ready\n');
