import type { Context, MiddlewareHandler } from 'hono';
import type { HttpBindings } from '@hono/node-server';

/** Trouble that can be made for one stand-in. */
export interface Weather {
  /** Milliseconds that every answer takes. */
  slowMs: number;
  /** So many of the next writes are carried out and their answers lost. */
  loseAnswers: number;
  /** Answers 503 to everything. */
  down: boolean;
  /**
   * Calls by name (`POST /listings`, `event.create`): so many of the next ones are carried out and their answers lost.
   */
  loseCalls: Record<string, number>;
  /** Calls by name: the next one is carried out only after so many milliseconds. */
  slowCalls: Record<string, number>;
  /** Calls by name: the next one is answered with this status and these headers, and not carried out. */
  answerCalls: Record<string, { status: number; headers?: Record<string, string> }>;
  /** Calls by name, or `*` for whichever comes next: so many answers are spoilt so. */
  spoil: Record<string, { how: Spoil; times: number }>;
  /** Milliseconds between an answer's headers and its body. */
  slowBodyMs: number;
  /** Milliseconds between two octets of an answer. */
  dripMs: number;
  /** So many of all calls, between 0 and 1, are answered with an error and not carried out. */
  errorRate: number;
  /** From which chance follows. */
  seed: number;
  /** Every token is refused. */
  revoked: boolean;
  /** More calls than so many in a second are put off; 0: its own pace. */
  mostPerSecond: number;
  /** So many tickets are sold in an hour, by the simulated clock. */
  salesPerHour: number;
  /** What becomes of the calls that it makes to those who sell there. */
  hooks: (typeof hookFates)[number];
  /** How many calls came in, by name. */
  counts: Record<string, number>;
}

export const hookFates = ['fine', 'lost', 'doubled', 'forged'] as const;

/** How an answer can be none: an error with status 200, another address, half of it, two hundred megabytes. */
export const spoils = ['error inside', 'redirect', 'broken', 'huge'] as const;
type Spoil = (typeof spoils)[number];

/** Trouble by stand-in. */
export type Skies = Map<string, Weather>;

/** Nothing is wrong. */
export function fair(): Weather {
  return {
    slowMs: 0,
    loseAnswers: 0,
    down: false,
    loseCalls: {},
    slowCalls: {},
    answerCalls: {},
    spoil: {},
    slowBodyMs: 0,
    dripMs: 0,
    errorRate: 0,
    seed: 1,
    revoked: false,
    mostPerSecond: 0,
    salesPerHour: 0,
    hooks: 'fine',
    counts: {},
  };
}

/** Fair weather, or as slow as `slowMs` says. */
export function makeSkies(shelves: readonly string[], slowMs: number): Skies {
  return new Map(shelves.map((shelf) => [shelf, { ...fair(), slowMs }]));
}

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** What a call is called: its method of the interface, or method and path with ids left out. */
async function nameOf(c: Context, shelf: string): Promise<string> {
  if (c.req.path.endsWith('/rpc')) {
    const body: unknown = await c.req.raw
      .clone()
      .json()
      .catch(() => null);
    return String((body as { method?: unknown } | null)?.method ?? 'rpc');
  }
  const path = c.req.path.replace(`/${shelf}`, '').replace(/^\/api/, '');
  return `${c.req.method} ${path
    .replace(/\/[0-9a-f]{12}(?=\/|$)/, '/:id')
    .replace(/\/[^/]+\.jpg$/, '/:file')
    .replace(/^\/(in|out)\/.*/, '/$1/:file')}`;
}

/** A number between 0 and 1 that follows from a seed and a count: the same weather comes again. */
export function chance(seed: number, n: number): number {
  let x = (seed + n * 0x9e3779b9) | 0;
  x = Math.imul(x ^ (x >>> 16), 0x45d9f3b);
  x = Math.imul(x ^ (x >>> 16), 0x45d9f3b);
  return ((x ^ (x >>> 16)) >>> 0) / 2 ** 32;
}

/** How the next answer to a call is spoilt, if it is. */
function spoilt(weather: Weather, call: string): Spoil | null {
  const name = weather.spoil[call] ? call : '*';
  const next = weather.spoil[name];
  if (!next) return null;
  if (next.times <= 1) delete weather.spoil[name];
  else next.times -= 1;
  return next.how;
}

