'use server';

import { z } from 'zod';
import { fail, type Result } from '@/core/base/result';
import { theDoer } from '@/app/who-asks';
import { orRefused, orRefusedLater } from '@/desk/house/refusal';
import { theHouse } from '@/desk/house/the-house';
import { invite, takeInvitationBack, type HandedOut } from '@/desk/people/invitations';
import { changeRole, endSessionOf, takePersonOut } from '@/desk/people/people';

type FieldErrors = Record<string, string>;
const id = z.string().max(80);

/** Invites somebody. */
export async function inviteAction(input: unknown): Promise<Result<HandedOut, FieldErrors>> {
  const doer = await theDoer();
  return orRefusedLater(
    () => invite(theHouse(), doer, input),
    (words) => fail({ '': words }),
  );
}

/** Takes back an invitation that is not used yet. */
export async function takeInvitationBackAction(hash: string): Promise<Result<null, string>> {
  const doer = await theDoer();
  return orRefused(() => takeInvitationBack(theHouse(), doer, id.parse(hash)), fail);
}

/** Gives somebody another role, or lets him in elsewhere. */
export async function changeRoleAction(person: string, input: unknown): Promise<Result<null, FieldErrors>> {
  const doer = await theDoer();
  return orRefused(
    () => changeRole(theHouse(), doer, id.parse(person), input),
    (role) => fail({ role }),
  );
}

/** Takes somebody out. */
export async function takePersonOutAction(person: string): Promise<Result<null, string>> {
  const doer = await theDoer();
  return orRefused(() => takePersonOut(theHouse(), doer, id.parse(person)), fail);
}

/** Ends a session of oneself, or as a keeper of anybody. */
export async function endSessionAction(person: string, session: string | null): Promise<Result<null, string>> {
  const doer = await theDoer();
  return orRefused(() => endSessionOf(theHouse(), doer, id.parse(person), id.nullable().parse(session)), fail);
}
