import { randomBytes } from 'node:crypto';
import { Hono, type Context } from 'hono';
import { html } from 'hono/html';
import { z } from 'zod';
import { draftSchema } from './listing-schema';
import type { Outside } from '../../outside';
import type { Service } from '../../stand-in';
import { ownerPages } from '../../entries';
import { onceByKey } from '../../once-by-key';
import { eventLd, type EventData } from '../../ld';
import { asHtml, page, readLocal, say, stamp } from '../../page';

const shelf = 'gatefold';
const tokenLifeMs = 30 * 60_000;
const perSecond = 5;
const reasonSchema = z.object({ reason: z.string().max(400).default('') });
const rescheduleSchema = z.object({
  reason: z.string().min(1, 'say why').max(400),
  sessions: draftSchema.shape.sessions,
});
type Listing = z.infer<typeof draftSchema> & {
  state: 'draft' | 'open' | 'unlisted' | 'closed' | 'cancelled';
  /** What those who bought were written, one line each. */
  letters?: string[];
  sold: number;
  sales: Record<string, number>;
  /** Orders by the source that their link named. */
  by_source?: Record<string, number>;
  /** Whose listing it is. */
  account?: string;
};

/** Where buyers of the simulated public come from: what the links that they follow say. */
const cameFrom = ['lectern', 'hearthside', 'fernway', 'concourse', ''];

