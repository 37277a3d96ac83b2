import { manyArtists as artists, manyOrganisers, manyVenues, told, variedRecords } from '../testing/varied';
import { facts, stageOf } from './facts';
import { houseFor } from './sale';
import { outletHistory, newestCounts, soldSoFar } from './sales';
import { faceFor, feeIn, feeOn, splitFee } from './tickets/fees';
import { bestMove, paceOf } from './tickets/moves';

/** Before anything is on sale, the scenario's morning, and when most of it is over. */
const moments = ['2026-12-01T09:00Z', '2027-02-02T10:20Z', '2028-06-01T20:00Z'].map((text) => Date.parse(text));

test('the facts of three hundred records are what they were', () => {
  const records = variedRecords(300);
  expect(
    told(records, (content, i) => {
      const sold = new Map(
        content.performances.map((performance, n) => [
          performance.id,
          new Map(content.tickets.levels.map((level, k) => [level.id, (i * 7 + n * 5 + k * 3) % 60])),
        ]),
      );
      const context = { code: 'TY-1', venues: manyVenues, organisers: manyOrganisers, artists };
      return moments.map((now, n) => {
        const made = facts(content, { ...context, now, ...(n === 0 ? {} : { sold }), houseZone: 'Europe/Dublin' });
        return [
          made,
          stageOf(made, now),
          content.performances.map((performance) => houseFor(content, performance, { venues: manyVenues, sold })),
        ];
      });
    }),
  ).toMatchSnapshot();
});

test('fees, counts and moves of seats are what they were', () => {
  const fees = [0, 1, 350, 450, 1999].flatMap((basisPoints) =>
    [0, 60, 99].flatMap((fixed) =>
      [null, 0, 300].flatMap((cap) =>
        (['added', 'absorbed'] as const).map((mode) => ({ mode, basisPoints, fixed, cap })),
      ),
    ),
  );
  const faces = [0, 1, 99, 1850, 2200, 20_000];
  const counts = Array.from({ length: 40 }, (_, i) => ({
    performanceId: `p${i % 3}`,
    levelId: `l${i % 2}`,
    outlet: `o${i % 4}`,
    sold: (i * 13) % 37,
    at: (i % 9) * 43_200_000,
  }));
  const rows = counts.map(({ at, sold }) => ({ at, sold })).sort((a, b) => a.at - b.at);
  expect(
    told(
      [
        fees.map((fee) => faces.map((face) => [feeOn(face, fee), splitFee(face, fee, null), splitFee(face, fee, 150)])),
        fees.map((fee) => faces.map((aim) => [faceFor('buyerPays', aim, fee, 120), faceFor('net', aim, fee, null)])),
        fees.flatMap((fee) => (['EUR', 'ISK', 'GBP', 'KWD'] as never[]).map((currency) => feeIn(fee, currency))),
        newestCounts(counts),
        [...soldSoFar(counts)].map(([id, levels]) => [id, [...levels]]),
        [0, 1, 2].map((n) => outletHistory(counts, `p${n}`, `o${n}`, new Map([['l0', 2]]))),
        [0, 3, 9].map((n) => paceOf(rows.slice(n), 9 * 43_200_000)),
        Array.from({ length: 60 }, (_, i) =>
          bestMove([
            { id: 'a', left: (i * 7) % 90, perDay: (i % 5) * 1.5 },
            { id: 'b', left: (i * 11) % 70, perDay: (i % 7) * 0.7 },
            { id: 'c', left: (i * 3) % 20, perDay: i % 3 },
          ]),
        ),
      ],
      (row) => row,
    ),
  ).toMatchSnapshot();
});
