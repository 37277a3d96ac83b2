import fc from 'fast-check';
import { filled, untilNext, type Fill, type Pace } from './pace';

const gate: Pace = { requests: 9, perMs: 2_000, burst: 1 };

describe('the pace of an account', () => {
  test.each<[string, Fill, number, boolean, number]>([
    ['fills with time', { tokens: 0, at: 0 }, 111, true, 0.4995],
    ['is whole after its interval', { tokens: 0, at: 0 }, 223, true, 1.0035],
    ['holds no more than its burst where nobody waits', { tokens: 0, at: 0 }, 60_000, false, 1],
    ['makes up for a turn that is a little late', { tokens: 0, at: 0 }, 250, true, 1.125],
    ['never for more than a quarter', { tokens: 0, at: 0 }, 60_000, true, 1.25],
    ['fills nothing where the clock was put back', { tokens: 0.3, at: 5_000 }, 10, true, 0.3],
  ])('%s', (_, fill, now, waited, tokens) => {
    const next = filled(fill, gate, now, waited);
    expect([next.tokens, next.at]).toEqual([expect.closeTo(tokens, 6), now]);
  });

  test('however late turns come, no five requests and one more fall into a second, and lateness is not lost', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 60 }), { minLength: 20, maxLength: 60 }), (late) => {
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
        for (let i = 5; i < turns.length; i += 1)
          expect((turns[i] ?? 0) - (turns[i - 5] ?? 0)).toBeGreaterThanOrEqual(1_000);
        // What is late by no more than can be made up for costs nothing but itself.
        const slow = Math.max(...late) > 54 ? Infinity : (turns.length - 1) * (2_000 / 9) + 62;
        expect(turns[turns.length - 1]).toBeLessThanOrEqual(slow);
      }),
    );
  });
});
