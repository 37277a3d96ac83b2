import { APIError } from 'better-auth/api';
import { betterAuth } from 'better-auth/minimal';
import { drizzleAdapter } from 'better-auth/adapters/drizzle';
import { twoFactor } from 'better-auth/plugins/two-factor';
import { leastPassword, mostPassword } from '@/core/people/password-length';
import { doorSecret } from '@/store/credentials';
import type { Db } from '@/store/database';
import { persons, secondFactors, sessions, signIns, verifications } from '@/store/schema';
import { ownAddress } from './front-door';

/** How long a session holds, in seconds. It is not made longer by being used. */
const sessionSeconds = 14 * 24 * 3600;

/**
 * The sign-in of a house: passwords, sessions and second factors, in the house's own database. None of its own routes is
 * served: what it does is asked for by the verbs of the desk alone.
 */
function makeAccounts(db: Db) {
  const { origin } = ownAddress(process.env);
  return betterAuth({
    appName: 'Nuntiax',
    baseURL: origin?.origin ?? 'http://127.0.0.1',
    secret: doorSecret(db),
    database: drizzleAdapter(db, {
      provider: 'sqlite',
      schema: {
        user: persons,
        session: sessions,
        account: signIns,
        verification: verifications,
        twoFactor: secondFactors,
      },
    }),
    // Who is who is kept by the house itself: nothing that is sent to the sign-in says a role.
    user: { additionalFields: { role: { type: 'string', required: true, input: false } } },
    emailAndPassword: {
      enabled: true,
      disableSignUp: true,
      minPasswordLength: leastPassword,
      maxPasswordLength: mostPassword,
    },
    session: { expiresIn: sessionSeconds, disableSessionRefresh: true },
    advanced: {
      cookiePrefix: 'nuntiax',
      useSecureCookies: origin?.protocol === 'https:',
      defaultCookieAttributes: { httpOnly: true, sameSite: 'lax' },
    },
    rateLimit: { enabled: false },
    telemetry: { enabled: false },
    logger: { level: 'error' },
    plugins: [twoFactor({ issuer: 'Nuntiax', totpOptions: { digits: 6, period: 30 } })],
  });
}
type Accounts = ReturnType<typeof makeAccounts>;

const made = new WeakMap<object, Accounts>();

/** The sign-in of the house on this database. */
export function accountsOf(db: Db): Accounts {
  let accounts = made.get(db);
  if (!accounts) made.set(db, (accounts = makeAccounts(db)));
  return accounts;
}

/** What an answer of the sign-in came to: it did it, or it says no. Anything else is thrown on. */
export async function orSaidNo<T>(
  asked: Promise<T>,
): Promise<{ ok: true; value: T } | { ok: false; code: string; status: number }> {
  try {
    return { ok: true, value: await asked };
  } catch (error) {
    if (!(error instanceof APIError) || error.statusCode >= 500) throw error;
    return { ok: false, code: String(error.body?.code ?? ''), status: error.statusCode };
  }
}
