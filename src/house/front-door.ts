import { z } from 'zod';

/** What of a request decides whether it is answered at all. Header values as they came; `null`: not there. */
export interface Knock {
  method: string;
  path: string;
  host: string | null;
  origin: string | null;
  /** Where a browser says that it comes from (Fetch Metadata, section 2.4). */
  site: string | null;
  forwardedHost: string | null;
  /** `Forwarded` (RFC 7239). */
  forwarded: string | null;
}

/** How this house is reached: its own address where one is configured, and whether a proxy of ours stands before it. */
export interface OwnAddress {
  origin: URL | null;
  proxied: boolean;
}

const addressSchema = z.object({
  NUNTIAX_ORIGIN: z
    .string()
    .regex(
      /^https?:\/\/[^/?#@\s]+\/?$/i,
      'NUNTIAX_ORIGIN is the address of this house, like https://desk.yard.example, with no path behind its host.',
    )
    .optional(),
  NUNTIAX_PROXY: z.enum(['yes', 'no'], { error: 'NUNTIAX_PROXY is yes or no.' }).default('no'),
});

/**
 * How this house is reached, by its environment. Throws where that says something that is no address: better no house
 * than one that answers anybody.
 */
export function ownAddress(env: Readonly<Record<string, string | undefined>>): OwnAddress {
  const read = addressSchema.parse({
    ...(env.NUNTIAX_ORIGIN ? { NUNTIAX_ORIGIN: env.NUNTIAX_ORIGIN } : {}),
    ...(env.NUNTIAX_PROXY ? { NUNTIAX_PROXY: env.NUNTIAX_PROXY } : {}),
  });
  return {
    origin: read.NUNTIAX_ORIGIN === undefined ? null : new URL(read.NUNTIAX_ORIGIN),
    proxied: read.NUNTIAX_PROXY === 'yes',
  };
}

const loopback = /^(?:localhost|127\.0\.0\.1|\[::1\])(?::\d{1,5})?$/i;
/** True for a name of this machine itself, with a port or without. */
export function isLoopback(host: string): boolean {
  return loopback.test(host) || host === '::1';
}

const reads: ReadonlySet<string> = new Set(['GET', 'HEAD', 'OPTIONS']);
/** Written to by places outside, each with a signature of its own. */
const signed = /^\/api\/hooks\//;

/** Why a request is not answered, as a status of HTTP (RFC 9110, section 15) and a word; `null`: it is. */
export function turnedAway(knock: Knock, own: OwnAddress): { status: 400 | 403 | 421; message: string } | null {
  const { host } = knock;
  if (host === null || !(loopback.test(host) || host.toLowerCase() === own.origin?.host))
    return { status: 421, message: `This house is not ${host ?? 'without a name'}.` };
  if (!own.proxied && (knock.forwarded !== null || (knock.forwardedHost !== null && knock.forwardedHost !== host)))
    return { status: 400, message: 'It came by a proxy, and none is configured: set NUNTIAX_PROXY.' };
  // A proxy says for which host it was asked: it is held to the same.
  const asked = knock.forwardedHost ?? host;
  if (own.proxied && !(loopback.test(asked) || asked.toLowerCase() === own.origin?.host))
    return { status: 421, message: `This house is not ${asked}.` };
  if (reads.has(knock.method) || signed.test(knock.path)) return null;
  return isOwn(knock, own) ? null : { status: 403, message: 'This is only taken from this application’s own pages.' };
}

/** True where a write comes from a page of ours, or from a program that is no browser. */
function isOwn({ origin, site, host, forwardedHost }: Knock, own: OwnAddress): boolean {
  if (site !== null && site !== 'same-origin' && site !== 'none') return false;
  if (origin === null) return true;
  if (own.origin !== null && origin === own.origin.origin) return true;
  return loopback.test(host ?? '') && origin === `http://${forwardedHost ?? host}`;
}

/**
 * What every answer says of how it may be used: scripts of ours alone, in no foreign frame, as what it is (CSP Level 3,
 * Fetch, HTML).
 */
export function safetyHeaders(nonce: string, secure: boolean): Record<string, string> {
  return {
    'content-security-policy': contentPolicy(nonce),
    'x-content-type-options': 'nosniff',
    'x-frame-options': 'DENY',
    'referrer-policy': 'same-origin',
    'cross-origin-opener-policy': 'same-origin',
    'cross-origin-resource-policy': 'same-origin',
    ...(secure ? { 'strict-transport-security': 'max-age=31536000' } : {}),
  };
}

/** Which scripts, pictures and frames a page of ours may have. */
export function contentPolicy(nonce: string): string {
  return [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic'`,
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "font-src 'self'",
    "connect-src 'self'",
    "worker-src 'self' blob:",
    "frame-src 'self'",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join('; ');
}
