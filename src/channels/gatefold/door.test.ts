import type { Connection } from '../kit/kind';
import type { HttpRequest } from '../kit/http';
import { door } from './door';

/* A token that is refused is asked for anew, once for however many calls were refused with it. */

const answer = (status: number, body: object) => ({ status, headers: new Headers(), text: JSON.stringify(body) });
const account = { seller: 'Tallow Yard', payout: 'ready', tax: 'held' };

/** A place that takes the newest token alone; every token but the `good`th and those after it was revoked. */
function place(good: number) {
  const asked = { tokens: 0, calls: [] as string[] };
  const http = async ({ url, headers }: HttpRequest) => {
    await Promise.resolve();
    if (url.endsWith('/oauth/token'))
      return answer(200, { access_token: `t${(asked.tokens += 1)}`, token_type: 'Bearer', expires_in: 1800 });
    const token = headers?.authorization ?? '';
    asked.calls.push(token);
    return Number(token.replace('Bearer t', '')) >= good ? answer(200, account) : answer(401, { message: 'revoked' });
  };
  const nothing = new Proxy({}, { get: () => () => null });
  const connection = { address: 'http://seller.example', credentials: { clientId: 'a', clientSecret: 'b' } };
  const client = door(connection as unknown as Connection, http as never, nothing as never, nothing as never, () => 0);
  return { client, asked };
}

test('a good token is asked for once, and kept', async () => {
  const { client, asked } = place(1);
  expect([await client.greet?.(), await client.greet?.()]).toEqual(['Tallow Yard', 'Tallow Yard']);
  expect(asked).toEqual({ tokens: 1, calls: ['Bearer t1', 'Bearer t1'] });
});

test('a token that was revoked is replaced, and the call is made again with the new one', async () => {
  const { client, asked } = place(2);
  expect(await client.greet?.()).toBe('Tallow Yard');
  expect(asked).toEqual({ tokens: 2, calls: ['Bearer t1', 'Bearer t2'] });
});

test('two calls that were refused with one token ask for one new token', async () => {
  const { client, asked } = place(2);
  await Promise.all([client.greet?.(), client.greet?.()]);
  expect(asked.tokens).toBe(2);
});
