import { mkdtempSync, rmSync } from 'node:fs';
import { createServer, type RequestListener, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import os from 'node:os';
import path from 'node:path';
import { z } from 'zod';
import {
  accepted,
  orGone,
  OutsideError,
  pageOf,
  readAnswer,
  waitOf,
  type HttpLine,
  type HttpAnswer,
} from '@/channels/kit/http';
import type { MailLine, OutgoingMail } from '@/channels/kit/mail';
import { makeHttp } from '@/channels/kit/reach';
import { goingOut, makeOutsideDoor } from '@/house/outside-door';
import { openDatabase } from '@/store/database';

const realHttp = makeHttp(new Set(['127.0.0.1']));

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

describe('one account, one budget', () => {
  const budget = { requests: 20, perMs: 1_000, burst: 1, atOnce: 3 };
  const made = (http: HttpLine, mail?: MailLine) => {
    const folder = mkdtempSync(path.join(os.tmpdir(), 'nuntiax-door-'));
    const db = openDatabase(folder);
    let now = 0;
    const door = makeOutsideDoor(db, http, () => now, mail);
    return {
      door,
      pass: (ms: number) => (now += ms),
      again: () => makeOutsideDoor(db, http, () => now),
      end: () => {
        db.close();
        rmSync(folder, { recursive: true, force: true });
      },
    };
  };
  const good = { status: 200, headers: new Headers(), text: '{}' };

  test('a pace is kept, in order, over all that share it; one that fails does not hold up the others', async () => {
    const started: [string, number][] = [];
    const begun = Date.now();
    const { door, end } = made(({ url }) => {
      started.push([url, Date.now()]);
      return url === 'b' ? Promise.reject(new OutsideError('locked', 'x')) : Promise.resolve({ ...good, text: url });
    });
    const [one, other] = [door.http('acc', budget), door.http('acc', budget)];
    const all = await Promise.allSettled(
      ['a', 'b', 'c', 'd'].map((url, i) => (i % 2 ? one : other)({ method: 'GET', url })),
    );
    expect([started.map(([url]) => url), all.map((result) => result.status)]).toEqual([
      ['a', 'b', 'c', 'd'],
      ['fulfilled', 'rejected', 'fulfilled', 'fulfilled'],
    ]);
    // A slow machine may let each start later, never earlier; two starts may lie nearer where the first of them was
    // late.
    started.forEach(([, at], i) => expect(at - begun).toBeGreaterThanOrEqual(i * 50 - 2));
    end();
  });

  test('while errands crowd in, a reading has its share', async () => {
    const order: string[] = [];
    const { door, end } = made(({ url }) => {
      order.push(url.slice(0, 1));
      return Promise.resolve(good);
    });
    const http = door.http('acc', { ...budget, requests: 200 });
    const errands = Array.from({ length: 12 }, (_, i) =>
      goingOut({ sort: 'errand' }, () => http({ method: 'GET', url: `e${i}` })),
    );
    const reading = goingOut({ sort: 'reading' }, () => http({ method: 'GET', url: 'r' }));
    await Promise.all([...errands, reading]);
    expect(order.indexOf('r')).toBeLessThanOrEqual(4);
    end();
  });

  test('an answer of 429 empties it for all, for as long as it says, and a restart knows of it; a good one ends it', async () => {
    let answer: HttpAnswer = { ...good, status: 429, headers: new Headers({ 'retry-after': '30' }) };
    const { door, again, pass, end } = made(() => Promise.resolve(answer));
    await door.http('acc', budget)({ method: 'GET', url: 'x' });
    expect(door.state('acc')).toMatchObject({ failures: 1, blockedUntil: 30_000 });
    expect(again().state('acc')).toMatchObject({ failures: 1, blockedUntil: 30_000 });
    expect(door.state('other')).toMatchObject({ failures: 0 });
    pass(30_001);
    answer = good;
    await door.http('acc', budget)({ method: 'GET', url: 'x' });
    expect([door.state('acc').failures, again().state('acc').failures, door.failing().size]).toEqual([0, 0, 0]);
    end();
  });

  test('a writing asks before it leaves, a reading does not; what may not leave is not sent', async () => {
    const sent: string[] = [];
    const { door, end } = made(({ method }) => {
      sent.push(method);
      return Promise.resolve(good);
    });
    const http = door.http('acc', { ...budget, requests: 500 });
    const guard = {
      sort: 'errand' as const,
      before: () => {
        throw new OutsideError('stopped', 'x');
      },
    };
    await goingOut(guard, async () => {
      await http({ method: 'GET', url: 'x' });
      await http({ method: 'POST', url: 'x', tellsNothing: true });
      // A picture that is put there twice harms nobody, and tells of the event all the same.
      for (const item of [{ method: 'PUT', repeatable: true } as const, { method: 'POST' } as const])
        await expect(http({ ...item, url: 'x' })).rejects.toMatchObject({ kind: 'stopped' });
    });
    expect(sent).toEqual(['GET', 'POST']);
    // On nobody's behalf, and on that of a reading, nothing of ours leaves at all.
    for (const work of [() => http({ method: 'PUT', url: 'x' }), () => door.shelve(() => sent.push('shelf'))])
      await expect(goingOut({ sort: 'reading' }, async () => work())).rejects.toMatchObject({ kind: 'our-fault' });
    expect(sent).toEqual(['GET', 'POST']);
    end();
  });

  test.each([
    ['at once', 0, ['asked', 'sent']],
    ['after the while that a line takes', 900, ['asked', 'sent']],
    ['after a sleep', 40_000, ['asked', 'asked']],
    ['with a clock that was put back', -3_600_000, ['asked', 'asked']],
  ])('the line stands %s: what was asked long ago is asked again', async (_, ms, expected) => {
    const clock = jest.spyOn(Date, 'now');
    let book: string[] = [];
    const line = (lastly?: () => void) => {
      clock.mockReturnValue(Date.now() + ms);
      lastly?.();
      book.push('sent');
      return Promise.resolve(good);
    };
    const { door, end } = made(
      (request, lastly) => line(lastly),
      async (letter, lastly) => void (await line(lastly)),
    );
    const before = () => {
      book.push('asked');
      // Meanwhile another leads.
      if (book.length > 1) throw new OutsideError('stopped', 'another process leads now');
    };
    const ways = [
      () => door.http('acc', budget)({ method: 'POST', url: 'x' }),
      () => door.http('other', budget)({ method: 'DELETE', url: 'x', repeatable: true }),
      () => door.mail('post', budget)({} as OutgoingMail),
    ];
    for (const way of ways) {
      book = [];
      await goingOut({ sort: 'errand', before }, async () => {
        await Promise.allSettled([way()]);
      });
      expect(book).toEqual(expected);
    }
    // What we did not let go ourselves is no failing of the channel's.
    expect(door.failing().size).toBe(0);
    clock.mockRestore();
    end();
  });
});

test.each<[string, string, number | null]>([
  ['seconds', '120', 120_000],
  ['a date', 'Tue, 02 Feb 2027 10:21:00 GMT', 60_000],
  ['a date that has passed', 'Tue, 02 Feb 2027 10:00:00 GMT', 0],
  ['a thousand million seconds', '1000000000', 1_000_000_000_000],
  ['nonsense', 'soon', null],
  ['a negative number', '-5', null],
])('Retry-After as %s', (_, said, waits) => {
  const headers = new Headers({ 'retry-after': said, date: 'Tue, 02 Feb 2027 10:20:00 GMT' });
  expect(waitOf({ status: 429, headers, text: '' })).toBe(waits);
});

test('a write that is led on is refused, and nothing is followed', async () => {
  answer = status(302, { location: `${base}/elsewhere` });
  const made = await realHttp({ method: 'POST', url: `${base}/x`, body: '{}' });
  expect(made.status).toBe(302);
  expect(() => accepted(made, true)).toThrow(/led on to .*elsewhere/);
});
