import { headers } from 'next/headers';
import { forbidden, redirect } from 'next/navigation';
import { cache } from 'react';
import { mayDo, type Doer, type Right } from '@/core/people/doer';
import { refusalWords } from '@/desk/house/refusal';
import { doerOf } from '@/desk/people/who';
import { NotAllowed } from '@/desk/people/rights-of-verbs';
import type { From } from '@/desk/people/sign-in';
import { theHouse } from '@/desk/house/the-house';

/** Whoever asks for this page or sends this action; `null`: nobody who is signed in. Looked up once a request. */
export const whoAsks = cache(async (): Promise<Doer | null> => doerOf(theHouse(), await headers()));

/** Whoever asks, who must be signed in; with a right, one who has it. Leads to the sign-in, or says that it may not be. */
export async function theDoer(right?: Right): Promise<Doer> {
  const doer = await whoAsks();
  if (doer === null) redirect('/sign-in');
  if (right !== undefined && !mayDo(doer, right)) forbidden();
  return doer;
}

type Handler<More extends unknown[]> = (request: Request, ...more: More) => Promise<Response>;

/**
 * A route handler for whoever is signed in: 401 where nobody is, 403 with a word where the doer may not, 503 where the
 * data folder takes nothing.
 */
export function answered<More extends unknown[]>(
  work: (doer: Doer, request: Request, ...more: More) => Promise<Response> | Response,
): Handler<More> {
  return async (request, ...more) => {
    try {
      const doer = await doerOf(theHouse(), request.headers);
      if (doer === null) return Response.json({ message: 'Sign in first.' }, { status: 401 });
      return await work(doer, request, ...more);
    } catch (error) {
      const words = refusalWords(error);
      if (words === null) throw error;
      return Response.json({ message: words, error: words }, { status: error instanceof NotAllowed ? 403 : 503 });
    }
  };
}

/**
 * Where a request of somebody comes from: the address that our own proxy tells, where there is one; what anybody else
 * writes there is not believed.
 */
export function fromOf(told: Headers): From {
  const proxied = process.env.NUNTIAX_PROXY === 'yes';
  const last = told.get('x-forwarded-for')?.split(',').pop()?.trim();
  return { headers: told, address: (proxied ? last : undefined) ?? 'this network' };
}
