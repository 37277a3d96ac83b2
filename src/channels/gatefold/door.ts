import { z } from 'zod';
import { currencies, parsePrice } from '@/core/base/money';
import type { Wire } from '@/core/listing/channel-rules';
import { hookSecret } from '../kit/hooks';
import type { Connection, Door, Remote, Sending } from '../kit/kind';
import type { KeptThere } from '../kit/kept';
import { accepted, onceAt, OutsideError, pageOf, readAnswer, sentOnce, type Http, type HttpRequest } from '../kit/http';

const listingSchema = z.looseObject({ id: z.string(), url: z.string(), state: z.string() });
const tokenSchema = z.object({ access_token: z.string(), expires_in: z.number() });
const venueSchema = z.object({ code: z.string() });
const json = { 'content-type': 'application/json' };
/** The verb that leads to each state. */
const verbs: Record<string, string> = { open: 'open', unlisted: 'open-unlisted', closed: 'close' };

/**
 * Gatefold speaks REST with OAuth2 client credentials (RFC 6749, section 4.4) and an Idempotency-Key for every write.
 */
export const door: Door = (connection, http, kept) => {
  const call = makeSession(connection, http);
  const remoteOf = ({ id, url }: z.infer<typeof listingSchema>): Remote => ({
    id,
    publicUrl: url,
    etag: null,
    link: url,
    lapsesAt: null,
  });
  const write = async (method: 'POST' | 'PATCH', path: string, body: unknown, key: string) => {
    const headers = { ...json, 'idempotency-key': key };
    return readAnswer(
      accepted(await call({ method, path, body: JSON.stringify(body), headers }), true),
      listingSchema,
      'Gatefold listing',
    );
  };
  const upload = ({ pictures }: Sending) =>
    sentOnce(kept, pictures, async ({ name, bytes }) => {
      const headers = { 'content-type': 'image/jpeg' };
      accepted(await call({ method: 'PUT', path: `/images/${name}`, headers, body: bytes, repeatable: true }), false);
    });
  const bring = (remote: Remote, verb: string, { key, reason }: Sending) =>
    write('POST', `/listings/${remote.id}/${verb}`, { reason }, `${key}-${verb}`).then(remoteOf);
  const stateTo = (remote: Remote, wanted: unknown, sending: Sending) =>
    bring(remote, verbs[String(wanted)] ?? 'close', sending);

  return {
    async place(wire, sending) {
      await payable(call, wire);
      await hooked(call, kept, connection.hook);
      await upload(sending);
      const { state, ...draft } = await withVenue(call, kept, wire);
      const made = await write('POST', '/listings', { ...draft, external_id: sending.reference }, sending.key);
      // What stays a draft is not opened.
      return state === 'draft' ? remoteOf(made) : stateTo(remoteOf(made), state, sending);
    },
    async amend(remote, wire, sending) {
      await upload(sending);
      const { state, ...fields } = await withVenue(call, kept, wire);
      let now = remote;
      if (Object.keys(fields).length > 0)
        now = remoteOf(await write('PATCH', `/listings/${remote.id}`, fields, sending.key));
      return state === undefined || state === 'draft' ? now : stateTo(remote, state, sending);
    },
    unpublish: (remote, sending) => bring(remote, 'close', sending),
    cancel: (remote, sending) => bring(remote, 'cancel', sending),
    reschedule: async (remote, { sessions }, { key, reason }) =>
      remoteOf(await write('POST', `/listings/${remote.id}/reschedule`, { sessions, reason }, `${key}-reschedule`)),
    async fetch(remote, { page }) {
      const answer = await call({ method: 'GET', path: `/listings/${remote.id}` });
      if (answer.status === 404) return null;
      const listing = readAnswer(accepted(answer, false), listingSchema, 'Gatefold listing');
      return { wire: listing, page: page ? await pageOf(http, listing.url) : null, remote: remoteOf(listing) };
    },
    async find(reference) {
      const path = `/listings?external_id=${encodeURIComponent(reference)}`;
      const answer = accepted(await call({ method: 'GET', path }), false);
      return readAnswer(answer, z.array(listingSchema), 'Gatefold listings').map(remoteOf);
    },
    trial: (remote, which, { key }) => tryPurchase(call, remote, which, key),
    async greet() {
      const answer = accepted(await call({ method: 'GET', path: '/account' }), false);
      return readAnswer(answer, accountSchema, 'Gatefold account').seller;
    },
  };
};

