import { randomBytes } from 'node:crypto';
import { NextResponse, type NextRequest } from 'next/server';
import { contentPolicy, ownAddress, safetyHeaders, turnedAway, type OwnAddress } from '@/house/front-door';
import { isOpen } from '@/house/open-routes';
import { doerOf } from '@/desk/people/who';
import { theHouse } from '@/desk/house/the-house';

/**
 * Every request passes here first: who asks for another host, or writes from another's page, is turned away, and so is
 * whoever is not signed in and asks for more than is open.
 */
export async function proxy(request: NextRequest): Promise<NextResponse> {
  const own = ownAddress(process.env);
  const { headers } = request;
  const path = request.nextUrl.pathname;
  const refused = turnedAway(
    {
      method: request.method,
      path,
      host: headers.get('host'),
      origin: headers.get('origin'),
      site: headers.get('sec-fetch-site'),
      forwardedHost: headers.get('x-forwarded-host'),
      forwarded: headers.get('forwarded'),
    },
    own,
  );
  const nonce = randomBytes(16).toString('base64');
  const safety = safetyHeaders(nonce, own.origin?.protocol === 'https:');
  if (refused !== null)
    return NextResponse.json({ message: refused.message }, { status: refused.status, headers: safety });
  if (!isOpen(path)) {
    const stopped = await stoppedUnsigned(request, own);
    if (stopped !== null) return withHeaders(stopped, safety);
  }
  // The framework puts the mark that it finds in the policy on its own scripts; our own head reads it by its name.
  const onward = new Headers(headers);
  onward.set('content-security-policy', contentPolicy(nonce));
  onward.set('x-nonce', nonce);
  return withHeaders(NextResponse.next({ request: { headers: onward } }), safety);
}

/** What whoever is not signed in is told; `null`: it is somebody who is. */
async function stoppedUnsigned(request: NextRequest, own: OwnAddress): Promise<NextResponse | null> {
  try {
    if ((await doerOf(theHouse(), request.headers)) !== null) return null;
  } catch (error) {
    console.error('who asks could not be told:', error);
    const words = 'The data of this house cannot be opened. Its log says why.';
    return NextResponse.json({ message: words }, { status: 503 });
  }
  const { pathname, search } = request.nextUrl;
  const here = own.origin?.origin ?? `http://${request.headers.get('host')}`;
  const page = request.method === 'GET' && !pathname.startsWith('/api/');
  if (!page) return NextResponse.json({ message: 'Sign in first.' }, { status: 401 });
  const to = pathname === '/' ? '/season' : `${pathname}${search}`;
  return NextResponse.redirect(new URL(`/sign-in?to=${encodeURIComponent(to)}`, here), 307);
}

function withHeaders(answer: NextResponse, headers: Readonly<Record<string, string>>): NextResponse {
  for (const [name, value] of Object.entries(headers)) answer.headers.set(name, value);
  return answer;
}

/** All but what is shipped with the application and the same for everybody. */
export const config = { matcher: ['/((?!_next/static/).*)'] };
