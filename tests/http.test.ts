import { createServer, type RequestListener, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { z } from 'zod';
import { accepted, orGone, OutsideError, paced, pageOf, readAnswer, realHttp } from '@/channels/kit/http';
import { cureFor, outsideErrorWords, type OutsideErrorKind } from '@/core/errands/retry';

/** A server that answers as it is told. */
let answer: RequestListener = (_, response) => response.end();
let server: Server;
let base: string;
beforeAll(async () => {
  server = createServer((request, response) => answer(request, response));
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
});
afterAll(() => {
  server.closeAllConnections();
  server.close();
});

const status =
  (code: number, headers: Record<string, string> = {}, body = '{}'): RequestListener =>
  (_, response) => {
    response.writeHead(code, headers);
    response.end(body);
  };
/** What a call came to: its kind of error with the wait and the field, or `null`. */
async function kindOf(method: 'GET' | 'POST', listener: RequestListener) {
  answer = listener;
  try {
    accepted(
      await realHttp({ method, url: `${base}/x`, ...(method === 'POST' ? { body: '{}' } : {}) }),
      method === 'POST',
    );
    return null;
  } catch (error) {
    if (!(error instanceof OutsideError)) throw error;
    return [error.kind, error.waitMs, error.field, error.message];
  }
}

test.each<[number, 'GET' | 'POST', string | null]>([
  [200, 'GET', null],
  [204, 'POST', null],
  [301, 'GET', 'invalid'],
  [400, 'POST', 'invalid'],
  [401, 'POST', 'sign-in-again'],
  [403, 'GET', 'not-allowed'],
  [404, 'GET', 'gone'],
  [410, 'POST', 'gone'],
  [409, 'POST', 'conflict'],
  [412, 'POST', 'conflict'],
  [423, 'POST', 'locked'],
  [422, 'POST', 'invalid'],
  [429, 'POST', 'again-later'],
  [500, 'GET', 'again-later'],
  [500, 'POST', 'unknown-outcome'],
  [502, 'POST', 'unknown-outcome'],
  [503, 'POST', 'again-later'],
])('status %i to a %s is %s', async (code, method, kind) =>
  expect((await kindOf(method, status(code)))?.[0] ?? null).toBe(kind),
);

test('the channel’s own wait, words and field are told; words without end are cut', async () => {
  expect(await kindOf('POST', status(429, { 'retry-after': '7' }, '{"message":"slow down"}'))).toEqual([
    'again-later',
    7000,
    null,
    'slow down',
  ]);
  expect(await kindOf('POST', status(422, {}, '{"message":"too long","field":"title"}'))).toEqual([
    'invalid',
    null,
    'title',
    'too long',
  ]);
  expect(await kindOf('POST', status(400, { 'retry-after': 'Tue, 2 Feb' }, 'no json'))).toEqual([
    'invalid',
    null,
    null,
    'answered with status 400',
  ]);
  expect(
    ((await kindOf('POST', status(400, {}, JSON.stringify({ message: 'x'.repeat(9000) }))))?.[3] as string).length,
  ).toBe(400);
});

test('cut off: a question is asked again, of a writing the outcome is not known; where nothing listens, nothing was done', async () => {
  const cut: RequestListener = (request) => request.socket.destroy();
  expect([(await kindOf('GET', cut))?.[0], (await kindOf('POST', cut))?.[0]]).toEqual([
    'again-later',
    'unknown-outcome',
  ]);
  const half: RequestListener = (request, response) => {
    response.writeHead(200, { 'content-length': '999' });
    response.write('{"half":');
    setTimeout(() => request.socket.destroy(), 20);
  };
  expect((await kindOf('POST', half))?.[0]).toBe('unknown-outcome');
  const closed = await new Promise<number>((resolve) => {
    const other = createServer().listen(0, '127.0.0.1', () => {
      const { port } = other.address() as AddressInfo;
      other.close(() => resolve(port));
    });
  });
  for (const method of ['GET', 'POST'] as const)
    await expect(realHttp({ method, url: `http://127.0.0.1:${closed}/` })).rejects.toMatchObject({
      kind: 'again-later',
    });
});

test('an answer beyond all measure is refused, one of another shape is named, and nothing else is let through', async () => {
  expect(await kindOf('GET', status(200, {}, 'x'.repeat(5_000_001)))).toEqual([
    'invalid',
    null,
    null,
    expect.stringContaining('larger than 5 MB'),
  ]);
  const read = (text: string) => () =>
    readAnswer(
      { status: 200, headers: new Headers(), text },
      z.object({ id: z.string(), times: z.array(z.object({ at: z.number() })) }),
      'Lectern entry',
    );
  expect(read('{"id":"1","times":[{"at":5}]}')()).toEqual({ id: '1', times: [{ at: 5 }] });
  expect(read('<html>')).toThrow('Lectern entry: the answer is no JSON');
  expect(read('{"id":"1","times":[{"at":"5"}]}')).toThrow(
    'Lectern entry: the answer has an unexpected shape at times.0.at',
  );
});

test('what is gone is a value, not an error; other errors stay errors; a page that is not there is empty', async () => {
  const fails = (kind: 'gone' | 'locked') => Promise.reject(new OutsideError(kind, 'x'));
  expect([await orGone(Promise.resolve(5)), await orGone(fails('gone'))]).toEqual([5, null]);
  await expect(orGone(fails('locked'))).rejects.toMatchObject({ kind: 'locked' });
  answer = status(404);
  expect(await pageOf(realHttp, `${base}/p`)).toBe('');
  answer = status(200, {}, '<p>there</p>');
  expect(await pageOf(realHttp, `${base}/p`)).toBe('<p>there</p>');
  answer = status(500);
  await expect(pageOf(realHttp, `${base}/p`)).rejects.toMatchObject({ kind: 'again-later' });
});

test('a pace is kept, in order, and one that fails does not hold up the others', async () => {
  const started: [string, number][] = [];
  const http = paced(({ url }) => {
    started.push([url, Date.now()]);
    return url === 'b'
      ? Promise.reject(new OutsideError('locked', 'x'))
      : Promise.resolve({ status: 200, headers: new Headers(), text: url });
  }, 20);
  const all = await Promise.allSettled(['a', 'b', 'c', 'd'].map((url) => http({ method: 'GET', url })));
  expect([started.map(([url]) => url), all.map((one) => one.status)]).toEqual([
    ['a', 'b', 'c', 'd'],
    ['fulfilled', 'rejected', 'fulfilled', 'fulfilled'],
  ]);
  for (let i = 1; i < started.length; i += 1)
    expect((started[i]?.[1] ?? 0) - (started[i - 1]?.[1] ?? 0)).toBeGreaterThanOrEqual(45);
});

describe('what follows a failed try', () => {
  const cures = (kind: OutsideErrorKind, tries: number, given: number | null = null) => {
    const cure = cureFor(kind, tries, 1_000_000, given);
    return cure.kind === 'again' ? cure.at - 1_000_000 : 'a person';
  };
  test.each<[OutsideErrorKind, (number | string)[]]>([
    ['again-later', [1000, 2000, 4000, 300_000]],
    ['unknown-outcome', [1000, 2000, 4000, 300_000]],
    ['sign-in-again', [1000, 2000, 'a person', 'a person']],
    ['not-allowed', Array(4).fill('a person')],
    ['invalid', Array(4).fill('a person')],
    ['locked', Array(4).fill('a person')],
    ['conflict', Array(4).fill('a person')],
    ['gone', Array(4).fill('a person')],
    ['not-connected', Array(4).fill('a person')],
  ])('%s', (kind, expected) => {
    expect([1, 2, 3, 40].map((tries) => cures(kind, tries))).toEqual(expected);
    expect(outsideErrorWords[kind]).toMatch(/\.$/);
  });
  test('the channel’s own moment counts before ours, and is never in the past', () => {
    expect([
      cures('again-later', 1, 1_060_000),
      cures('again-later', 9, 1_000_500),
      cures('again-later', 1, 5),
    ]).toEqual([60_000, 500, 0]);
  });
});
