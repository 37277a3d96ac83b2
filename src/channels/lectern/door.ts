import { z } from 'zod';
import type { Door, Remote, Sending } from '../kit/kind';
import { accepted, OutsideError, pageOf, readAnswer, sentOnce, type HttpAnswer } from '../kit/http';

const entrySchema = z.looseObject({ id: z.string(), url: z.string() });
const foundSchema = z.array(z.looseObject({ id: z.string(), url: z.string(), etag: z.string() }));

/** Lectern speaks REST with an app password, version marks (ETag, RFC 9110 section 8.8.3) and If-Match. */
export const door: Door = ({ address, credentials }, http, kept) => {
  const authorization = `Basic ${btoa(`${credentials.user ?? ''}:${credentials.password ?? ''}`)}`;
  const call = async (
    method: 'GET' | 'POST' | 'PATCH' | 'PUT' | 'DELETE',
    path: string,
    body?: unknown,
    extra: Record<string, string> = {},
  ) => {
    const headers = { authorization, 'content-type': 'application/json', ...extra };
    const request = { method, url: `${address}/api${path}`, headers };
    return accepted(
      await http(body === undefined ? request : { ...request, body: JSON.stringify(body) }),
      method !== 'GET',
    );
  };
  const upload = ({ pictures }: Sending) =>
    sentOnce(kept, pictures, async ({ name, bytes, type = 'image/jpeg' }) => {
      const headers = { authorization, 'content-type': type };
      accepted(
        await http({ method: 'PUT', url: `${address}/api/media/${name}`, headers, body: bytes, repeatable: true }),
        false,
      );
    });
  const remoteOf = (answer: HttpAnswer): Remote => {
    const entry = readAnswer(answer, entrySchema, 'Lectern entry');
    return { id: entry.id, publicUrl: entry.url, etag: answer.headers.get('etag'), link: null, lapsesAt: null };
  };
  const ifMatch = ({ etag }: Remote): Record<string, string> => (etag === null ? {} : { 'if-match': etag });
  const change = async (remote: Remote, wire: object) =>
    remoteOf(await call('PATCH', `/entries/${remote.id}`, wire, ifMatch(remote)));

  return {
    async place(wire, sending) {
      await upload(sending);
      return remoteOf(await call('POST', '/entries', { ...wire, reference: sending.reference }));
    },
    async amend(remote, wire, sending) {
      await upload(sending);
      return change(remote, wire);
    },
    unpublish: (remote) => change(remote, { status: 'draft' }),
    async remove(remote) {
      await call('DELETE', `/entries/${remote.id}`, undefined, ifMatch(remote));
    },
    async fetch(remote, { page }) {
      const url = `${address}/api/entries/${remote.id}`;
      const answer = await http({ method: 'GET', url, headers: { authorization } });
      if (answer.status === 404) return null;
      const entry = readAnswer(accepted(answer, false), entrySchema, 'Lectern entry');
      const etag = answer.headers.get('etag');
      const seen = page ? await pageOf(http, entry.url) : null;
      return { wire: entry, page: seen, remote: { ...remote, publicUrl: entry.url, etag } };
    },
    async find(reference) {
      const answer = await call('GET', `/entries?reference=${encodeURIComponent(reference)}`);
      const found = readAnswer(answer, foundSchema, 'Lectern entries');
      return found.map(({ id, url, etag }) => ({ id, publicUrl: url, etag, link: null, lapsesAt: null }));
    },
    async greet() {
      const answer = await call('GET', '/me');
      const me = readAnswer(answer, z.object({ user: z.string(), mayPublish: z.boolean() }), 'Lectern account');
      if (!me.mayPublish) throw new OutsideError('not-allowed', `${me.user} may not publish there`);
      return me.user;
    },
  };
};
