import { findTowns, townAnswer, type TownChoice } from './files/towns';

/** What is known of a town that a person typed: the towns that are called so, or at least the zone of its country. */
export interface TownFound {
  choices: TownChoice[];
  /** The zone, where all that it may be lie in one. */
  zone: string | null;
}

/** Looks a town up by name and country. */
export function findTown(town: string, country: string): TownFound {
  const choices = town.trim() === '' ? [] : findTowns(town, country);
  const answer = townAnswer(town.trim(), country);
  return { choices, zone: answer.kind === 'known' ? answer.zone : null };
}
