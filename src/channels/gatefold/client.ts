import { z } from 'zod';
import type { Wire } from '@/core/listing/channel-rules';
import type { ChannelClient, Remote, Sending } from '../kit/channel';
import { accepted, OutsideError, paced, readAnswer, type Http, type HttpRequest } from '../kit/http';

const listingSchema = z.looseObject({ id: z.string(), url: z.string(), state: z.string() });
/** Gatefold takes five requests a second; we stay below, for clocks differ. */
const perSecond = 4.5;
const tokenSchema = z.object({ access_token: z.string(), expires_in: z.number() });

/** Gatefold speaks REST with OAuth2 client credentials (RFC 6749, section 4.4) and an Idempotency-Key for every write. */
export function client(
  { address, credentials }: { address: string; credentials: Record<string, string> },
  anyPace: Http,
): ChannelClient {
  const http = paced(anyPace, perSecond);
  const session = makeSession(address, credentials, http);
  const { call } = session;
  const remoteOf = (listing: z.infer<typeof listingSchema>): Remote => ({
    id: listing.id,
    publicUrl: listing.url,
    etag: null,
    link: listing.url,
    lapsesAt: null,
  });
  const read = async (request: Omit<HttpRequest, 'url'> & { path: string }) =>
    readAnswer(accepted(await call(request), request.method !== 'GET'), listingSchema, 'Gatefold listing');
  const write = (method: 'POST' | 'PATCH', path: string, body: unknown, key: string) =>
    read({
      method,
      path,
      body: JSON.stringify(body),
      headers: { 'content-type': 'application/json', 'idempotency-key': key },
    });

  const upload = async ({ pictures }: Sending) => {
    for (const { name, bytes } of pictures) {
      accepted(
        await call({ method: 'PUT', path: `/images/${name}`, headers: { 'content-type': 'image/jpeg' }, body: bytes }),
        false,
      );
    }
  };
  /** Puts the register's own code in the place of the venue's name, entering the venue where it is unknown. */
  const withVenue = async (wire: Wire): Promise<Wire> => {
    if (typeof wire.venue !== 'string') return wire;
    const { venue, ...rest } = wire;
    const schema = z.object({ code: z.string() });
    const found = await call({ method: 'GET', path: `/venues?label=${encodeURIComponent(venue)}` });
    if (found.status !== 404)
      return { ...rest, venue_code: readAnswer(accepted(found, false), schema, 'Gatefold venue').code };
    const made = await call({
      method: 'POST',
      path: '/venues',
      body: JSON.stringify({ label: venue }),
      headers: { 'content-type': 'application/json' },
    });
    return { ...rest, venue_code: readAnswer(accepted(made, false), schema, 'Gatefold venue').code };
  };
  const state = (remote: Remote, verb: 'open' | 'close', key: string) =>
    write('POST', `/listings/${remote.id}/${verb}`, {}, `${key}-${verb}`);

  return {
    async place(wire, sending) {
      await upload(sending);
      const { state: _, ...draft } = await withVenue(wire);
      const made = await write('POST', '/listings', { ...draft, external_id: sending.reference }, sending.key);
      return remoteOf(await state(remoteOf(made), 'open', sending.key));
    },
    async amend(remote, wire, sending) {
      await upload(sending);
      const { state: wanted, ...fields } = await withVenue(wire);
      let now = remote;
      if (Object.keys(fields).length > 0)
        now = remoteOf(await write('PATCH', `/listings/${remote.id}`, fields, sending.key));
      if (wanted === 'open') now = remoteOf(await state(remote, 'open', sending.key));
      return now;
    },
    withdraw: async (remote, sending) => remoteOf(await state(remote, 'close', sending.key)),
    async fetch(remote) {
      const answer = await call({ method: 'GET', path: `/listings/${remote.id}` });
      if (answer.status === 404) return null;
      const listing = readAnswer(accepted(answer, false), listingSchema, 'Gatefold listing');
      // The public page is no part of the API, and has no such limit.
      const page = await anyPace({ method: 'GET', url: listing.url });
      return { wire: listing, page: page.status === 404 ? '' : accepted(page, false).text, remote: remoteOf(listing) };
    },
    async find(reference) {
      const answer = accepted(
        await call({ method: 'GET', path: `/listings?external_id=${encodeURIComponent(reference)}` }),
        false,
      );
      const found = readAnswer(answer, z.array(listingSchema), 'Gatefold listings')[0];
      return found ? remoteOf(found) : null;
    },
    async greet() {
      return readAnswer(
        accepted(await call({ method: 'GET', path: '/account' }), false),
        z.object({ seller: z.string() }),
        'Gatefold account',
      ).seller;
    },
  };
}

/** Keeps a token, asks for one when there is none, and once more when the one we have is refused. */
function makeSession(address: string, credentials: Record<string, string>, http: Http) {
  let token: string | null = null;
  const signIn = async (): Promise<string> => {
    const form = new URLSearchParams({
      grant_type: 'client_credentials',
      client_id: credentials.clientId ?? '',
      client_secret: credentials.clientSecret ?? '',
    });
    const answer = await http({
      method: 'POST',
      url: `${address}/oauth/token`,
      headers: { 'content-type': 'application/x-www-form-urlencoded' },
      body: form.toString(),
    }).catch((error: unknown) => {
      // Asking for a token changes nothing there: an answer that got lost is simply asked for again.
      if (error instanceof OutsideError && error.kind === 'unknown-outcome')
        throw new OutsideError('again-later', error.message);
      throw error;
    });
    return (token = readAnswer(accepted(answer, false), tokenSchema, 'Gatefold token').access_token);
  };
  const call = async ({ path, headers, ...request }: Omit<HttpRequest, 'url'> & { path: string }) => {
    const send = async (bearer: string) =>
      http({ ...request, url: `${address}/api${path}`, headers: { ...headers, authorization: `Bearer ${bearer}` } });
    const first = await send(token ?? (await signIn()));
    return first.status === 401 ? send(await signIn()) : first;
  };
  return { call };
}
