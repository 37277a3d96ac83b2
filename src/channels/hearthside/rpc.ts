import { z } from 'zod';
import type { OutsideErrorKind } from '@/core/errands/retry';
import type { Connection, Sending } from '../kit/kind';
import type { KeptThere } from '../kit/kept';
import { accepted, OutsideError, readAnswer, sentOnce, type Http } from '../kit/http';

const answerSchema = z.object({
  result: z.unknown().optional(),
  error: z
    .object({ code: z.number(), message: z.string(), data: z.object({ field: z.string().optional() }).optional() })
    .optional(),
});

/** What it answers of something that was deleted. */
export const deletedSchema = z.object({ deleted: z.literal(true) });

/** Hearthside's own error codes, in the range that JSON-RPC 2.0 (section 5.1) leaves to servers. */
const kinds: Record<number, OutsideErrorKind> = {
  [-32001]: 'sign-in-again',
  [-32003]: 'not-allowed',
  [-32004]: 'gone',
  [-32010]: 'locked',
  [-32029]: 'again-later',
  [-32602]: 'invalid',
};

/** Calls that change nothing there; and one that may be repeated. */
const reads = new Set(['event.get', 'event.find', 'post.get', 'post.find', 'identity.me', 'profile.get']);
const repeats = 'photo.put';

/**
 * Hearthside speaks JSON-RPC 2.0 at one endpoint, with a page's token: for the page's events as for its posts. Its calls
 * throw an `OutsideError`, by the code of the answer.
 */
export function rpcClient({ address, credentials }: Connection, http: Http, kept: KeptThere) {
  /** Calls a method and reads its result with `schema`. */
  const call = async <T>(method: string, params: object, schema: z.ZodType<T>): Promise<T> => {
    // Every call is a POST here; those that only read change nothing and are simply asked again.
    const answer = await http({
      method: 'POST',
      url: `${address}/rpc`,
      headers: { 'content-type': 'application/json', authorization: `Bearer ${credentials.token ?? ''}` },
      body: JSON.stringify({ jsonrpc: '2.0', id: 1, method, params }),
      tellsNothing: reads.has(method),
      repeatable: method === repeats,
    });
    const wrote = !reads.has(method) && method !== repeats;
    const { result, error } = readAnswer(accepted(answer, wrote), answerSchema, `Hearthside ${method}`);
    if (error) throw new OutsideError(kinds[error.code] ?? 'invalid', error.message, null, error.data?.field ?? null);
    const parsed = schema.safeParse(result);
    if (!parsed.success) throw new OutsideError('invalid', `Hearthside ${method}: the answer has an unexpected shape`);
    return parsed.data;
  };
  /** Puts the pictures there that go with a writing. */
  const upload = ({ pictures }: Sending) =>
    sentOnce(kept, pictures, async ({ name, bytes }) => {
      await call('photo.put', { file: name, base64: toBase64(bytes) }, z.object({ file: z.string() }));
    });
  /** Under whose name the token publishes. Throws where that is a person's and not the page's. */
  const greet = async () => {
    const me = await call('identity.me', {}, z.object({ kind: z.enum(['page', 'person']), name: z.string() }));
    if (me.kind === 'person')
      throw new OutsideError(
        'not-allowed',
        `the token belongs to the person ${me.name}; events would stand under that name. Use the page's token`,
      );
    return me.name;
  };
  return { call, upload, greet };
}

function toBase64(bytes: Uint8Array): string {
  let text = '';
  for (let i = 0; i < bytes.length; i += 0x8000) text += String.fromCharCode(...bytes.subarray(i, i + 0x8000));
  return btoa(text);
}
