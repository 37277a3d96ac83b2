import type { Facts } from '../facts/facts';
import { playsAt } from '../facts/plays-at';

/*
 * A part of the house as it is kept in a setting: `house`, `venue:ID`, `room:ID|ROOM`, `act:NAME`, `tour:ID`, `type:KIND`.
 */

const known = ['venue', 'room', 'act', 'tour', 'type'] as const;
type Sort = 'house' | (typeof known)[number];

/** A part of the house in its parts; `null`: it is none. */
function partOf(said: string): { sort: Sort; id: string } | null {
  if (said === 'house') return { sort: 'house', id: '' };
  const at = said.indexOf(':');
  const sort = known.find((candidate) => candidate === said.slice(0, Math.max(0, at)));
  const id = said.slice(at + 1);
  return sort === undefined || id === '' ? null : { sort, id };
}

/** True for events that belong to a part of the house; where it is none, for no event. */
export function holdsOf(said: string): (facts: Facts) => boolean {
  const part = partOf(said);
  if (part === null) return () => false;
  const { sort, id } = part;
  switch (sort) {
    case 'house':
      return () => true;
    case 'venue':
      return ({ performances }) => performances.some(({ place }) => place?.venueId === id);
    case 'room':
      return ({ performances }) => performances.some(({ place }) => `${place?.venueId}|${place?.roomId ?? ''}` === id);
    case 'act':
      return playsAt(id);
    case 'tour':
      return ({ tourId }) => tourId === id;
    case 'type':
      return ({ categories }) => categories.some((type) => type === id);
  }
}
