import { gzipSync } from 'node:zlib';
import { zoneNames } from '../zones';
import { zoneSource as given } from './given';
import { packClock, packZones, unpackClock } from './pack';
import { zoneSource as shipped } from './shipped';

const finite = (untils: readonly (number | null)[]) =>
  untils.filter((until) => until !== null && Number.isFinite(until));

test('every zone comes out of its packing as it went in: each change, each offset, each name', () => {
  expect(zoneNames().length).toBeGreaterThan(300);
  for (const name of shipped.names()) {
    const clock = shipped.clock(name);
    if (clock === null) throw new Error(`${name} is a name without a clock`);
    const back = unpackClock(packClock(clock));
    expect([name, finite(back.untils), back.offsets, back.abbrs]).toEqual([
      name,
      finite(clock.untils),
      [...clock.offsets],
      [...clock.abbrs],
    ]);
    expect([name, back.untils.length, back.untils.at(-1)]).toEqual([name, back.offsets.length, null]);
  }
});

test('a page is given the zones it names, each once; what is no zone is left away', () => {
  const packed = packZones(['Europe/Dublin', 'Nowhere/Land', 'Asia/Kolkata', 'Europe/Dublin'], (name) =>
    shipped.clock(name),
  );
  expect(Object.keys(packed)).toEqual(['Asia/Kolkata', 'Europe/Dublin']);
  // A page names few, and each goes over small: its years are alike.
  for (const text of Object.values(packed)) expect(gzipSync(text).length).toBeLessThan(600);
});

test('a browser knows the zones that it was given, and keeps them when it is given more', () => {
  const dublin = shipped.clock('Europe/Dublin');
  if (dublin === null) throw new Error('no Dublin');
  expect([given.clock('Europe/Dublin'), given.names()]).toEqual([null, []]);
  given.give(new Map([['Europe/Dublin', dublin]]), ['Europe/Dublin', 'Europe/Oslo']);
  given.give(new Map());
  expect([given.clock('Europe/Dublin'), given.clock('Europe/Oslo'), given.names()]).toEqual([
    dublin,
    null,
    ['Europe/Dublin', 'Europe/Oslo'],
  ]);
});
