import type { OutsideStore } from './store';

/** Tuesday 2 February 2027, 10:20 in Dublin (which is UTC in winter). */
const scenarioStart = Date.UTC(2027, 1, 2, 10, 20);

/** The simulated clock: goes at the pace of the real one, from the scenario's morning, and can be moved on. */
export function makeClock(store: OutsideStore) {
  if (store.setting('clock-offset') === null) store.putSetting('clock-offset', String(scenarioStart - Date.now()));
  const offset = () => Number(store.setting('clock-offset'));
  return {
    now: () => Date.now() + offset(),
    advance: (ms: number) => store.putSetting('clock-offset', String(offset() + ms)),
  };
}

export type OutsideClock = ReturnType<typeof makeClock>;