/** Notes by which link they came who bought. */
function cameBy({ sold, by_source: before = {} }: Listing, now: number, source: string) {
  return now === sold ? {} : { by_source: { ...before, [source]: (before[source] ?? 0) + now - sold } };
}

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
function gatefold({ store, clock, base, callBack }: Outside) {
  const app = new Hono({ strict: false });
  const api = new Hono();
  const tokens = new Map<string, { until: number; account: string }>();
  const calls = new Map<string, number[]>();
  const held = (header: string | undefined) => tokens.get(/^Bearer (.+)$/.exec(header ?? '')?.[1] ?? '');
  const labelOf = (code: string) => store.get<{ label: string }>('gatefold-venues', code)?.body.label ?? '';
  const shown = (id: string, { venue_code: code, account: _, ...rest }: Listing) => ({
    ...rest,
    id,
    venue: labelOf(code),
    url: `${base}/${shelf}/e/${id}`,
  });

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
    const { label } = z.object({ label: z.string().min(1) }).parse(await c.req.json());
    const known = store.find('gatefold-venues', label)[0];
    return c.json({ code: (known ?? store.make('gatefold-venues', label, { label })).id }, 201);
  });
  api.get('/listings', (c) =>
    c.json(store.find<Listing>(shelf, c.req.query('external_id') ?? '').map((thing) => shown(thing.id, thing.body))),
  );
  api.get('/listings/:id', (c) => {
    const found = store.get<Listing>(shelf, c.req.param('id'));
    return found ? c.json(shown(found.id, found.body)) : c.json({ message: 'no such listing' }, 404);
  });
  /** Does a write once for each key, and gives the same answer again. */
  const once = async (
    c: Context,
    work: (body: unknown) => { status: 200 | 201 | 404 | 409 | 422 | 423; body: object },
  ) => {
    const key = c.req.header('idempotency-key');
    if (!key) return c.json({ message: 'Idempotency-Key is needed' }, 400);
    const body: unknown = await c.req.json();
    const answer = onceByKey(store, shelf, key, [c.req.path, body], () => work(body));
    return c.json(answer.body, answer.status);
  };
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
      const pays = Number(level.face) + (found.body.absorb_fee ? 0 : feeOf(Number(level.face)));
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
          letter: `Your ticket for ${found.body.name}: ${at}, ${found.body.room ? `${found.body.room}, ` : ''}${labelOf(found.body.venue_code)}. ${level.name}, ${pays.toFixed(2)} ${level.currency}.`,
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
  app.route('/api', api);

  app.get('/images/:file', (c) => {
    const bytes = store.media(shelf, c.req.param('file'));
    return bytes ? c.body(new Uint8Array(bytes), 200, { 'content-type': 'image/jpeg' }) : c.notFound();
  });
  app.get('/', (c) =>
    c.html(
      page(
        'Gatefold',
        style,
        html`<header>Gatefold</header>
          <main>
            <h1>On sale</h1>
            ${store
              .list<Listing>(shelf)
              .filter((thing) => thing.body.state === 'open')
              .map(
                ({ id, body }) =>
                  html`<a class="row" href="/gatefold/e/${id}"><b>${body.name}</b><span>${firstStart(body)}</span></a>`,
              )}
          </main>`,
      ),
    ),
  );
  app.get('/e/:id', (c) => {
    const found = store.get<Listing>(shelf, c.req.param('id'));
    if (!found || found.body.state === 'draft' || found.body.state === 'closed')
      return c.html(page('Not on sale', style, html`<main><h1>Not on sale</h1></main>`), 404);
    const { body } = found;
    const venue = labelOf(body.venue_code);
    const url = `${base}/${shelf}/e/${found.id}`;
    const data: EventData = {
      name: body.name,
      url,
      dates: body.sessions.map((s) => ({
        start: Date.parse(s.starts_at),
        end: s.ends_at ? Date.parse(s.ends_at) : null,
      })),
      place: [body.room, venue].filter(Boolean).join(', '),
      offer: url,
      prices: body.levels.filter((l) => !l.hidden).map((l) => ({ name: l.name, price: l.face, currency: l.currency })),
      cancelled: body.state === 'cancelled',
      image: body.banner ? `${base}/${shelf}/images/${body.banner.file}` : null,
      about: body.summary,
    };
    return c.html(eventPage(body, venue, data, (c.req.query('via') ?? '').slice(0, 60)));
  });
  // A member of the public buys one, from the first level that is open.
  app.post('/e/:id', (c) => {
    const found = store.get<Listing>(shelf, c.req.param('id'));
    const { state } = found?.body ?? { state: 'draft' };
    if (!found || (state !== 'open' && state !== 'unlisted')) return c.text('Not on sale', 404);
    const sale = sell(found.body, 1);
    const via = (c.req.query('via') ?? '').slice(0, 60);
    if (sale.sold === found.body.sold)
      return c.html(page('Sold out', style, html`<main><h1>Sold out</h1></main>`), 409);
    store.change(shelf, found.id, { ...found.body, ...sale, ...cameBy(found.body, sale.sold, via) });
    callBack(shelf, found.body.account ?? 'gatefold-client', found.reference ?? '');
    return c.html(page('Bought', style, html`<main><h1>It is yours</h1><p>${found.body.name}</p></main>`));
  });
  // What the account still lacks before it can be paid out, and before its tax is in order; `ready` and `settled`:
  // nothing.
  app.post('/owner/payout', async (c) => {
    const word = z.string().min(1).max(60).optional();
    const { payout, tax } = z.object({ payout: word, tax: word }).parse(await c.req.parseBody());
    if (payout) store.putSetting('gatefold-payout', payout);
    if (tax) store.putSetting('gatefold-tax', tax);
    return c.json({ payout, tax });
  });
  const sells = (count: number) => ({
    label: ({ sold }: Listing) => (count === 1 ? `Sell a ticket (${sold} sold)` : `Sell ${count}`),
    does(body: Listing, { reference }: { reference: string | null }) {
      callBack(shelf, body.account ?? 'gatefold-client', reference ?? '');
      const sale = sell(body, count);
      return { ...body, ...sale, ...cameBy(body, sale.sold, cameFrom[body.sold % cameFrom.length] ?? '') };
    },
  });
  ownerPages<Listing>(app, {
    store,
    shelf,
    name: 'Gatefold',
    row: ({ body }) => ({ title: body.name, state: `${body.state}, ${body.sold} sold` }),
    fields: ({ name, summary, sessions: [first] }) => [
      { name: 'name', label: 'Title', value: name },
      { name: 'summary', label: 'Summary', value: summary ?? '', long: true },
      {
        name: 'starts',
        label: 'First session starts',
        value: first ? say(Date.parse(first.starts_at), first.timezone, 'YYYY-MM-DD HH:mm') : '',
      },
    ],
    edit(body, { name = '', summary = '', starts = '' }) {
      const at = readLocal(starts, body.sessions[0]?.timezone ?? 'UTC');
      if (at === null) return `“${starts}” is no date and time; write 2027-02-04 20:00`;
      const sessions = body.sessions.map((session, i) =>
        i === 0 ? { ...session, starts_at: `${stamp(at).slice(0, 19)}Z` } : session,
      );
      return { ...body, name, summary, sessions };
    },
    dates: 'sessions',
    acts: { sell: sells(1), 'sell-ten': sells(10) },
  });
  return app;
}

/** 4.5 per cent and 0.60, nine at most; of nothing, nothing. In whole cents, halves away from zero. */
function feeOf(face: number): number {
  return face === 0 ? 0 : Math.min(900, Math.floor((Math.round(face * 100) * 450 + 5_000) / 10_000) + 60) / 100;
}

