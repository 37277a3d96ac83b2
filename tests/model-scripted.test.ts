import { Run, runs, whatever } from './model-run';
import type { KindName } from './scripted/world';

test.each<KindName>(['plain', 'marks', 'twostep', 'later', 'looked', 'keyed', 'calledoff'])(
  'whatever happens between a house and a channel, %s: never two, never too much, nothing lost, and it comes to rest',
  // What comes hours later makes long runs.
  (name) => whatever(() => Run.scripted(name), name === 'looked' ? Math.ceil(runs / 4) : runs, 28),
  300_000,
);
