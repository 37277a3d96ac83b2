import type { Reach, Role } from '@/core/people/doer';

/** A session that is open. Moments are of the machine's clock. */
export interface SessionRow {
  id: string;
  since: number;
  until: number;
  /** What it is used with. */
  browser: string;
}

/** Somebody who may come in. */
export interface PersonRow {
  id: string;
  name: string;
  email: string;
  role: Role;
  only: Reach | null;
  secondFactor: boolean;
  /** False for persons of the demo, who have no password. */
  signsIn: boolean;
  /** Whether it is oneself. */
  self: boolean;
  sessions: SessionRow[];
}

export interface InvitationRow {
  /** What is kept of its code: it names the invitation. */
  hash: string;
  sort: 'first' | 'new' | 'again';
  name: string;
  email: string;
  role: Role;
  only: Reach | null;
  by: string;
  until: number;
}

/** Who may come in, and what was done of late. */
export interface PeopleView {
  persons: PersonRow[];
  invitations: InvitationRow[];
  doings: { id: number; at: number; doer: string; words: string }[];
  /** For which alone somebody may be let in. */
  tours: { id: string; name: string }[];
  /** The codes of events for which alone somebody is let in, by their ids. */
  codes: Readonly<Record<string, string>>;
}

/** Oneself, as the house knows one. */
export interface OwnView extends Omit<PersonRow, 'self' | 'sessions'> {
  sessions: (SessionRow & { this: boolean })[];
}
