import { LRUCache } from 'lru-cache';
import { rightsOf, secondFactorFor, type Doer } from '@/core/people/doer';
import { accountsOf } from '@/house/accounts';
import type { House } from '@/house/house';
import type { Db } from '@/store/database';
import { demoHouse } from '@/house/demo-house';
import { personOfToken, type Person } from '@/store/persons';

/** Whoever is signed in by a session, and the session's id. */
export interface SignedIn {
  person: Person;
  session: string;
}

/** Cookies whose signature was proved, with the token in each: whether its session is open is asked each time. */
const proved = new WeakMap<object, LRUCache<string, string>>();

function tokensOf(db: Db): LRUCache<string, string> {
  let tokens = proved.get(db);
  if (!tokens) proved.set(db, (tokens = new LRUCache({ max: 500 })));
  return tokens;
}

/** The token in a signed cookie; `null`: we did not sign it, or there is no such session. */
async function tokenOf(db: Db, signed: string): Promise<string | null> {
  const found = await accountsOf(db).api.getSession({ headers: new Headers({ cookie: signed }) });
  if (found) tokensOf(db).set(signed, found.session.token);
  return found?.session.token ?? null;
}

/** Who is signed in by the cookies of a request; `null`: nobody, or somebody who was taken out. */
export async function signedIn(house: Pick<House, 'db'>, headers: Headers): Promise<SignedIn | null> {
  const cookie = headers.get('cookie') ?? '';
  const signed = /(?:^|;\s*)((?:__Secure-)?nuntiax\.session_token=[^;]+)/.exec(cookie)?.[1];
  if (signed === undefined) return null;
  const token = tokensOf(house.db).get(signed) ?? (await tokenOf(house.db, signed));
  return token === null ? null : personOfToken(house.db, token, new Date());
}

/** A person as a doer. What asks a second factor waits until there is one; the demo's persons have no password either. */
export function asDoer({ id, name, role, only, twoFactorEnabled }: Person, demo = false): Doer {
  const withheld =
    demo || twoFactorEnabled ? [] : rightsOf(role, only).filter((right) => secondFactorFor.includes(right));
  return { id, name, role, only, withheld };
}

/** Who asks, by the headers of the request: by a session, or in a demo by the person that was picked. */
export async function doerOf(house: Pick<House, 'db'>, headers: Headers): Promise<Doer | null> {
  const found = await signedIn(house, headers);
  if (found !== null) return asDoer(found.person);
  const demo = demoHouse(house.db);
  const person = demo && demo.person(headers.get('cookie'));
  return person ? asDoer(person, true) : null;
}
