import { z } from 'zod';
import type { OutsideErrorKind } from '@/core/retry';
import type { ChannelClient, Remote, Sending } from '../channel';
import { accepted, OutsideError, readAnswer, type Http } from '../http';

const eventSchema = z.looseObject({ id: z.string(), url: z.string() });
const rpcSchema = z.object({
  result: z.unknown().optional(),
  error: z.object({ code: z.number(), message: z.string(), data: z.object({ field: z.string().optional() }).optional() }).optional(),
});

/** Hearthside's own error codes, in the range that JSON-RPC 2.0 (section 5.1) leaves to servers. */
const kinds: Record<number, OutsideErrorKind> = {
  [-32001]: 'sign-in-again',
  [-32003]: 'not-allowed',
  [-32004]: 'gone',
  [-32010]: 'locked',
  [-32029]: 'again-later',
  [-32602]: 'invalid',
};

/** Hearthside speaks JSON-RPC 2.0 at one endpoint, with a page's token. */
export function client({ address, credentials }: { address: string; credentials: Record<string, string> }, http: Http): ChannelClient {
  const call = async <T>(method: string, params: object, schema: z.ZodType<T>): Promise<T> => {
    const answer = await http({
      method: 'POST',
      url: `${address}/rpc`,
      headers: { 'content-type': 'application/json', authorization: `Bearer ${credentials.token ?? ''}` },
      body: JSON.stringify({ jsonrpc: '2.0', id: 1, method, params }),
    }).catch((error: unknown) => {
      // Every call is a POST here; those that only read change nothing and are simply asked again.
      if (error instanceof OutsideError && error.kind === 'unknown-outcome' && reads.has(method)) throw new OutsideError('again-later', error.message);
      throw error;
    });
    const { result, error } = readAnswer(accepted(answer, !reads.has(method)), rpcSchema, `Hearthside ${method}`);
    if (error) throw new OutsideError(kinds[error.code] ?? 'invalid', error.message, null, error.data?.field ?? null);
    const parsed = schema.safeParse(result);
    if (!parsed.success) throw new OutsideError('invalid', `Hearthside ${method}: the answer has an unexpected shape`);
    return parsed.data;
  };
  const upload = async ({ pictures }: Sending) => {
    for (const { name, bytes } of pictures) await call('photo.put', { file: name, base64: toBase64(bytes) }, z.object({ file: z.string() }));
  };
  const remoteOf = (event: z.infer<typeof eventSchema>): Remote => ({ id: event.id, publicUrl: event.url, etag: null, link: null });
  const update = async (remote: Remote, event: object) => remoteOf(await call('event.update', { id: remote.id, event }, eventSchema));

  return {
    async place(wire, sending) {
      await upload(sending);
      const { published_as: _, ...event } = wire;
      // Without `as`, it would publish in the name of whoever made the token.
      return remoteOf(await call('event.create', { as: 'page', reference: sending.reference, event }, eventSchema));
    },
    async amend(remote, wire, sending) {
      await upload(sending);
      const { published_as: as, ...event } = wire;
      return remoteOf(await call('event.update', { id: remote.id, event, ...(as === undefined ? {} : { as }) }, eventSchema));
    },
    withdraw: (remote) => update(remote, { visible: false }),
    async fetch(remote) {
      const event = await call('event.get', { id: remote.id }, eventSchema).catch((error: unknown) => {
        if (error instanceof OutsideError && error.kind === 'gone') return null;
        throw error;
      });
      if (event === null) return null;
      const page = await http({ method: 'GET', url: event.url });
      return { wire: event, page: page.status === 404 ? '' : accepted(page, false).text, remote: remoteOf(event) };
    },
    async find(reference) {
      const [found] = await call('event.find', { reference }, z.array(eventSchema));
      return found ? remoteOf(found) : null;
    },
    whose: async (link) => (await call('profile.get', { handle: link.replace(/^.*\//, '') }, z.object({ name: z.string().nullable() }))).name,
    async greet() {
      const me = await call('identity.me', {}, z.object({ kind: z.enum(['page', 'person']), name: z.string() }));
      if (me.kind === 'person') throw new OutsideError('not-allowed', `the token belongs to the person ${me.name}; events would stand under that name. Use the page's token`);
      return me.name;
    },
  };
}

const reads = new Set(['event.get', 'event.find', 'identity.me', 'photo.put', 'profile.get']);

function toBase64(bytes: Uint8Array): string {
  let text = '';
  for (let i = 0; i < bytes.length; i += 0x8000) text += String.fromCharCode(...bytes.subarray(i, i + 0x8000));
  return btoa(text);
}
