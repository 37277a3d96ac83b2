import { z } from 'zod';
import { fail, ok, type Result } from '@/core/base/result';
import { accountsOf, orSaidNo } from '@/house/accounts';
import type { House } from '@/house/house';
import { sqliteCode, transaction } from '@/store/database';
import { countGuess, forgetGuesses } from '@/store/guesses';
import {
  endSession,
  forgetLapsed,
  noteDoing,
  personByEmail,
  personById,
  personOfToken,
  type DoingSort,
} from '@/store/persons';
import { signedIn } from './who';

/** Where a request of somebody who is not signed in comes from. */
export interface From {
  headers: Headers;
  /** The address of the network, as far as it is known. */
  address: string;
}

/** What came of it: signed in, or the second factor is asked next; with the cookies that say so. */
export interface Entered {
  next: 'in' | 'second';
  cookies: string[];
}
/** Why not, in words, and the status of HTTP for it. */
export interface Refused {
  words: string;
  status: 400 | 401 | 403 | 429;
}

const signInSchema = z.object({ email: z.string().trim().toLowerCase().max(200), password: z.string().max(200) });
const secondSchema = z.object({ code: z.string().trim().max(40), recovery: z.boolean().default(false) });

/** The same words for an unknown address and a wrong password: neither tells which it was. */
const wrong: Refused = { words: 'No one signs in with this address and password.', status: 401 };

const sealedElsewhere: Refused = {
  words:
    'This second factor was sealed with another key than this house has. Whoever keeps the machine brings that key back, or lets you in anew.',
  status: 403,
};

/** Nothing is tried for so long, in words. */
function tooMany(seconds: number): Refused {
  const minutes = Math.ceil(seconds / 60);
  return {
    words: `That was tried too often. Nothing is tried for ${minutes} minute${minutes === 1 ? '' : 's'}; whoever is signed in stays so.`,
    status: 429,
  };
}

/** Counts a guess of one person, if it is known whose, and of one address before it is tried; gives why it is not. */
export async function guessing(house: House, who: string | null, { address }: From): Promise<Refused | null> {
  const wait =
    (await countGuess(house.db, 'address', address)) ??
    (who === null ? null : await countGuess(house.db, 'person', who));
  return wait === null ? null : tooMany(wait);
}

/** Signs somebody in by address and password. A guess is counted before it is tried. */
export async function signIn(house: House, input: unknown, from: From): Promise<Result<Entered, Refused>> {
  const parsed = signInSchema.safeParse(input);
  if (!parsed.success) return fail(wrong);
  const { email, password } = parsed.data;
  const late = await guessing(house, email, from);
  if (late) return fail(late);
  const asked = await orSaidNo(
    accountsOf(house.db).api.signInEmail({ body: { email, password }, headers: onward(from), returnHeaders: true }),
  );
  const person = personByEmail(house.db, email);
  if (!asked.ok || person?.leftAt !== null) {
    note(house, 'refused', { name: 'somebody', id: null }, `A sign-in as ${email} was refused`);
    return fail(wrong);
  }
  const cookies = asked.value.headers.getSetCookie();
  if (person.twoFactorEnabled) return ok({ next: 'second', cookies });
  await forgetGuesses(house.db, 'person', email);
  transaction(house.db, (tx) => forgetLapsed(tx, new Date()), { quiet: true });
  note(house, 'sign-in', person, 'signed in');
  return ok({ next: 'in', cookies });
}

/** Completes a sign-in by the second factor: a code of the moment, or a recovery code, which is used up. */
export async function secondFactor(house: House, input: unknown, from: From): Promise<Result<Entered, Refused>> {
  const { code, recovery } = secondSchema.parse(input);
  const late = await guessing(house, null, from);
  if (late) return fail(late);
  const { api } = accountsOf(house.db);
  const how = { headers: onward(from), returnHeaders: true } as const;
  const asked = await orSaidNo(
    recovery
      ? api.verifyBackupCode({ body: { code }, ...how })
      : api.verifyTOTP({ body: { code: code.replace(/\s/g, '') }, ...how }),
  ).catch((error: unknown) => {
    if (sqliteCode(error) !== null) throw error;
    console.error('a second factor could not be read:', error);
    return null;
  });
  // What was sealed with another key is not read: a wrong code is told as that, by the sign-in itself.
  if (asked === null) return fail(sealedElsewhere);
  if (!asked.ok) {
    note(house, 'refused', { name: 'somebody', id: null }, 'A second factor was refused');
    const again = asked.code === 'INVALID_TWO_FACTOR_COOKIE' || asked.code.startsWith('TOO_MANY');
    return fail({
      words: again
        ? 'This sign-in has lapsed, or was tried too often. Begin with your password again.'
        : asked.status === 429
          ? 'That was tried too often. Wait a quarter of an hour.'
          : 'This code is not right, or was of a moment ago. Give the newest.',
      status: again ? 403 : 401,
    });
  }
  const person = personById(house.db, asked.value.response.user.id);
  if (person?.leftAt !== null) return fail(wrong);
  // Whoever looked on has no use of the code: it is taken once, and the session that it was given again for ends.
  if (!recovery && (await countGuess(house.db, 'code', `${person.id} ${code.replace(/\s/g, '')}`)) !== null) {
    const made = personOfToken(house.db, asked.value.response.token ?? '', new Date());
    if (made) transaction(house.db, (tx) => endSession(tx, made.session), { quiet: true });
    note(house, 'refused', person, 'gave a code a second time, and was refused');
    return fail({
      words: 'This code was used just now. Begin with your password again, and give the next one.',
      status: 403,
    });
  }
  await forgetGuesses(house.db, 'person', person.email);
  note(house, 'sign-in', person, recovery ? 'signed in by a recovery code' : 'signed in');
  return ok({ next: 'in', cookies: asked.value.headers.getSetCookie() });
}

/** Ends the session of a request; gives the cookies that say so. */
export async function signOut(house: House, headers: Headers): Promise<string[]> {
  const found = await signedIn(house, headers);
  if (found) note(house, 'sign-in', found.person, 'signed out');
  const asked = await orSaidNo(
    accountsOf(house.db).api.signOut({ headers: onward({ headers, address: '' }), returnHeaders: true }),
  );
  return asked.ok ? asked.value.headers.getSetCookie() : [];
}

/** What the sign-in is told of a request: its cookies and what browser it is, and no more. */
export function onward({ headers, address }: From): Headers {
  const told = new Headers();
  for (const name of ['cookie', 'user-agent']) {
    const value = headers.get(name);
    if (value !== null) told.set(name, value);
  }
  if (address !== '') told.set('x-forwarded-for', address);
  return told;
}

function note(house: House, sort: DoingSort, by: { name: string; id: string | null }, words: string): void {
  transaction(house.db, (tx) => noteDoing(tx, by, { at: house.clock.now(), sort, words }), { quiet: true });
}
