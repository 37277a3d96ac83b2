import type { MiddlewareHandler } from 'hono';
import type { HttpBindings } from '@hono/node-server';

/** Trouble that can be made for one stand-in. */
export interface Weather {
  /** Milliseconds that every answer takes. */
  slowMs: number;
  /** So many of the next writes are carried out and their answers lost. */
  loseAnswers: number;
  /** Answers 503 to everything. */
  down: boolean;
}

/** Trouble by stand-in. */
export type Skies = Map<string, Weather>;

/** Fair weather, or as slow as `slowMs` says. */
export function makeSkies(shelves: readonly string[], slowMs: number): Skies {
  return new Map(shelves.map((shelf) => [shelf, { slowMs, loseAnswers: 0, down: false }]));
}

/** Lets a stand-in's weather act on its API. */
export function underWeather(skies: Skies, shelf: string): MiddlewareHandler<{ Bindings: HttpBindings }> {
  return async (c, next) => {
    const weather = skies.get(shelf);
    if (!weather) return next();
    if (weather.slowMs > 0) await new Promise((resolve) => setTimeout(resolve, weather.slowMs));
    if (weather.down) return c.json({ message: 'the service is down' }, 503);
    await next();
    if (weather.loseAnswers > 0 && c.req.method !== 'GET' && c.res.ok) {
      weather.loseAnswers -= 1;
      c.env.incoming.socket.destroy();
    }
    return undefined;
  };
}
