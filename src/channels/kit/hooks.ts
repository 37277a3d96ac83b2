import { createHmac, timingSafeEqual } from 'node:crypto';
import { z } from 'zod';
import type { Instant } from '@/core/base/zones';

/** What is kept of an account: the secret by which the calls are signed that it makes to us. */
export const hookSecret = 'hook secret';
/** A call that is older, or from further ahead, is not listened to: somebody says again what was said once. */
const hookPatienceMs = 5 * 60_000;

const bodySchema = z.looseObject({ reference: z.string().min(1).max(200) });

/**
 * The signature of a call at a moment (HMAC with SHA-256, RFC 2104): of its time in seconds, a full stop, and its body
 * as it came.
 */
function hookSignature(secret: string, seconds: number, body: string): string {
  return createHmac('sha256', secret).update(`${seconds}.${body}`).digest('hex');
}

/** What a call says that was made to us: which listing it is about. `null`: it is forged, stale, or says nothing. */
export function readHook(secret: string, header: string, body: string, now: Instant): { reference: string } | null {
  const said = /^t=(\d{1,12}),v1=([0-9a-f]{64})$/.exec(header);
  if (!said) return null;
  const seconds = Number(said[1]);
  if (Math.abs(now - seconds * 1000) > hookPatienceMs) return null;
  const [mine, theirs] = [hookSignature(secret, seconds, body), said[2] ?? ''].map((text) => Buffer.from(text, 'hex'));
  if (!mine || !theirs || mine.length !== theirs.length || !timingSafeEqual(mine, theirs)) return null;
  try {
    return bodySchema.safeParse(JSON.parse(body)).data ?? null;
  } catch {
    return null;
  }
}
