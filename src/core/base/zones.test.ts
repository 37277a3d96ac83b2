import fc from 'fast-check';
import { instantOf, isZone, offsetMinutes, resolveLocal, toLocal, zoneDataVersion, zoneNames } from './zones';

const utc = (text: string) => Date.parse(text);

describe('the zone module', () => {
  test.each([
    // Zones that Node 20's own data has wrong from late 2026 on.
    ['2027-01-15', '20:00', 'America/Vancouver', '2027-01-16T03:00:00Z'],
    ['2027-07-15', '20:00', 'America/Vancouver', '2027-07-16T03:00:00Z'],
    // The on-sale moment at 10:00 local across a tour.
    ['2027-02-12', '10:00', 'Atlantic/Reykjavik', '2027-02-12T10:00:00Z'],
    ['2027-02-12', '10:00', 'Europe/Lisbon', '2027-02-12T10:00:00Z'],
    ['2027-02-12', '10:00', 'Europe/Tallinn', '2027-02-12T08:00:00Z'],
    ['2027-02-12', '10:00', 'America/St_Johns', '2027-02-12T13:30:00Z'],
    ['2027-02-12', '10:00', 'America/Halifax', '2027-02-12T14:00:00Z'],
    ['2027-02-12', '10:00', 'America/Toronto', '2027-02-12T15:00:00Z'],
    ['2027-02-12', '10:00', 'America/Phoenix', '2027-02-12T17:00:00Z'],
    ['2027-02-12', '10:00', 'Australia/Adelaide', '2027-02-11T23:30:00Z'],
    ['2027-03-23', '18:00', 'Europe/Dublin', '2027-03-23T18:00:00Z'],
    ['2027-03-30', '18:00', 'Europe/Dublin', '2027-03-30T17:00:00Z'],
    ['2027-06-05', '19:30', 'Australia/Lord_Howe', '2027-06-05T09:00:00Z'],
  ])('%s %s in %s', (date, time, zone, instant) => {
    expect(instantOf({ date, time }, zone)).toBe(utc(instant));
    expect(toLocal(utc(instant), zone)).toEqual({ date, time });
  });

  test('Node itself is wrong about Vancouver, which is why there is a module', () => {
    const node = new Intl.DateTimeFormat('en-CA', {
      timeZone: 'America/Vancouver',
      hour: '2-digit',
      hourCycle: 'h23',
    }).format(utc('2027-01-16T03:00:00Z'));
    expect([zoneDataVersion >= '2026b', offsetMinutes(utc('2027-01-16T03:00:00Z'), 'America/Vancouver'), node]).toEqual(
      [true, -420, expect.stringMatching(/^(19|20)$/)],
    );
  });

  test('a reading that the clocks skip offers those one gap before and after', () => {
    expect(resolveLocal({ date: '2027-03-28', time: '01:30' }, 'Europe/Dublin')).toEqual({
      kind: 'skipped',
      before: { date: '2027-03-28', time: '00:30' },
      after: { date: '2027-03-28', time: '02:30' },
    });
  });

  test('a reading that comes twice gives both instants', () => {
    expect(resolveLocal({ date: '2027-10-31', time: '01:30' }, 'Europe/Dublin')).toEqual({
      kind: 'twice',
      first: utc('2027-10-31T00:30:00Z'),
      second: utc('2027-10-31T01:30:00Z'),
    });
  });

  test('there and back again, in every zone, at any minute until 2037', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...zoneNames()),
        fc.integer({ min: utc('2020-01-01T00:00Z') / 60_000, max: utc('2037-12-01T00:00Z') / 60_000 }),
        (zone, minute) => {
          const instant = minute * 60_000;
          const found = resolveLocal(toLocal(instant, zone), zone);
          const all =
            found.kind === 'once' ? [found.instant] : found.kind === 'twice' ? [found.first, found.second] : [];
          expect(all).toContain(instant);
        },
      ),
      { numRuns: 2000 },
    );
  });

  test('unknown zones are known to be unknown', () => {
    expect([isZone('Europe/Dublin'), isZone('Europe/Atlantis'), isZone('')]).toEqual([true, false, false]);
    expect(() => offsetMinutes(0, 'Europe/Atlantis')).toThrow('unknown zone');
  });
});
