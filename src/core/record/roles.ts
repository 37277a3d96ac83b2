import { listWords } from '../base/list-words';

/** How a role is said in a line-up: it leads, comes `with`, or is said behind with words of its own. */
interface RoleSaid {
  role: string;
  says: 'leads' | 'with';
  /** Before the name, among those that come with. */
  before?: string;
  /** Before all that have the role, at the end: `hosted by`. */
  behind?: string;
}

/** Roles with words of their own; a house adds others, which are said behind the name. */
const said: readonly RoleSaid[] = [
  { role: 'headliner', says: 'leads' },
  { role: 'speaker', says: 'leads' },
  { role: 'company', says: 'leads' },
  { role: 'film', says: 'leads' },
  { role: 'DJ', says: 'leads' },
  { role: 'support', says: 'with' },
  { role: 'special guest', says: 'with', before: 'special guest ' },
  { role: 'host', says: 'with', behind: 'hosted by' },
  { role: 'moderator', says: 'with', behind: 'moderated by' },
];

/** The roles that every house has, in the order in which they are offered. */
export const commonRoles: readonly string[] = said.map((roleSaid) => roleSaid.role);

/** True where a name of this role leads the billing. */
export function leads(role: string): boolean {
  return said.some((roleSaid) => roleSaid.role === role && roleSaid.says === 'leads');
}

/** The role that a further name of such an event has as a rule. */
export function usualRole(kind: string, already: readonly { role: string }[]): string {
  const first: Record<string, string> = { talk: 'speaker', reading: 'speaker', film: 'film', theatre: 'company' };
  const own = kind === 'club night' ? 'DJ' : (first[kind] ?? 'headliner');
  return already.some((candidate) => candidate.role === own) && own === 'headliner' ? 'support' : own;
}

/**
 * A line-up in words, in billing order: `X with Y and special guest Z, hosted by W`. A role that has no words of its
 * own is said behind the name: `V (light)`.
 */
export function lineUpWords(lineUp: readonly { name: string; role: string }[]): string {
  const of = (role: string) => lineUp.filter((act) => act.role === role).map((act) => act.name);
  const lead = listWords(lineUp.filter((act) => leads(act.role)).map((act) => act.name));
  const common = said.filter((roleSaid) => roleSaid.says === 'with' && roleSaid.behind === undefined);
  const others = lineUp.filter((act) => !commonRoles.includes(act.role)).map((act) => `${act.name} (${act.role})`);
  const rest = listWords([
    ...common.flatMap(({ role, before = '' }) => of(role).map((name) => before + name)),
    ...others,
  ]);
  const behind = said
    .filter((roleSaid) => roleSaid.behind !== undefined && of(roleSaid.role).length > 0)
    .map(({ role, behind: words }) => `${words} ${listWords(of(role))}`);
  const front = lead === '' ? rest : rest === '' ? lead : `${lead} with ${rest}`;
  return [front, ...behind].filter((part) => part !== '').join(', ');
}
