import { randomBytes } from 'node:crypto';
import { NextResponse, type NextRequest } from 'next/server';
import { contentPolicy, ownAddress, safetyHeaders, turnedAway } from '@/house/front-door';

/** Every request passes here first: who asks for another host, or writes from another's page, is turned away. */
export function proxy(request: NextRequest): NextResponse {
  const own = ownAddress(process.env);
  const { headers } = request;
  const refused = turnedAway(
    {
      method: request.method,
      path: request.nextUrl.pathname,
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
  // The framework puts the mark that it finds in the policy on its own scripts; our own head reads it by its name.
  const onward = new Headers(headers);
  onward.set('content-security-policy', contentPolicy(nonce));
  onward.set('x-nonce', nonce);
  const answer = NextResponse.next({ request: { headers: onward } });
  for (const [name, value] of Object.entries(safety)) answer.headers.set(name, value);
  return answer;
}

/** All but what is shipped with the application and the same for everybody. */
export const config = { matcher: ['/((?!_next/static/|_next/image).*)'] };