const trialSchema = z.object({
  id: z.string(),
  buyer_pays: z.string().max(20),
  currency: z.enum(currencies),
  starts_at: z.iso.datetime(),
  timezone: z.string().max(60),
  letter: z.string().max(2000),
});
/** Buys one ticket to try it, and has it paid back at once: it counts nowhere. */
async function tryPurchase(
  call: Call,
  { id }: Remote,
  { performance, level }: { performance: string; level: string },
  key: string,
) {
  const body = JSON.stringify({ session: performance, level });
  const headers = { ...json, 'idempotency-key': `${key}-trial` };
  const answer = accepted(await call({ method: 'POST', path: `/listings/${id}/trial`, body, headers }), true);
  const order = readAnswer(answer, trialSchema, 'Gatefold trial');
  accepted(await call({ method: 'DELETE', path: `/trials/${order.id}`, headers: json, tellsNothing: true }), false);
  const minor = parsePrice(order.buyer_pays, order.currency);
  if (minor === null) throw new OutsideError('invalid', `Gatefold trial: ${order.buyer_pays} is no price`);
  return {
    pays: { minor, currency: order.currency },
    starts: Date.parse(order.starts_at),
    zone: order.timezone,
    letter: order.letter,
  };
}

const hookSchema = z.object({ id: z.string(), secret: z.string().min(16).max(200) });

/**
 * Tells the marketplace once where it may call us when something is sold; each call is signed with the secret that it
 * gives.
 */
async function hooked(call: Call, kept: KeptThere, url: string | undefined): Promise<void> {
  if (url === undefined || kept.get(hookSecret, 'address') === url) return;
  await onceAt(kept, hookSecret, async () => {
    const body = JSON.stringify({ url });
    const answer = await call({ method: 'PUT', path: '/hooks', body, headers: json, repeatable: true });
    kept.put(hookSecret, 'secret', readAnswer(accepted(answer, false), hookSchema, 'Gatefold hook').secret);
    kept.put(hookSecret, 'address', url);
  });
}

/**
 * Before anything is sold for money the account is asked whether it can be paid out: what is sold and cannot be is
 * worse than no sale.
 */
async function payable(call: Call, { levels }: Wire): Promise<void> {
  const priced = levelsSchema.safeParse(levels);
  if (!priced.success || priced.data.every((candidate) => Number(candidate.face) === 0)) return;
  const answer = accepted(await call({ method: 'GET', path: '/account' }), false);
  const { payout, tax } = readAnswer(answer, accountSchema, 'Gatefold account');
  if (tax !== 'settled')
    throw new OutsideError(
      'not-allowed',
      `the account’s tax is not settled (${tax}). Give its tax number there, then send it again`,
    );
  if (payout === 'ready') return;
  throw new OutsideError(
    'not-allowed',
    `the account cannot be paid out (${payout}). Give a bank account there, then send it again`,
  );
}

const levelsSchema = z.array(z.looseObject({ face: z.string() }));
const accountSchema = z.looseObject({ seller: z.string(), payout: z.string().max(60), tax: z.string().max(60) });

type Call = (request: Omit<HttpRequest, 'url'> & { path: string }) => ReturnType<Http>;

/**
 * Puts the register's own code in the place of the venue's name, entering the venue where it is unknown; once for each
 * name.
 */
async function withVenue(call: Call, kept: KeptThere, { venue, ...rest }: Wire): Promise<Wire> {
  const { street } = rest;
  if (typeof venue !== 'string') return rest;
  const known = kept.get('venue', venue);
  if (known !== null) return { ...rest, venue_code: known };
  const code = await onceAt(kept, `venue ${venue}`, async () => {
    const found = await call({ method: 'GET', path: `/venues?label=${encodeURIComponent(venue)}` });
    const body = JSON.stringify({ label: venue, ...(typeof street === 'string' ? { street } : {}) });
    const enter = () => call({ method: 'POST', path: '/venues', body, headers: json, repeatable: true });
    const answer = found.status === 404 ? await enter() : found;
    const made = readAnswer(accepted(answer, false), venueSchema, 'Gatefold venue').code;
    kept.put('venue', venue, made);
    return made;
  });
  return { ...rest, venue_code: code };
}

/** Keeps a token, asks for one when there is none, and once more when the one we have is refused. */
function makeSession({ address, credentials }: Connection, http: Http): Call {
  let token: Promise<string> | null = null;
  const signIn = async (): Promise<string> => {
    const form = new URLSearchParams({
      grant_type: 'client_credentials',
      client_id: credentials.clientId ?? '',
      client_secret: credentials.clientSecret ?? '',
    });
    const headers = { 'content-type': 'application/x-www-form-urlencoded' };
    const answer = await http({
      method: 'POST',
      url: `${address}/oauth/token`,
      headers,
      body: form.toString(),
      tellsNothing: true,
    });
    return readAnswer(accepted(answer, false), tokenSchema, 'Gatefold token').access_token;
  };
  const held = () =>
    (token ??= signIn().catch((error: unknown) => {
      token = null;
      throw error;
    }));
  return async ({ path, headers, ...request }) => {
    const send = async (bearer: string) =>
      http({ ...request, url: `${address}/api${path}`, headers: { ...headers, authorization: `Bearer ${bearer}` } });
    const mine = held();
    const first = await send(await mine);
    if (first.status !== 401) return first;
    if (token === mine) token = null;
    return send(await held());
  };
}
