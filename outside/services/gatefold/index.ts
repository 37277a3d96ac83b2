import { randomBytes } from 'node:crypto';
import { z } from 'zod';
import { draftSchema } from './listing-schema';
import type { Outside } from '../../outside';
import type { Service } from '../../stand-in';
import { say } from '../../page';
import { shelf, type Listing, cameFrom, cameBy, type Seller, sellerOf, paysFor, taken, sell } from './seller';
import { publicPages, ownerSide } from './pages';

const tokenLifeMs = 30 * 60_000;
const perSecond = 5;
const reasonSchema = z.object({ reason: z.string().max(400).default('') });
const rescheduleSchema = z.object({
  reason: z.string().min(1, 'say why').max(400),
  sessions: draftSchema.shape.sessions,
});
/**
 * Sells so many tickets, one after the other, of whatever is open: which, by chance. Each order is called out to whose
 * listing it is.
 */
function sellSome({ store, callBack }: Outside, count: number, chance: () => number): number {
  let sold = 0;
  for (let n = 0; n < count; n += 1) {
    const open = store
      .list<Listing>(shelf)
      .filter((thing) => thing.body.state === 'open' || thing.body.state === 'unlisted');
    const found = open[Math.floor(chance() * open.length)];
    if (!found) break;
    const sale = sell(found.body, 1 + Math.floor(chance() * 3));
    const next = {
      ...found.body,
      ...sale,
      ...cameBy(found.body, sale.sold, cameFrom[Math.floor(chance() * cameFrom.length)] ?? ''),
    };
    if (next.sold === found.body.sold) continue;
    sold += next.sold - found.body.sold;
    store.change(shelf, found.id, next);
    callBack(shelf, found.body.account ?? 'gatefold-client', found.reference ?? '');
  }
  return sold;
}

export const service: Service = {
  make: gatefold,
  sell: sellSome,
  accounts(once, secret) {
    const [clientId = '', clientSecret = ''] = once('gatefold-client', () => `tallow-yard:${secret()}`).split(':');
    const [theirId = '', theirSecret = ''] = once('gatefold-client-2', () => `lodestar-finch:${secret()}`).split(':');
    return {
      gatefold: { clientId, clientSecret },
      'gatefold-2': { clientId: theirId, clientSecret: theirSecret },
    };
  },
};

/** The ticketing marketplace: OAuth2 client credentials, Idempotency-Key, five requests a second. */
function gatefold(outside: Outside) {
  const seller = sellerOf(outside);
  const { app, api } = seller;
  signIn(seller);
  accountCalls(seller);
  readingCalls(seller);
  writingCalls(seller);
  stateCalls(seller);
  trialCalls(seller);
  app.route('/api', api);
  publicPages(seller);
  ownerSide(seller);
  return app;
}
/** Tokens for an account, and the pace that each account is held to. */
function signIn({ app, store, tokens, clock, api, held, calls }: Seller): void {
  app.post('/oauth/token', async (c) => {
    const form = await c.req.parseBody();
    const given = `${String(form.client_id)}:${String(form.client_secret)}`;
    const account = ['gatefold-client', 'gatefold-client-2'].find((name) => store.setting(name) === given);
    if (account === undefined) return c.json({ message: 'unknown client' }, 401);
    const token = randomBytes(18).toString('base64url');
    tokens.set(token, { until: clock.now() + tokenLifeMs, account });
    return c.json({ access_token: token, token_type: 'Bearer', expires_in: tokenLifeMs / 1000 });
  });
  api.use(async (c, next) => {
    const token = held(c.req.header('authorization'));
    const now = clock.now();
    if (token === undefined || token.until < now)
      return c.json({ message: 'the token is unknown or has expired' }, 401);
    // Each account has a pace of its own.
    const lately = (calls.get(token.account) ?? []).filter((at) => Math.abs(now - at) < 1000);
    calls.set(token.account, lately);
    if (lately.length >= perSecond) {
      c.header('retry-after', '1');
      return c.json({ message: 'five requests a second' }, 429);
    }
    lately.push(now);
    return next();
  });
}

