/** What somebody may do, from looking to keeping the house. Each verb of the desk asks one of these. */
export const rights = ['look', 'browse', 'export', 'correct', 'write', 'count', 'send', 'keep'] as const;
export type Right = (typeof rights)[number];

/** Who works here: each role has its rights, and no person has two roles. */
export const roles = ['reader', 'writer', 'sender', 'box office', 'keeper'] as const;
export type Role = (typeof roles)[number];

const reading: readonly Right[] = ['look', 'browse', 'export'];
const writing: readonly Right[] = [...reading, 'correct', 'write'];
const roleRights: Readonly<Record<Role, readonly Right[]>> = {
  reader: reading,
  writer: writing,
  sender: [...writing, 'send'],
  'box office': [...reading, 'count'],
  keeper: rights,
};

/** Roles in which somebody may be let in for some events alone. */
export const guestRoles = ['reader', 'writer', 'box office'] as const satisfies readonly Role[];
type GuestRole = (typeof guestRoles)[number];

/** What is left of a role for whoever is let in for some events alone: a promoter corrects his date and counts it. */
const guestRights: Readonly<Record<GuestRole, readonly Right[]>> = {
  reader: ['look'],
  writer: ['look', 'correct', 'count'],
  'box office': ['look', 'count'],
};

/** The tours and events for which alone somebody is let in, by their ids. */
export interface Reach {
  tours: string[];
  records: string[];
}

/** Whoever does something: a person who is signed in, or the house's own machine. */
export interface Doer {
  /** As the book names it. */
  name: string;
  /** The person's id; `null`: the machine. */
  id: string | null;
  role: Role | 'machine';
  /** Where alone; `null`: in the whole house. */
  only: Reach | null;
  /** Rights that wait until the person has a second factor. */
  withheld: readonly Right[];
}

/** Rights that are given to nobody without a second factor, where somebody signs in by a password. */
export const secondFactorFor: readonly Right[] = ['keep'];

/** The machine's own doer: a script that runs beside the data, told in the book by this name. */
export function machineDoer(name: string): Doer {
  return { name, id: null, role: 'machine', only: null, withheld: [] };
}

const isGuestRole = (role: Role): role is GuestRole => (guestRoles as readonly Role[]).includes(role);

/** The rights of a role, in the whole house or for some events alone. */
export function rightsOf(role: Role | 'machine', only: Reach | null = null): readonly Right[] {
  if (role === 'machine') return rights;
  if (only === null) return roleRights[role];
  return isGuestRole(role) ? guestRights[role] : [];
}

/** True where a doer may do what asks this right; where alone is asked by `reaches`. */
export function mayDo({ role, only, withheld }: Doer, right: Right): boolean {
  return rightsOf(role, only).includes(right) && !withheld.includes(right);
}

/** True where a doer is let in for this event. */
export function reaches({ only }: Doer, record: { id: string; tourId: string | null }): boolean {
  if (only === null) return true;
  return only.records.includes(record.id) || (record.tourId !== null && only.tours.includes(record.tourId));
}

const plural: Readonly<Record<Role, string>> = {
  reader: 'readers',
  writer: 'writers',
  sender: 'senders',
  'box office': 'the box office',
  keeper: 'keepers',
};

/** Who may do what asks a right, in words: `senders and keepers`. */
export function whoMay(right: Right): string {
  const able = roles.filter((role) => roleRights[role].includes(right)).map((role) => plural[role]);
  return able.length < 2 ? able.join('') : `${able.slice(0, -1).join(', ')} and ${able[able.length - 1]}`;
}

/** What is told to a doer who may not, with who may. `null`: it may. */
export function mayNotWords(doer: Doer, right: Right): string | null {
  if (mayDo(doer, right)) return null;
  if (doer.withheld.includes(right)) return 'This asks a second factor: set one up under your own name first.';
  if (doer.only !== null && rightsOf(doer.role).includes(right))
    return `${doer.name} is let in for some events alone and may not do this; ${whoMay(right)} of the house may.`;
  return `As ${doer.role}, ${doer.name} may not do this; ${whoMay(right)} may.`;
}
