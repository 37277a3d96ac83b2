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
  /** Calls by name (`POST /listings`, `event.create`): so many of the next ones are carried out and their answers lost. */
  loseCalls: Record<string, number>;
  /** Calls by name: the next one is carried out only after so many milliseconds. */
  slowCalls: Record<string, number>;
  /** Calls by name: the next one is answered with this status and these headers, and not carried out. */
  answerCalls: Record<string, { status: number; headers?: Record<string, string> }>;
  /** How many calls came in, by name. */
  counts: Record<string, number>;
}

/** Trouble by stand-in. */
export type Skies = Map<string, Weather>;

/** Fair weather, or as slow as `slowMs` says. */
export function makeSkies(shelves: readonly string[], slowMs: number): Skies {
  return new Map(
    shelves.map((shelf) => [
      shelf,
      { slowMs, loseAnswers: 0, down: false, loseCalls: {}, slowCalls: {}, answerCalls: {}, counts: {} },
    ]),
  );
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

/** Lets a stand-in's weather act on its API. */
export function underWeather(skies: Skies, shelf: string): MiddlewareHandler<{ Bindings: HttpBindings }> {
  return async (c, next) => {
    const weather = skies.get(shelf);
    if (!weather) return next();
    const call = await nameOf(c, shelf);
    weather.counts[call] = (weather.counts[call] ?? 0) + 1;
    if (weather.slowMs > 0) await pause(weather.slowMs);
    if (weather.down) return c.json({ message: 'the service is down' }, 503);
    const said = weather.answerCalls[call];
    if (said) {
      delete weather.answerCalls[call];
      return c.body('{}', said.status as 200, { 'content-type': 'application/json', ...said.headers });
    }
    const slow = weather.slowCalls[call] ?? 0;
    if (slow > 0) {
      delete weather.slowCalls[call];
      await pause(slow);
    }
    await next();
    if (!c.res.ok) return undefined;
    const named = weather.loseCalls[call] ?? 0;
    if (named > 0) weather.loseCalls[call] = named - 1;
    else if (weather.loseAnswers > 0 && c.req.method !== 'GET') weather.loseAnswers -= 1;
    else return undefined;
    c.env.incoming.socket.destroy();
    return undefined;
  };
}
