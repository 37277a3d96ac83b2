import type { Right, Role } from '@/core/people/doer';

/** Oneself, as every screen knows one: by name and role, with what one may do. */
export interface Me {
  name: string;
  role: Role | 'machine';
  rights: readonly Right[];
  /** Let in for some events alone. */
  guest: boolean;
  /** Whom one may change to, in a demo; `null`: one has signed in. */
  others: readonly { id: string; name: string; role: Role; self: boolean }[] | null;
}
