import { carriedGroup, isThere } from './copy-record';
import type { CarriedFact } from './choices';
import type { Venue } from './directory';
import type { Performance, RecordContent } from './record';

type Where = Pick<Performance, 'id' | 'venueId'>;

/** What was said of one town and may be wrong in another; keys of carried groups. */
const ofATown: readonly CarriedFact[] = [
  'town.ticket-links',
  'town.promoter',
  'town.prices',
  'town.currency',
  'town.allocations',
];

/** True for a fact that is asked about since a date moved to another town. */
export function asksOfTown(fact: CarriedFact): boolean {
  return fact.startsWith('town.');
}

/**
 * Dates that stand in another town than before, with the two towns: `[id, from, to]`. A date whose venue was not known
 * before, or is not now, did not move.
 */
export function movedTowns(
  before: readonly Where[],
  after: readonly Where[],
  venues: ReadonlyMap<string, Pick<Venue, 'town' | 'country'>>,
): [id: string, from: string, to: string][] {
  const now = new Map(after.map(({ id, venueId }) => [id, venueId]));
  const placeOf = (venueId: string | null | undefined) => (venueId ? venues.get(venueId) : undefined);
  return before.flatMap(({ id, venueId }): [string, string, string][] => {
    const [from, to] = [placeOf(venueId), placeOf(now.get(id))];
    const same = !from || !to || (folded(from.town) === folded(to.town) && folded(from.country) === folded(to.country));
    return same ? [] : [[id, from.town, to.town]];
  });
}

const folded = (text: string) => text.trim().toLowerCase();

/**
 * The marks of a draft after its dates moved: where one came to another town than the saved record has it in, each
 * thing that was said of the old one is asked about; moved on, it is asked again; moved back, it is not asked any more.
 *
 * @param base the record as it was saved
 * @param was the draft's dates before the last change, and its marks
 * @param now the draft's dates after it
 */
export function marksOfMove(
  base: RecordContent,
  was: { performances: readonly Where[]; carried: readonly CarriedFact[] },
  now: readonly Where[],
  venues: ReadonlyMap<string, Pick<Venue, 'town' | 'country'>>,
): readonly CarriedFact[] {
  const moved = movedTowns(base.performances, now, venues);
  if (String(moved) === String(movedTowns(base.performances, was.performances, venues))) return was.carried;
  const others = was.carried.filter((fact) => !asksOfTown(fact) || base.carried.includes(fact));
  const asked = moved.length === 0 ? [] : ofATown.filter((fact) => isThere(carriedGroup(fact, [])?.of(base)));
  return [...others, ...asked.filter((fact) => !others.includes(fact))];
}
