import { fail, type Result } from '@/core/base/result';
import { fromOf } from '@/app/who-asks';
import { changePassword, confirmSecondFactor, startSecondFactor } from '@/desk/people/own-account';
import { join, lookAtCode } from '@/desk/people/invitations';
import { secondFactor, signIn, signOut, type From } from '@/desk/people/sign-in';
import { doerOf } from '@/desk/people/who';
import { refusalWords } from '@/desk/house/refusal';
import { theHouse } from '@/desk/house/the-house';
import { readUpTo } from '../../read-up-to';

export const dynamic = 'force-dynamic';

/** The longest that anybody has to say here, in bytes. */
const mostSaid = 20_000;

/** What came of it: something to tell, and cookies to keep; or what is wrong, by field. */
type Came = Result<{ told: unknown; cookies?: string[] }, { errors: Record<string, string>; status: number }>;

const told = (value: unknown, cookies?: string[]): Came => ({
  ok: true,
  value: { told: value, ...(cookies === undefined ? {} : { cookies }) },
});
const wrong = (errors: Record<string, string>, status = 422): Came => fail({ errors, status });

/** Ways in and what belongs to oneself: those of the first list are answered to anybody, the others to who is signed in. */
const open: Record<string, (input: unknown, from: From) => Promise<Came>> = {
  'sign-in': async (input, from) => {
    const came = await signIn(theHouse(), input, from);
    return came.ok
      ? told({ next: came.value.next }, came.value.cookies)
      : wrong({ password: came.error.words }, came.error.status);
  },
  second: async (input, from) => {
    const came = await secondFactor(theHouse(), input, from);
    return came.ok
      ? told({ next: came.value.next }, came.value.cookies)
      : wrong({ code: came.error.words }, came.error.status);
  },
  look: async (input, from) => {
    const came = await lookAtCode(theHouse(), input, from);
    return came.ok ? told(came.value) : wrong(came.error);
  },
  join: async (input, from) => {
    const came = await join(theHouse(), input, from);
    return came.ok ? told({ next: came.value.next }, came.value.cookies) : wrong(came.error);
  },
};
const signed: Record<string, (input: unknown, from: From) => Promise<Came>> = {
  'sign-out': async (_, { headers }) => told({}, await signOut(theHouse(), headers)),
  password: async (input, from) => {
    const came = await changePassword(theHouse(), await own(from), input, from);
    return came.ok ? told({}) : wrong(came.error);
  },
  factor: async (input, from) => {
    const came = await startSecondFactor(theHouse(), await own(from), input, from);
    return came.ok ? told(came.value) : wrong(came.error);
  },
  confirm: async (input, from) => {
    const came = await confirmSecondFactor(theHouse(), await own(from), input, from);
    return came.ok ? told({}, came.value.cookies) : wrong(came.error);
  },
};

/** Thrown where nobody is signed in. */
class Nobody extends Error {}

async function own({ headers }: From) {
  const doer = await doerOf(theHouse(), headers);
  if (doer === null) throw new Nobody();
  return doer;
}

/** Signs in and out, comes in by a code, and sees to one's own password and second factor. */
export async function POST(request: Request, { params }: { params: Promise<{ what: string }> }): Promise<Response> {
  const { what } = await params;
  const work = Object.hasOwn(open, what) ? open[what] : Object.hasOwn(signed, what) ? signed[what] : undefined;
  if (!work) return Response.json({ errors: { '': 'There is no such door.' } }, { status: 404 });
  const from = fromOf(request.headers);
  try {
    if (Object.hasOwn(signed, what)) await own(from);
    const bytes = await readUpTo(request, mostSaid + 1);
    if (bytes.length > mostSaid) return Response.json({ errors: { '': 'That is too long.' } }, { status: 413 });
    const came = await work(jsonOf(bytes.toString('utf8')), from);
    if (!came.ok) return Response.json({ errors: came.error.errors }, { status: came.error.status });
    const answer = Response.json(came.value.told, { headers: { 'cache-control': 'no-store' } });
    for (const cookie of came.value.cookies ?? []) answer.headers.append('set-cookie', cookie);
    return answer;
  } catch (error) {
    if (error instanceof Nobody) return Response.json({ errors: { '': 'Sign in first.' } }, { status: 401 });
    const words = refusalWords(error);
    if (words === null) throw error;
    return Response.json({ errors: { '': words } }, { status: 503 });
  }
}

/** What was said, as JSON; what is none is nothing. */
function jsonOf(text: string): unknown {
  try {
    return text === '' ? {} : (JSON.parse(text) as unknown);
  } catch {
    return null;
  }
}