/** The account, where it is to be called, its pictures and its register of venues. */
function accountCalls({ api, held, store }: Seller): void {
  api.get('/account', (c) =>
    c.json({
      seller:
        held(c.req.header('authorization'))?.account === 'gatefold-client-2'
          ? 'Lodestar & Finch'
          : 'Tallow Yard box office',
      payout: store.setting('gatefold-payout') ?? 'ready',
      tax: store.setting('gatefold-tax') ?? 'settled',
    }),
  );
  api.put('/hooks', async (c) => {
    const read = z.object({ url: z.url() }).safeParse(await c.req.json());
    if (!read.success) return c.json({ message: 'that is no address', field: 'url' }, 422);
    const account = held(c.req.header('authorization'))?.account ?? '';
    const secret = store.setting(`${account}-hook-secret`) ?? randomBytes(24).toString('base64url');
    store.putSetting(`${account}-hook-secret`, secret);
    store.putSetting(`${account}-hook`, read.data.url);
    return c.json({ id: account, secret });
  });
  api.put('/images/:file', async (c) => {
    store.putMedia(shelf, c.req.param('file'), Buffer.from(await c.req.arrayBuffer()));
    return c.json({ file: c.req.param('file') }, 201);
  });
  api.get('/venues', (c) => {
    const found = store.find('gatefold-venues', c.req.query('label') ?? '')[0];
    return found ? c.json({ code: found.id }) : c.json({ message: 'not in the register' }, 404);
  });
  api.post('/venues', async (c) => {
    const { label, street } = z
      .object({ label: z.string().min(1), street: z.string().max(300).default('') })
      .parse(await c.req.json());
    const known = store.find('gatefold-venues', label)[0];
    return c.json({ code: (known ?? store.make('gatefold-venues', label, { label, street })).id }, 201);
  });
}

/** Listings as they stand. */
function readingCalls({ api, store, shown }: Seller): void {
  api.get('/listings', (c) =>
    c.json(store.find<Listing>(shelf, c.req.query('external_id') ?? '').map((thing) => shown(thing.id, thing.body))),
  );
  api.get('/listings/:id', (c) => {
    const found = store.get<Listing>(shelf, c.req.param('id'));
    return found ? c.json(shown(found.id, found.body)) : c.json({ message: 'no such listing' }, 404);
  });
}

/** Listings entered and changed, each write once for its key. */
function writingCalls({ api, once, store, held, shown }: Seller): void {
  api.post('/listings', (c) =>
    once(c, (body) => {
      const parsed = draftSchema.safeParse(body);
      if (!parsed.success) return { status: 422, body: refusal(parsed.error) };
      const reference = z.object({ external_id: z.string() }).parse(body).external_id;
      const made = store.make<Listing>(shelf, reference, {
        ...parsed.data,
        state: 'draft',
        sold: 0,
        sales: {},
        account: held(c.req.header('authorization'))?.account ?? 'gatefold-client',
      });
      return { status: 201, body: shown(made.id, made.body) };
    }),
  );
  api.patch('/listings/:id', (c) =>
    once(c, (body) => {
      const found = store.get<Listing>(shelf, c.req.param('id') ?? '');
      if (!found) return { status: 404, body: { message: 'no such listing' } };
      const parsed = draftSchema.safeParse({ ...found.body, ...(body as object) });
      if (!parsed.success) return { status: 422, body: refusal(parsed.error) };
      const locked = found.body.sold > 0 ? lockedField(found.body, parsed.data) : null;
      if (locked !== null)
        return {
          status: 423,
          body: { message: `${found.body.sold} sold: ${locked} is locked since the first sale`, field: locked },
        };
      const next = {
        ...parsed.data,
        state: found.body.state,
        sold: found.body.sold,
        sales: found.body.sales,
        ...(found.body.by_source ? { by_source: found.body.by_source } : {}),
        ...(found.body.account ? { account: found.body.account } : {}),
        ...(found.body.letters ? { letters: found.body.letters } : {}),
      };
      store.change(shelf, found.id, next);
      return { status: 200, body: shown(found.id, next) };
    }),
  );
}

