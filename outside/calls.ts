import { createHmac } from 'node:crypto';
import type { OutsideClock } from './clock';
import type { OutsideStore } from './store';
import type { Skies } from './weather';

/**
 * Makes signed calls to whoever sells there: fire and forget, as such services do. Its weather may lose one, say it
 * twice, or forge it.
 */
export function makeCalls(store: OutsideStore, clock: OutsideClock, skies: Skies) {
  return (shelf: string, account: string, reference: string): void => {
    const [url, secret] = [store.setting(`${account}-hook`), store.setting(`${account}-hook-secret`)];
    const fate = skies.get(shelf)?.hooks ?? 'fine';
    if (url === null || secret === null || fate === 'lost') return;
    const seconds = Math.floor(clock.now() / 1000);
    const body = JSON.stringify({ sort: 'order', reference, at: seconds });
    const key = fate === 'forged' ? 'somebody else’s secret' : secret;
    const signature = `t=${seconds},v1=${createHmac('sha256', key).update(`${seconds}.${body}`).digest('hex')}`;
    const send = () =>
      void fetch(url, {
        method: 'POST',
        body,
        headers: { 'content-type': 'application/json', 'x-signature': signature },
        signal: AbortSignal.timeout(5_000),
      }).catch(() => undefined);
    send();
    if (fate === 'doubled') send();
  };
}
