import { Hono } from 'hono';
import { html } from 'hono/html';
import { z } from 'zod';
import type { Outside } from '../../outside';
import type { Service } from '../../stand-in';
import { entriesApi, ownerPages, plainRefusal } from '../../entries';
import { eventLd } from '../../ld';
import { page, readLocal, say } from '../../page';

export const shelf = 'fernway';
const wall = z
  .string()
  .max(30)
  .regex(/^\d{4}-\d\d-\d\d \d\d:\d\d( \(2\))?$/);
const dateSchema = z.looseObject({
  heading: z.string().max(90).nullish(),
  lineup: z.string().max(200).nullish(),
  venue_name: z.string().min(1).max(120),
  town: z.string().min(1).max(120),
  street: z.string().max(300).nullish(),
  ticket_url: z.url().nullish(),
  ticket_kind: z.enum(['general', 'presale']).nullish(),
  note: z.string().max(120).nullish(),
  status: z.enum(['draft', 'published', 'hidden']).default('draft'),
  publish_at: z.number().nullish(),
  tell_followers: z.boolean().default(true),
  dates: z
    .array(
      z.object({
        tag: z.string(),
        starts: wall,
        ends: wall.nullish(),
        doors: wall.nullish(),
        zone: z.string(),
        standing: z.enum(['cancelled', 'postponed']).nullish(),
      }),
    )
    .length(1, 'an entry has one date'),
});
export type TourDate = z.infer<typeof dateSchema> & { profile?: string; at?: number; told?: number };

/** The artists who have a profile here, by its id. */
export const artists: Record<string, string> = {
  'fw-ninefold': 'The Ninefold Choir',
  'fw-odalys': 'Odalys Quarry',
  'fw-brindle': 'Brindle & the Tollkeepers',
};

export const service: Service = {
  make: fernway,
  accounts: (once, secret) =>
    Object.fromEntries(
      Object.keys(artists).map((profile, i) => [
        i === 0 ? 'fernway' : `fernway-${i + 1}`,
        { profile, key: once(`fernway-key-${profile}`, secret) },
      ]),
    ),
};

/** The start of a date as an instant, by its wall clock and zone. */
export function startOf({ dates: [first] }: Pick<TourDate, 'dates'>): number {
  return first ? (readLocal(first.starts.slice(0, 16), first.zone) ?? 0) : 0;
}

/** The register of tour dates: REST with a key for each artist. A wrong profile id is taken, and goes nowhere. */
function fernway(outside: Outside) {
  const register = registerOf(outside);
  const { app, api } = register;
  artistCalls(register);
  app.route('/api', api);
  publicPages(register);
  ownerSide(register);
  return app;
}

type Register = ReturnType<typeof registerOf>;

/** The register, and what its parts share. */
function registerOf({ store, clock, base }: Outside) {
  const app = new Hono({ strict: false });
  const api = new Hono();
  const urlOf = (id: string) => `${base}/${shelf}/d/${id}`;
  const seen = ({ profile = '', status, publish_at: later }: TourDate) =>
    artists[profile] !== undefined &&
    (status === 'published' || (status === 'draft' && later != null && later <= clock.now()));
  const tells = ({ status, tell_followers: tell }: TourDate) => tell && status === 'published';
  const whose = (key: string | undefined) =>
    Object.keys(artists).find((candidate) => key === store.setting(`fernway-key-${candidate}`));
  return { api, whose, store, clock, tells, urlOf, seen, app };
}

/** The interface: dates of an artist, by the artist’s key. */
function artistCalls({ api, whose, store, clock, tells, urlOf }: Register): void {
  api.use(async (c, next) =>
    whose(c.req.header('x-api-key')) === undefined ? plainRefusal(c, 401, 'unknown key') : next(),
  );
  api.get('/key', (c) => {
    const profile = whose(c.req.header('x-api-key')) ?? '';
    return c.json({ artist: artists[profile], profile });
  });
  entriesApi<TourDate>(api, {
    store,
    shelf,
    path: '/artists/:profile/dates',
    schema: dateSchema as unknown as z.ZodType<TourDate>,
    refuse: plainRefusal,
    deletes: true,
    // Unless it is told not to, it writes to everybody who follows the artist.
    beside: (c, body) => ({ profile: c.req.param('profile'), at: clock.now(), told: tells(body) ? 1 : 0 }),
    touch: ({ tell_followers: tell = true }, { told = 0, ...before }) => ({
      at: clock.now(),
      told: told + (tells({ ...before, tell_followers: tell === true }) ? 1 : 0),
    }),
    shown: ({ id, body }) => ({ ...body, id, url: urlOf(id) }),
  });
}