const hugeBytes = 200_000_000;

/** Octets without end, or nearly: as long as somebody reads them. */
function flood(): ReadableStream<Uint8Array> {
  const part = new Uint8Array(65_536).fill(120);
  let left = hugeBytes;
  return new ReadableStream({
    pull(controller) {
      if (left <= 0) return controller.close();
      left -= part.byteLength;
      controller.enqueue(part);
    },
  });
}

/** A text that comes late after its headers, or octet by octet. */
function slowly(text: string, firstMs: number, eachMs: number): ReadableStream<Uint8Array> {
  const bytes = new TextEncoder().encode(text);
  let at = 0;
  return new ReadableStream({
    async pull(controller) {
      if (at === 0) await pause(firstMs);
      if (eachMs === 0) {
        controller.enqueue(bytes);
        return controller.close();
      }
      await pause(eachMs);
      controller.enqueue(bytes.slice(at, at + 1));
      at += 1;
      if (at >= bytes.length) controller.close();
    },
  });
}

/**
 * An answer that is none, in place of the one that was made. The call was carried out, but where it is led elsewhere.
 */
function spoiledAnswer(how: Spoil, c: Context): Response {
  switch (how) {
    case 'error inside':
      return c.json({ ok: false, error: { code: 'E_INTERNAL', text: 'something went wrong' } }, 200);
    case 'redirect':
      return c.redirect('/', 302);
    case 'broken':
      return c.body('{"id":"half a thi', 200, { 'content-type': 'application/json' });
    case 'huge':
      return new Response(flood(), { headers: { 'content-type': 'application/json' } });
  }
}

/** Lets a stand-in's weather act on its API. */
export function underWeather(skies: Skies, shelf: string): MiddlewareHandler<{ Bindings: HttpBindings }> {
  let calls = 0;
  let lately: number[] = [];
  return async (c, next) => {
    const weather = skies.get(shelf);
    if (!weather) return next();
    const call = await nameOf(c, shelf);
    weather.counts[call] = (weather.counts[call] ?? 0) + 1;
    calls += 1;
    if (weather.slowMs > 0) await pause(weather.slowMs);
    if (weather.down) return c.json({ message: 'the service is down' }, 503);
    if (weather.revoked) return c.json({ message: 'the token was revoked' }, 401);
    if (weather.errorRate > 0 && chance(weather.seed, calls) < weather.errorRate)
      return c.json({ message: 'something went wrong' }, 500);
    if (weather.mostPerSecond > 0) {
      const now = Date.now();
      lately = lately.filter((at) => now - at < 1000);
      if (lately.length >= weather.mostPerSecond) {
        c.header('retry-after', '1');
        return c.json({ message: 'too many requests' }, 429);
      }
      lately.push(now);
    }
    const said = weather.answerCalls[call];
    if (said) {
      delete weather.answerCalls[call];
      return c.body('{}', said.status as 200, { 'content-type': 'application/json', ...said.headers });
    }
    const spoil = spoilt(weather, call);
    // What is led elsewhere was never carried out here.
    if (spoil === 'redirect') return spoiledAnswer(spoil, c);
    const slow = weather.slowCalls[call] ?? 0;
    if (slow > 0) {
      delete weather.slowCalls[call];
      await pause(slow);
    }
    await next();
    if (spoil !== null) {
      c.res = undefined;
      c.res = spoiledAnswer(spoil, c);
      return undefined;
    }
    if (!c.res.ok) return undefined;
    if (weather.slowBodyMs > 0 || weather.dripMs > 0) {
      const { status, headers } = c.res;
      const text = await c.res.text();
      const type = headers.get('content-type') ?? 'application/json';
      c.res = undefined;
      c.res = new Response(slowly(text, weather.slowBodyMs, weather.dripMs), {
        status,
        headers: { 'content-type': type },
      });
      return undefined;
    }
    const named = weather.loseCalls[call] ?? 0;
    if (named > 0) weather.loseCalls[call] = named - 1;
    else if (weather.loseAnswers > 0 && c.req.method !== 'GET') weather.loseAnswers -= 1;
    else return undefined;
    c.env.incoming.socket.destroy();
    return undefined;
  };
}
