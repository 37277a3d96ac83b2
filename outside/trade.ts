import type { Outside } from './outside';
import type { Service } from './stand-in';
import { chance, type Skies } from './weather';

const hourMs = 3_600_000;
/** However far the clock leaps, no more is sold at once. */
const mostAtOnce = 2_000;

/** Sells while the clock runs, as much in an hour as the weather says: to be called again and again. */
export function makeTrade(services: ReadonlyMap<string, Service>, outside: Outside, skies: Skies) {
  const done = new Map<string, { at: number; owed: number; drawn: number }>();
  return (): void => {
    const now = outside.clock.now();
    for (const [name, { sell }] of services) {
      const weather = skies.get(name);
      const mine = done.get(name) ?? { at: now, owed: 0, drawn: 0 };
      const passed = Math.max(0, now - mine.at);
      done.set(name, mine);
      mine.at = now;
      if (!sell || !weather || weather.salesPerHour === 0) continue;
      mine.owed = Math.min(mostAtOnce, mine.owed + (passed * weather.salesPerHour) / hourMs);
      const orders = Math.floor(mine.owed);
      mine.owed -= orders;
      const draw = () => chance(weather.seed, (mine.drawn += 1));
      if (orders > 0) outside.store.whole(() => sell(outside, orders, draw));
    }
  };
}
