import { randomBytes } from 'node:crypto';

/** A fresh id: a letter for the kind of thing and 12 random characters. */
export function freshId<Id extends string = string>(kind: string): Id {
  return `${kind}${randomBytes(9).toString('base64url').replace(/[-_]/g, 'x')}` as Id;
}