/** What the public sees. */
function publicPages({ store, seen, app, urlOf }: Register): void {
  const shell = (title: string, body: ReturnType<typeof html>) =>
    page(title, style, html`<header>Fernway</header><main>${body}</main>`);
  const rows = (profile: string) =>
    store
      .list<TourDate>(shelf)
      .filter(({ body }) => body.profile === profile && seen(body))
      .sort((a, b) => startOf(a.body) - startOf(b.body))
      .map(
        ({ id, body }) =>
          html`<a class="row" href="/fernway/d/${id}"><span>${body.dates[0]?.starts.slice(0, 10)}</span><b>${body.heading ?? ''}</b><span>${body.venue_name}, ${body.town}</span></a>`,
      );
  app.get('/', (c) =>
    c.html(
      shell(
        'Fernway',
        html`${Object.entries(artists).map(([profile, name]) => html`<h1>${name}</h1>${rows(profile)}`)}`,
      ),
    ),
  );
  app.get('/d/:id', (c) => {
    const found = store.get<TourDate>(shelf, c.req.param('id'));
    if (!found || !seen(found.body)) return c.html(shell('Not here', html`<p>There is no such date.</p>`), 404);
    const {
      heading,
      lineup,
      venue_name: venue,
      town,
      street,
      ticket_url: link,
      ticket_kind: sort,
      note,
      dates,
      profile = '',
    } = found.body;
    const zone = dates[0]?.zone ?? 'UTC';
    const [start, end] = [startOf(found.body), dates[0]?.ends ? readLocal(dates[0].ends.slice(0, 16), zone) : null];
    return c.html(
      shell(
        heading ?? venue,
        html`${eventLd({ name: heading ?? venue, url: urlOf(found.id), dates: [{ start, end, befell: dates[0]?.standing ?? null }], place: `${venue}, ${town}`, offer: link, by: artists[profile] })}
          <h1>${artists[profile]}</h1>
          <p class="big">${heading ?? ''}</p>
          ${note ? html`<p><b>${note}</b></p>` : ''}
          <p>${dates[0]?.standing === 'postponed' ? 'no date yet' : say(start, zone)} · ${venue}, ${street ? `${street}, ` : ''}${town}</p>
          <p>${lineup ?? ''}</p>
          ${link ? html`<p><a class="go" href="${link}">Tickets${sort && sort !== 'general' ? ` (${sort})` : ''}</a></p>` : ''}`,
      ),
    );
  });
}

/** What the owner sees and does there by hand. */
function ownerSide({ app, store }: Register): void {
  ownerPages<TourDate>(app, {
    store,
    shelf,
    name: 'Fernway',
    row: ({ body }) => ({
      title: `${artists[body.profile ?? ''] ?? 'nobody'}: ${body.heading ?? body.venue_name}`,
      state: `${body.status}, told ${body.told ?? 0} times`,
    }),
    fields: (body) => [
      { name: 'heading', label: 'Heading', value: body.heading ?? '' },
      { name: 'venue_name', label: 'Venue', value: body.venue_name },
      { name: 'starts', label: 'Starts', value: body.dates[0]?.starts ?? '' },
    ],
    edit(body, form) {
      const starts = form.starts ?? '';
      if (!wall.safeParse(starts).success) return `“${starts}” is no date and time; write 2027-02-04 20:00`;
      return {
        ...body,
        heading: form.heading ?? '',
        venue_name: form.venue_name ?? '',
        dates: body.dates.map((date) => ({ ...date, starts })),
      };
    },
    acts: {
      hide: {
        label: (body) => (body.status === 'published' ? 'Hide it' : null),
        does: (body) => ({ ...body, status: 'hidden' }),
      },
    },
  });
}

const style = `
body { background: #e8f0e4; color: #1f3324 } header { padding: 20px 8vw 0; font: 700 20px Display } main { width: min(820px, 92vw); margin: 10px auto 40px } h1 { font: 600 24px Text; border-bottom: 2px solid #1f3324 }
.row { display: grid; grid-template-columns: 110px 1fr 1fr; gap: 14px; padding: 8px 0; text-decoration: none; border-bottom: 1px dotted #6d8a73 } .big { font: 600 19px Text } .go { background: #1f3324; color: #e8f0e4; padding: 8px 18px; border-radius: 3px; text-decoration: none }
`;
