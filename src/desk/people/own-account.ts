import { toString as qrSvg } from 'qrcode';
import { z } from 'zod';
import type { Doer } from '@/core/people/doer';
import { passwordSchema } from '@/core/people/person';
import { fieldErrors } from '@/core/base/issue-words';
import { fail, ok, type Result } from '@/core/base/result';
import { accountsOf, orSaidNo } from '@/house/accounts';
import type { House } from '@/house/house';
import { transaction } from '@/store/database';
import { endSessions, noteDoing, openSessions, personById, putPassword, signsIn } from '@/store/persons';
import type { OwnView } from '@/views/people';
import { sessionRow } from './people';
import { asks } from './rights-of-verbs';
import { guessing, onward, type From } from './sign-in';
import { weakPassword } from './weak-password';
import { signedIn } from './who';

type FieldErrors = Record<string, string>;

/** Oneself: role, second factor, and the sessions that are open. `null` for a doer who is no person. */
export async function ownView(house: House, doer: Doer, headers: Headers): Promise<OwnView | null> {
  asks(doer, 'ownView');
  const person = doer.id === null ? null : personById(house.db, doer.id);
  if (!person) return null;
  const here = await signedIn(house, headers);
  return {
    ...{ id: person.id, name: person.name, email: person.email, role: person.role, only: person.only },
    secondFactor: person.twoFactorEnabled,
    signsIn: signsIn(house.db, person.id),
    sessions: openSessions(house.db, new Date(), person.id).map((session) => ({
      ...sessionRow(session),
      this: session.id === here?.session,
    })),
  };
}

const changeSchema = z.object({ now: z.string().max(200), next: passwordSchema });

/** Changes one's own password; every other session of one's own ends. The one in use is asked for. */
export async function changePassword(
  house: House,
  doer: Doer,
  input: unknown,
  from: From,
): Promise<Result<null, FieldErrors>> {
  asks(doer, 'changePassword');
  const parsed = changeSchema.safeParse(input);
  if (!parsed.success) return fail(fieldErrors(parsed.error));
  const here = await signedIn(house, from.headers);
  if (here?.person.id !== doer.id || !here) return fail({ now: 'You have no password here.' });
  const { person } = here;
  const late = await guessing(house, person.email, from);
  if (late) return fail({ now: late.words });
  const { now, next } = parsed.data;
  const { api, $context } = accountsOf(house.db);
  const right = await orSaidNo(api.verifyPassword({ body: { password: now }, headers: onward(from) }));
  if (!right.ok) return fail({ now: 'This is not your password.' });
  const weak = weakPassword(next, [person.name, person.email]);
  if (weak !== null) return fail({ next: weak });
  const hash = await (await $context).password.hash(next);
  transaction(
    house.db,
    (tx) => {
      putPassword(tx, person.id, hash, new Date());
      endSessions(tx, person.id, here.session);
      noteDoing(tx, doer, { at: house.clock.now(), sort: 'people', words: 'changed the own password' });
    },
    { quiet: true },
  );
  return ok(null);
}

/** What an authenticator needs: the address to read as a picture (SVG) or to type, and recovery codes, told once. */
export interface SecondFactorStart {
  picture: string;
  secret: string;
  recovery: string[];
}

/** Begins a second factor (TOTP, RFC 6238); it holds once a code of it was given. */
export async function startSecondFactor(
  house: House,
  doer: Doer,
  input: unknown,
  from: From,
): Promise<Result<SecondFactorStart, FieldErrors>> {
  asks(doer, 'startSecondFactor');
  const parsed = z.object({ password: z.string().max(200) }).safeParse(input);
  if (!parsed.success) return fail(fieldErrors(parsed.error));
  const here = await signedIn(house, from.headers);
  if (!here) return fail({ password: 'You have no password here.' });
  const late = await guessing(house, here.person.email, from);
  if (late) return fail({ password: late.words });
  const started = await orSaidNo(
    accountsOf(house.db).api.enableTwoFactor({
      body: { password: parsed.data.password, method: 'totp' },
      headers: onward(from),
    }),
  );
  if (!started.ok)
    return fail({
      password:
        started.code === 'TOTP_ALREADY_ENABLED' ? 'You have a second factor already.' : 'This is not your password.',
    });
  if (started.value.method !== 'totp') throw new Error('the second factor is no TOTP');
  const { totpURI, backupCodes } = started.value;
  return ok({
    picture: await qrSvg(totpURI, { type: 'svg', margin: 2 }),
    secret: new URL(totpURI).searchParams.get('secret') ?? '',
    recovery: backupCodes,
  });
}

/** Confirms a second factor by a code of it; from then on it is asked for at each sign-in. Gives the cookies. */
export async function confirmSecondFactor(
  house: House,
  doer: Doer,
  input: unknown,
  from: From,
): Promise<Result<{ cookies: string[] }, FieldErrors>> {
  asks(doer, 'confirmSecondFactor');
  const parsed = z.object({ code: z.string().trim().max(20) }).safeParse(input);
  const late = await guessing(house, null, from);
  if (late) return fail({ code: late.words });
  const asked = await orSaidNo(
    accountsOf(house.db).api.verifyTOTP({
      body: { code: parsed.success ? parsed.data.code.replace(/\s/g, '') : '' },
      headers: onward(from),
      returnHeaders: true,
    }),
  );
  if (!asked.ok) return fail({ code: 'This code is not right, or was of a moment ago. Give the newest.' });
  transaction(
    house.db,
    (tx) => noteDoing(tx, doer, { at: house.clock.now(), sort: 'people', words: 'set up a second factor' }),
    { quiet: true },
  );
  return ok({ cookies: asked.value.headers.getSetCookie() });
}
