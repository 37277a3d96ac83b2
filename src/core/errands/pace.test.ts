import fc from 'fast-check';
import { filled, untilNext, type Fill, type Pace } from './pace';

const gate: Pace = { requests: 9, perMs: 2_000, burst: 1 };

describe('the pace of an account', () => {
  test.each<[string, Fill, number, boolean, number]>([
    ['fills with time', { tokens: 0, at: 0 }, 111, true, 0.4995],
    ['is whole after its interval', { tokens: 0, at: 0 }, 223, true, 1.0035],
    ['holds no more than its burst where nobody waits', { tokens: 0, at: 0 }, 60_000, false, 1],
    ['makes up for a turn that is a little late', { tokens: 0, at: 0 }, 240, true, 1.08],
    ['never for more than a tenth', { tokens: 0, at: 0 }, 60_000, true, 1.1],
    ['fills nothing where the clock was put back', { tokens: 0.3, at: 5_000 }, 10, true, 0.3],
  ])('%s', (_, fill, now, waited, tokens) => {
    const next = filled(fill, gate, now, waited);
    expect([next.tokens, next.at]).toEqual([expect.closeTo(tokens, 6), now]);
  });

  /** The moments of turns that somebody waits for all the time, each timer being late by so much. */
  function turnsOf(late: readonly number[]): number[] {
    let fill: Fill = { tokens: 1, at: 0 };
    const turns: number[] = [];
    let now = 0;
    for (const by of late) {
      fill = filled(fill, gate, now, true);
      while (fill.tokens >= 1) {
        turns.push(now);
        fill = { ...fill, tokens: fill.tokens - 1 };
      }
      now += untilNext(fill, gate) + by;
    }
    return turns;
  }
  const lateBy = (max: number) => fc.array(fc.integer({ min: 0, max }), { minLength: 20, maxLength: 60 });

  test('however late turns come, no five requests and one more fall into a second', () => {
    fc.assert(
      fc.property(lateBy(500), (late) => {
        const turns = turnsOf(late);
        const sixths = turns.slice(5).map((at, i) => at - (turns[i] ?? 0));
        // Of the 111 ms between what is asked and what is allowed, most is left for the way there.
        expect(Math.min(...sixths)).toBeGreaterThanOrEqual(1_080);
      }),
    );
  });

  test('what is late by no more than can be made up for costs nothing but itself', () => {
    fc.assert(
      fc.property(lateBy(20), (late) => {
        const turns = turnsOf(late);
        expect(turns[turns.length - 1]).toBeLessThanOrEqual((turns.length - 1) * (2_000 / 9) + 30);
      }),
    );
  });
});
