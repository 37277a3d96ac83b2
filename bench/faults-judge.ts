import { standsBeyond } from '@/core/errands/narrowing';
import { isDown } from '@/core/listing/shown';
import { asksPerson } from '@/core/listing/standing';
import type { PickedWay } from '@/house/write-errands';
import type { House } from '@/house/house';
import { surveyAll } from '@/house/survey';
import { saysTitle, seenThere, startThere, toldTwice, type Thing } from './faults-places';

/** Harm that must not be. */
export type Harm = 'lost' | 'doubled' | 'wrong' | 'leaked' | 'overwritten' | 'toldTwice' | 'late';

/**
 * What came of it all, by the stand-ins' own data: tells each harm with its evidence. `byHand`: what somebody wrote
 * there, by reference.
 */
export function judge(
  house: House,
  standing: readonly Thing[],
  names: readonly string[],
  byHand: ReadonlyMap<string, string>,
  found: (what: Harm, ...words: unknown[]) => void,
): void {
  const byReference = new Map<string, Thing[]>();
  for (const thing of standing) {
    const key = `${thing.shelf === 'marrowby-diary' ? thing.reference.replace(/-p1$/, '') : thing.reference}`;
    byReference.set(key, [...(byReference.get(key) ?? []), thing]);
  }
  const readings = house.db
    .all<{ observed: string | null }>('SELECT observed FROM readings')
    .map((item) => item.observed ?? '');
  for (const [reference, list] of byReference) {
    if (list.length > 1 && !list.some((thing) => thing.shelf === 'murmurline' || thing.shelf === 'postbag'))
      found('doubled', reference);
    if (toldTwice(list)) found('toldTwice', reference, JSON.stringify(list.map((thing) => thing.body)).slice(0, 400));
  }
  for (const { record, survey } of surveyAll(house)) {
    const off = record.content.performances.every((performance) => performance.turn === 'cancelled');
    for (const listing of survey.listings) {
      if (!names.some((name) => name === listing.channel)) continue;
      const [thing] = (byReference.get(listing.id) ?? []).slice(-1);
      const asks = asksPerson(listing.standing) && listing.standing !== 'late';
      const told = () => [
        record.code,
        listing.channel,
        listing.standing,
        listing.down,
        JSON.stringify(thing?.body ?? null).slice(0, 300),
      ];
      if (listing.standing === 'late') found('late', ...told());
      // What only mirrors another has nothing of its own.
      if (listing.rules.mirrors !== null) continue;
      if (listing.down !== null) {
        if (thing && seenThere(thing) && !standsBeyond(listing) && !asks && listing.left.length === 0)
          found('leaked', ...told());
        continue;
      }
      const hand = byHand.get(listing.id);
      if (
        hand !== undefined &&
        thing &&
        !JSON.stringify(thing.body).includes(hand) &&
        !readings.some((reading) => reading.includes(hand))
      )
        found('overwritten', ...told(), hand);
      // What the record itself stops, or somebody left as it is, is not to stand there as it says.
      if (
        listing.standing === null ||
        listing.left.length > 0 ||
        listing.findings.some((finding) => finding.weight === 'stops')
      )
        continue;
      if (!thing && !asks) found('lost', ...told());
      else if (thing && !asks && hand === undefined) {
        const start = startThere(thing);
        // Where it is told to be cancelled, nothing else of it is wanted any more.
        const right =
          (isDown(listing.wanted) || saysTitle(thing, record.content.title)) &&
          (start === null || off || start === record.content.performances[0]?.start) &&
          (off || seenThere(thing));
        if (!right) found('wrong', ...told(), record.content.title, record.content.performances[0]?.start);
      }
    }
  }
}

/**
 * Errands that were tried and settled, and of which no receipt says so. What a person dropped needs none: it never
 * went.
 */
export function receiptsMissing(house: House): number {
  const [row] = house.db.all<{ n: number }>(
    `SELECT count(*) AS n FROM errands e WHERE e.state IN ('done', 'refused', 'not needed') AND e.settled_at IS NOT NULL
       AND e.tries > 0 AND NOT EXISTS (SELECT 1 FROM receipts r WHERE r.errand_id = e.id)`,
  );
  return row?.n ?? 0;
}

/**
 * What somebody decides on what is locked: called off where that was wished for, said anew where that can be, else left
 * as it is.
 */
export function waysNow(house: House): Record<string, PickedWay> {
  return Object.fromEntries(
    surveyAll(house).flatMap(({ record, survey }) =>
      survey.listings.flatMap((listing): [string, PickedWay][] => {
        if (listing.steps.locked.length === 0 || listing.errand === 'open') return [];
        const way = listing.steps.ways.find((way) => way.id === 'cancel' || way.id === 'correct')?.id ?? 'leave';
        return [[listing.id, { way, reason: 'By the bench', code: record.code, until: '2099-01-01' }]];
      }),
    ),
  );
}
