import { z } from 'zod';
import type { Wire } from '@/core/listing/channel-rules';
import type { ChannelClient, Remote, Sending } from './kind';
import { accepted, orGone, pageOf, readAnswer, type Http, type HttpRequest } from './http';

type Method = HttpRequest['method'];
type Headers = Record<string, string>;

/**
 * Calls of a REST interface: what goes out is written by `encode` (JSON, where it is not said), what comes back is read
 * by a schema.
 */
export function restCalls(
  http: Http,
  {
    base,
    headers,
    what,
    encode = { type: 'application/json', write: (body: object) => JSON.stringify(body) },
  }: { base: string; headers: Headers; what: string; encode?: { type: string; write(body: object): string } },
) {
  return async <T>(
    method: Method,
    path: string,
    schema: z.ZodType<T>,
    body?: object,
    extra: Headers = {},
  ): Promise<T> => {
    const request: HttpRequest = { method, url: `${base}${path}`, headers: { ...headers, ...extra } };
    if (body !== undefined) {
      request.headers = { 'content-type': encode.type, ...request.headers };
      request.body = encode.write(body);
    }
    return readAnswer(accepted(await http(request), method !== 'GET'), schema, `${what} ${path.split('/')[1] ?? ''}`);
  };
}

/** Puts pictures there, each under its own name; putting one twice does no harm. */
export function putFile(http: Http, base: string, headers: Headers) {
  return async ({ name, bytes, type = 'image/jpeg' }: Sending['pictures'][number]): Promise<void> => {
    const request = { method: 'PUT', url: `${base}/${name}`, body: bytes, repeatable: true } as const;
    accepted(await http({ ...request, headers: { ...headers, 'content-type': type } }), false);
  };
}

/** What a place says of one thing that stands on it. */
export const entrySchema = z.looseObject({ id: z.string().min(1).max(80), url: z.string().max(2000).nullish() });
type Entry = z.infer<typeof entrySchema>;

/** How a plain place is spoken to: entries on one path, each by its id, found by our reference. */
export interface PlainPlace {
  http: Http;
  call: ReturnType<typeof restCalls>;
  /** Path of the entries: `/rooms`. */
  path: string;
  /** Written in place of a taking down: the state as it is called there. */
  down: Wire;
  /** What is sent before an entry that it needs: pictures. */
  before?(sending: Sending): Promise<void>;
  /** What every placing carries beside the listing. */
  placing?: Wire;
  /** What every write says of its side effects. */
  besides?(sending: Sending): Wire;
  /** Entries can be deleted. */
  deletes?: boolean;
  /** Headers of a write. */
  headers?(sending: Sending): Headers;
  /** What it gives beside its public address. */
  remote?(entry: Entry): Partial<Remote>;
}

/** The client of a place that has entries and nothing unusual: POST, PATCH, GET, and GET by reference. */
export function plainClient(place: PlainPlace): ChannelClient {
  const { http, call, path, down, before, placing = {}, besides, headers } = place;
  const remoteOf = (entry: Entry): Remote => ({
    id: entry.id,
    publicUrl: entry.url ?? null,
    etag: null,
    link: null,
    lapsesAt: null,
    ...place.remote?.(entry),
  });
  const at = ({ id }: Remote) => `${path}/${encodeURIComponent(id)}`;
  const extra = (sending: Sending) => headers?.(sending) ?? {};
  return {
    async place(wire, sending) {
      await before?.(sending);
      const body = { ...wire, ...placing, ...besides?.(sending), reference: sending.reference };
      return remoteOf(await call('POST', path, entrySchema, body, extra(sending)));
    },
    async amend(remote, wire, sending) {
      await before?.(sending);
      const body = { ...wire, ...besides?.(sending) };
      return remoteOf(await call('PATCH', at(remote), entrySchema, body, extra(sending)));
    },
    async unpublish(remote, sending) {
      const body = { ...down, ...besides?.(sending) };
      return remoteOf(await call('PATCH', at(remote), entrySchema, body, extra(sending)));
    },
    ...(place.deletes
      ? {
          async remove(remote, sending) {
            await call('DELETE', at(remote), z.object({ deleted: z.literal(true) }), undefined, extra(sending));
          },
        }
      : {}),
    async fetch(remote, { page }) {
      const entry = await orGone(call('GET', at(remote), entrySchema));
      if (entry === null) return null;
      const seen = page && entry.url ? await pageOf(http, entry.url) : null;
      return { wire: entry, page: seen, remote: remoteOf(entry) };
    },
    find: async (reference) =>
      (await call('GET', `${path}?reference=${encodeURIComponent(reference)}`, z.array(entrySchema))).map(remoteOf),
  };
}