/** Seats of a session that are taken: by what was sold for it, and by passes that let in to it. */
function taken({ levels, sales }: Listing, session: string): number {
  return Object.entries(sales).reduce((sum, [key, n]) => {
    const [at = '', level = ''] = key.split('|');
    const covers = levels.find((candidate) => candidate.external_id === level)?.admits_to;
    return sum + (at === session || (Array.isArray(covers) && covers.includes(session)) ? n : 0);
  }, 0);
}

/**
 * Sells to the public for the first session, from the first open level on, as far as there are any: of each level, and
 * of all together.
 */
function sell(listing: Listing, count: number): Pick<Listing, 'sold' | 'sales'> {
  const { sessions, levels, sold } = listing;
  const session = sessions[0]?.external_id ?? '';
  const next = { ...listing.sales };
  let more = 0;
  for (const level of levels.filter((level) => !level.hidden)) {
    const gone = next[`${session}|${level.external_id}`] ?? 0;
    const covered = Array.isArray(level.admits_to) ? level.admits_to : [session];
    const room = Math.min(
      ...sessions
        .filter((session) => covered.includes(session.external_id))
        .map((session) => (session.total ?? Infinity) - taken({ ...listing, sales: next }, session.external_id)),
    );
    const here = Math.max(0, Math.min(count - more, room, (level.quantity ?? Infinity) - gone));
    if (here > 0) next[`${session}|${level.external_id}`] = gone + here;
    more += here;
  }
  return { sold: sold + more, sales: next };
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
    JSON.stringify(item.levels.map((l) => [l.face, l.currency, l.admits_to ?? null]));
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

const style = `
body { background: #eef3fb; color: #14213d } header { padding: 14px 7vw; background: #14213d; color: #ffd9a0; font: 700 20px Mono } main { max-width: 900px; margin: 30px auto; background: #fff; padding: 30px 36px }
h1 { font: 700 34px/1.1 Text; margin: 16px 0 4px } .row { display: flex; justify-content: space-between; padding: 11px 0; border-bottom: 1px dashed #9fb2d6; text-decoration: none } .stub { border-top: 2px dashed #9fb2d6; margin-top: 22px; padding-top: 14px }
.lvl { display: flex; justify-content: space-between; font: 500 17px Mono; padding: 6px 0 } .buy { background: #14213d; color: #ffd9a0; padding: 11px 22px; display: inline-block; margin-top: 12px; font-weight: 600 } .dim { color: #52618a }
`;
const firstStart = (listing: Listing) =>
  listing.sessions[0]
    ? say(Date.parse(listing.sessions[0].starts_at), listing.sessions[0].timezone, 'ddd D MMM, HH:mm')
    : '';

function eventPage(listing: Listing, venue: string, data: EventData, via: string) {
  return page(
    listing.name,
    style,
    html`<header>Gatefold</header>
      <main>
        ${eventLd(data)}
        ${listing.banner ? html`<img src="/gatefold/images/${listing.banner.file}" alt="${listing.banner.alt}" />` : ''}
        <h1>${listing.name}</h1>
        <p class="dim">${listing.summary ?? ''}</p>
        ${listing.sessions.map(
          (s) =>
            html`<p>
              <b
                ><time datetime="${stamp(Date.parse(s.starts_at))}"
                  >${say(Date.parse(s.starts_at), s.timezone)}</time
                ></b
              >
              ${s.doors_at ? html` · doors ${say(Date.parse(s.doors_at), s.timezone, 'HH:mm')}` : ''}${s.ends_at ? html` · until ${say(Date.parse(s.ends_at), s.timezone, 'HH:mm')}` : ''}
            </p>`,
        )}
        <p>${listing.room ? `${listing.room}, ` : ''}${venue}</p>
        ${asHtml(listing.description ?? '')}
        <div class="stub">
          ${listing.extras.map((e) => html`<div class="lvl"><span>+ ${e.name}</span><span>${e.face} ${e.currency}</span></div>`)}${listing.levels.filter((l) => !l.hidden).map((l) => html`<div class="lvl"><span>${l.name}${l.about ? html` <small>${l.about}</small>` : ''}${l.admits_to ? html` <small>${Array.isArray(l.admits_to) ? `for ${l.admits_to.length} dates` : `for any ${l.admits_to.any} dates`}</small>` : ''}</span><span>${l.face} ${l.currency}</span></div>`)}<form method="post" action="${data.url}${via === '' ? '' : `?via=${encodeURIComponent(via)}`}"><button class="buy">Buy one ticket</button></form>
        </div>
      </main>`,
  );
}