/** The steps that change how far a listing is seen, or when it is. */
function stateCalls({ api, once, store, shown }: Seller): void {
  const verbs = { open: 'open', 'open-unlisted': 'unlisted', close: 'closed', cancel: 'cancelled' } as const;
  for (const [verb, state] of Object.entries(verbs)) {
    api.post(`/listings/:id/${verb}`, (c) =>
      once(c, (body) => {
        const found = store.get<Listing>(shelf, c.req.param('id') ?? '');
        if (!found) return { status: 404, body: { message: 'no such listing' } };
        if (found.body.state === 'cancelled' && state !== 'cancelled')
          return { status: 423, body: { message: 'it is cancelled, which is for ever', field: 'state' } };
        const reason = reasonSchema.safeParse(body).data?.reason ?? '';
        if (state === 'cancelled' && reason === '')
          return { status: 422, body: { message: 'say why it is cancelled', field: 'reason' } };
        const letters =
          state === 'cancelled' ? [...(found.body.letters ?? []), `cancelled: ${reason}`] : found.body.letters;
        const next = { ...found.body, state, ...(letters ? { letters } : {}) };
        store.change(shelf, found.id, next);
        return { status: 200, body: shown(found.id, next) };
      }),
    );
  }
  // Dates of what is sold already move by a step of its own, which writes to everybody who bought.
  api.post('/listings/:id/reschedule', (c) =>
    once(c, (body) => {
      const found = store.get<Listing>(shelf, c.req.param('id') ?? '');
      if (!found) return { status: 404, body: { message: 'no such listing' } };
      const asked = rescheduleSchema.safeParse(body);
      if (!asked.success) return { status: 422, body: refusal(asked.error) };
      const sessions = asked.data.sessions;
      const missing = found.body.sessions.some(
        (session) => !sessions.some((other) => other.external_id === session.external_id),
      );
      if (missing)
        return { status: 422, body: { message: 'a session that is sold cannot be left out', field: 'sessions' } };
      const next = {
        ...found.body,
        sessions,
        letters: [...(found.body.letters ?? []), `rescheduled: ${asked.data.reason}`],
      };
      store.change(shelf, found.id, next);
      return { status: 200, body: shown(found.id, next) };
    }),
  );
}

/** Purchases to try it: paid, paid back, and counted nowhere. */
function trialCalls({ api, once, store, labelOf }: Seller): void {
  // An order of its owner's own, marked as a trial: it is paid and paid back, and counts nowhere.
  api.post('/listings/:id/trial', (c) =>
    once(c, (body) => {
      const found = store.get<Listing>(shelf, c.req.param('id') ?? '');
      if (!found) return { status: 404, body: { message: 'no such listing' } };
      const asked = z.object({ session: z.string(), level: z.string() }).safeParse(body);
      const session = found.body.sessions.find((session) => session.external_id === asked.data?.session);
      const level = found.body.levels.find((level) => level.external_id === asked.data?.level);
      if (!session || !level) return { status: 422, body: { message: 'name a session and a level', field: 'session' } };
      if (found.body.state === 'closed' || found.body.state === 'cancelled')
        return { status: 423, body: { message: `it is ${found.body.state}: nothing can be bought`, field: 'state' } };
      const pays = paysFor(found.body, Number(level.face));
      const at = say(Date.parse(session.starts_at), session.timezone);
      const order = store.make('gatefold-trials', found.id, { state: 'paid' });
      return {
        status: 201,
        body: {
          id: order.id,
          buyer_pays: pays.toFixed(2),
          currency: level.currency,
          starts_at: session.starts_at,
          timezone: session.timezone,
          letter: `Your ticket for ${found.body.name}: ${at}, ${found.body.room ? `${found.body.room}, ` : ''}${labelOf(found.body.venue_code)}. ${level.name}, ${pays.toFixed(2)} ${level.currency}.${found.body.letter_words ? ` ${found.body.letter_words}` : ''}`,
        },
      };
    }),
  );
  api.delete('/trials/:id', (c) => {
    const found = store.get<{ state: string }>('gatefold-trials', c.req.param('id'));
    if (!found) return c.json({ message: 'no such order' }, 404);
    store.change('gatefold-trials', found.id, { state: 'paid back' });
    return c.json({ id: found.id, state: 'paid back' });
  });
}
/** The first field that may not change any more once a ticket is sold. */
function lockedField(before: Listing, after: z.infer<typeof draftSchema>): string | null {
  // What is new was never sold: it may come beside what is.
  const times = (item: { sessions: Listing['sessions'] }) =>
    JSON.stringify(
      before.sessions.map(({ external_id: id }) => {
        const s = item.sessions.find((session) => session.external_id === id);
        return s ? [s.starts_at, s.ends_at ?? null, s.timezone] : null;
      }),
    );
  if (times(before) !== times(after)) return 'sessions';
  const prices = (item: { levels: Listing['levels'] }) =>
    JSON.stringify(
      item.levels.map((l) => [l.face, l.currency, l.admits_to ?? null, l.lets_in ?? 1, l.open_price ?? false]),
    );
  if (prices(before) !== prices(after)) return 'levels';
  if (after.sessions.some((session) => (session.total ?? Infinity) < taken(before, session.external_id)))
    return 'total';
  const fewer = after.levels.some((level, i) => (level.quantity ?? Infinity) < (before.levels[i]?.quantity ?? 0));
  return fewer ? 'quantity' : null;
}

function refusal(error: z.ZodError) {
  const issue = error.issues[0];
  return { message: issue?.message ?? 'not accepted', field: issue?.path.join('.') ?? '' };
}
