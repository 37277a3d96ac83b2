import { findServices } from '../outside/service';
import type { Service } from '../outside/stand-in';
import { Run, runs, whatever } from './model-run';
import { writtenTo } from './scripted/real-world';

describe('whatever happens between a house and a real kind on its own stand-in', () => {
  let services: ReadonlyMap<string, Service>;
  beforeAll(async () => {
    services = await findServices();
  });
  test.each(writtenTo)('%s: what is sent stands there', async (name) => {
    const run = await Run.real(name, services);
    try {
      await run.take({ do: 'send' });
      await run.take({ do: 'settle' });
      run.patiently();
      await run.take({ do: 'settle' });
      expect([run.world.listing(name).standing, run.place.open.length]).toEqual(['instep', 1]);
      await run.rests();
    } finally {
      await run.end();
    }
  });
  test.each(writtenTo)(
    '%s: never two, never too much, nothing lost, and it comes to rest',
    (name) => whatever(() => Run.real(name, services), Math.max(1, Math.round(runs / 4)), 20),
    300_000,
  );
});
