import { z } from 'zod';
import type { ChannelClient, Remote, Sending } from '../kit/channel';
import { accepted, OutsideError, pageOf, readAnswer, type Http, type HttpAnswer } from '../kit/http';

const entrySchema = z.looseObject({ id: z.string(), url: z.string() });

/** Lectern speaks REST with an app password, version marks (ETag, RFC 9110 section 8.8.3) and If-Match. */
export function client(
  { address, credentials }: { address: string; credentials: Record<string, string> },
  http: Http,
): ChannelClient {
  const authorization = `Basic ${btoa(`${credentials.user ?? ''}:${credentials.password ?? ''}`)}`;
  const call = async (
    method: 'GET' | 'POST' | 'PATCH' | 'PUT',
    path: string,
    body?: unknown,
    extra: Record<string, string> = {},
  ) => {
    const headers = { authorization, 'content-type': 'application/json', ...extra };
    const answer = await http({
      method,
      url: `${address}/api${path}`,
      headers,
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    });
    return accepted(answer, method !== 'GET');
  };
  const upload = async ({ pictures }: Sending) => {
    for (const { name, bytes } of pictures) {
      const headers = { authorization, 'content-type': 'image/jpeg' };
      accepted(await http({ method: 'PUT', url: `${address}/api/media/${name}`, headers, body: bytes }), false);
    }
  };
  const remoteOf = (answer: HttpAnswer): Remote => {
    const entry = readAnswer(answer, entrySchema, 'Lectern entry');
    return { id: entry.id, publicUrl: entry.url, etag: answer.headers.get('etag'), link: null, lapsesAt: null };
  };
  const change = async (remote: Remote, wire: object) =>
    remoteOf(
      await call('PATCH', `/entries/${remote.id}`, wire, remote.etag === null ? {} : { 'if-match': remote.etag }),
    );

  return {
    async place(wire, sending) {
      await upload(sending);
      return remoteOf(await call('POST', '/entries', { ...wire, reference: sending.reference }));
    },
    async amend(remote, wire, sending) {
      await upload(sending);
      return change(remote, wire);
    },
    withdraw: (remote) => change(remote, { status: 'draft' }),
    async fetch(remote) {
      const answer = await http({
        method: 'GET',
        url: `${address}/api/entries/${remote.id}`,
        headers: { authorization },
      });
      if (answer.status === 404) return null;
      const entry = readAnswer(accepted(answer, false), entrySchema, 'Lectern entry');
      const etag = answer.headers.get('etag');
      return { wire: entry, page: await pageOf(http, entry.url), remote: { ...remote, publicUrl: entry.url, etag } };
    },
    async find(reference) {
      const answer = await call('GET', `/entries?reference=${encodeURIComponent(reference)}`);
      const found = readAnswer(
        answer,
        z.array(z.looseObject({ id: z.string(), url: z.string(), etag: z.string() })),
        'Lectern entries',
      )[0];
      return found ? { id: found.id, publicUrl: found.url, etag: found.etag, link: null, lapsesAt: null } : null;
    },
    async greet() {
      const answer = await call('GET', '/me');
      const me = readAnswer(answer, z.object({ user: z.string(), mayPublish: z.boolean() }), 'Lectern account');
      if (!me.mayPublish) throw new OutsideError('not-allowed', `${me.user} may not publish there`);
      return me.user;
    },
  };
}
