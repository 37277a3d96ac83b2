import fc from 'fast-check';
import { cropWindow, keptShare, renditionSize } from './crop';
import { dateParts, longDate, momentWords, shortDate, zonePlace } from '../dates/date-words';
import { shareOut } from '../listing/parts';

const share = fc.double({ min: 0, max: 1, noNaN: true });

test('a crop lies inside its picture, has the shape asked for, touches two sides, and holds the focal point', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 40, max: 8000 }),
      fc.integer({ min: 40, max: 8000 }),
      share,
      share,
      fc.constantFrom([3, 2], [16, 9], [11, 5], [1, 1], [4, 5], [1, 2]),
      (width, height, x, y, [rw = 1, rh = 1]) => {
        const window = cropWindow({ width, height }, { x, y }, [rw, rh]);
        expect(window.x).toBeGreaterThanOrEqual(0);
        expect(window.y).toBeGreaterThanOrEqual(0);
        expect(window.x + window.w).toBeLessThanOrEqual(width);
        expect(window.y + window.h).toBeLessThanOrEqual(height);
        expect(window.w === width || window.h === height).toBe(true);
        expect(Math.abs(window.w / (rw / rh) - window.h)).toBeLessThanOrEqual(1);
        // Whole pixels: the focal point may lie on the edge of the last one.
        expect(x * width).toBeGreaterThanOrEqual(window.x - 1);
        expect(x * width).toBeLessThanOrEqual(window.x + window.w + 1);
        expect(keptShare({ width, height }, window)).toBeLessThanOrEqual(1);
        const size = renditionSize(window, { ratio: [rw, rh], minWidth: 600 });
        expect(size.width).toBeLessThanOrEqual(window.w);
      },
    ),
    { numRuns: 1000 },
  );
});

test('a keep-area that fits is held whole, wherever the focal point is', () => {
  fc.assert(
    fc.property(
      share,
      share,
      fc.double({ min: 0, max: 0.6, noNaN: true }),
      fc.double({ min: 0.05, max: 0.4, noNaN: true }),
      (x, y, from, size) => {
        const source = { width: 3000, height: 2000 };
        const window = cropWindow(source, { x, y }, [1, 1], { x0: from, x1: from + size, y0: 0, y1: 1 });
        if (size * source.width > window.w) return;
        expect(window.x).toBeLessThanOrEqual(Math.ceil(from * source.width));
        expect(window.x + window.w).toBeGreaterThanOrEqual(Math.floor((from + size) * source.width));
      },
    ),
  );
});

test('of a keep-area that does not fit, the window shows nothing else, and the focal point in it', () => {
  fc.assert(
    fc.property(
      fc.double({ min: 0, max: 0.3, noNaN: true }),
      fc.double({ min: 0.4, max: 0.7, noNaN: true }),
      share,
      (from, size, within) => {
        const source = { width: 3000, height: 2000 };
        const focal = (from + size * within) * source.width;
        const window = cropWindow(source, { x: focal / source.width, y: 0.5 }, [1, 2], {
          x0: from,
          x1: from + size,
          y0: 0,
          y1: 1,
        });
        expect(window.x).toBeGreaterThanOrEqual(Math.floor(from * source.width));
        expect(window.x + window.w).toBeLessThanOrEqual(Math.ceil((from + size) * source.width));
        expect(focal).toBeGreaterThanOrEqual(window.x - 1);
        expect(focal).toBeLessThanOrEqual(window.x + window.w + 1);
      },
    ),
  );
});

test('sharing out loses no performance, doubles none, overfills no listing, and leaves what stood where it was', () => {
  const ids = fc.uniqueArray(
    fc.integer({ min: 0, max: 40 }).map((n) => `p${n}`),
    { maxLength: 30 },
  );
  fc.assert(
    fc.property(ids, ids, fc.integer({ min: 1, max: 6 }), (before, now, most) => {
      const first = shareOut(before, most, []);
      const second = shareOut(now, most, first);
      expect(second.flatMap((part) => part.performanceIds).sort()).toEqual([...now].sort());
      for (const part of second) expect(part.performanceIds.length).toBeLessThanOrEqual(most);
      for (const item of first)
        for (const id of item.performanceIds.filter((was) => now.includes(was)))
          expect(second.find((part) => part.part === item.part)?.performanceIds).toContain(id);
      expect(shareOut(now, most, second)).toEqual(second);
    }),
  );
});

test('dates in words', () => {
  expect(dateParts('2027-02-04')).toEqual({ day: 4, weekday: 'Thursday', month: 'February', year: 2027 });
  expect([longDate('2027-02-28'), shortDate('2027-03-01'), shortDate('2027-03-01', true)]).toEqual([
    'Sunday 28 February 2027',
    'Mon 1 Mar',
    'Mon 1 Mar 2027',
  ]);
  expect([momentWords(Date.parse('2027-02-04T23:30Z'), 'Europe/Tallinn'), zonePlace('America/St_Johns')]).toEqual([
    'Fri 5 Feb 2027, 01:30',
    'St Johns',
  ]);
});
