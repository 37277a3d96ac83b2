import { asks } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import type { House } from '@/house/house';
import { knownVenues } from '../files/import-events';
import { findTowns, placeFinder, type TownChoice } from '../files/towns';

/** What is known of a town that a person typed. */
export interface TownFound {
  /** The towns that are called so, the largest first. */
  choices: TownChoice[];
  /** The zone, where all that it may be lie in one. */
  zone: string | null;
  /** What the zone is known by: a venue of the house, the town, or its country. */
  by: 'venue' | 'town' | 'country' | null;
}

/** Looks a town up by name and country; a venue of the house that is called so, or lies there, is known first. */
export function findTown(house: House, doer: Doer, asked: { venue: string; town: string; country: string }): TownFound {
  asks(doer, 'findTown');
  const { venue, town, country } = asked;
  const found = placeFinder(knownVenues(house.db))({ venue: venue.trim(), town: town.trim(), country });
  const choices =
    town.trim() === '' || (found.kind === 'known' && found.by === 'venue') ? [] : findTowns(town, country);
  return { choices, zone: found.kind === 'known' ? found.zone : null, by: found.kind === 'known' ? found.by : null };
}
