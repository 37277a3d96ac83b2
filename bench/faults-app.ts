import { createServer } from 'node:http';
import path from 'node:path';
import { feedOf } from '@/desk/channels/feed-of';
import { openHouse } from '@/house/house';
import { startRunner } from '@/runner/runner';

/**
 * The working half of the application in a process of its own: the house on the data folder, the queue, and the
 * calendar feeds.
 */
const house = openHouse(path.resolve(process.env.NUNTIAX_DATA ?? 'data'), process.env.NUNTIAX_CLOCK ?? null);
await house.follow();
const runner = startRunner(house);
const feeds = createServer((request, response) => {
  const feed = feedOf(house, (request.url ?? '').replace('/feeds/', ''));
  response.statusCode = feed === null ? 404 : 200;
  response.end(feed?.text ?? '');
});
// Where another process still shows them, it is tried again.
const listen = () =>
  feeds.listen(Number(new URL(process.env.NUNTIAX_ORIGIN ?? 'http://127.0.0.1:0').port), '127.0.0.1');
feeds.on('error', () => setTimeout(listen, 500));
listen();
process.on('SIGTERM', () => void runner.stop().then(() => process.exit(0)));
process.stdout.write('ready\n');
