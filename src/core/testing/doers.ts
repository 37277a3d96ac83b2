import type { Doer, Reach, Role } from '../people/doer';

/** A doer of a role, as whoever is signed in; it has no row of its own. */
export function person(role: Role, { name = `the ${role}`, only = null }: { name?: string; only?: Reach | null } = {}) {
  return { name, id: null, role, only, withheld: [] } satisfies Doer;
}

/** A keeper, who may do everything. */
export const keeper: Doer = person('keeper');

/** A keeper of this name. */
export const by = (name: string): Doer => person('keeper', { name });
