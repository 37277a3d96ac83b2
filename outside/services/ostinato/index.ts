import { Hono } from 'hono';
import { html } from 'hono/html';
import { z } from 'zod';
import type { Outside } from '../../outside';
import type { Service } from '../../stand-in';
import { entriesApi, ownerPages, plainRefusal } from '../../entries';
import { eventLd } from '../../ld';
import { page, say } from '../../page';
import { shelf as register, startOf, type TourDate } from '../fernway';

const shelf = 'ostinato';
const highlights = 'ostinato-highlights';
const hourMs = 3_600_000;
const holdsMs = 120 * 24 * hourMs;
const showsAfterMs = 24 * hourMs;

/** Artists' pages: whose, and to which profile of the register each is linked at first. */
const pages: Record<string, { artist: string; linked: string }> = {
  'os-ninefold': { artist: 'The Ninefold Choir', linked: 'fw-ninefold' },
  'os-odalys': { artist: 'Odalys Quarry', linked: 'fw-odalys' },
};

/** A date as it was taken over from the register, and what was seen there since. */
interface Copy {
  shown: TourDate | null;
  next: { version: number; due: number; date: TourDate } | null;
  version: number;
}
const highlightSchema = z.looseObject({
  date: z.string().min(1).max(80),
  text: z.string().max(400).nullish(),
  highlighted: z.boolean().default(true),
  state: z.enum(['on', 'off']).default('on'),
});
type Highlight = z.infer<typeof highlightSchema> & { until?: number; at?: number };

export const service: Service = {
  make: ostinato,
  accounts: (once, secret) => ({
    ostinato: { profile: 'os-ninefold', token: once('ostinato-token-os-ninefold', secret) },
  }),
};

/**
 * The streaming service: shows the register's dates a day or two later, where the profile is the right one; and one
 * highlight.
 */
function ostinato(outside: Outside) {
  const player = playerOf(outside);
  const { app, api } = player;
  pageCalls(player);
  app.route('/api', api);
  publicPages(player);
  ownerSide(player);
  return app;
}

type Player = ReturnType<typeof playerOf>;

/** The player, what it shows of the register, and when. */
function playerOf({ store, clock, base }: Outside) {
  const app = new Hono({ strict: false });
  const api = new Hono();
  const urlOf = (id: string) => `${base}/${shelf}/d/${id}`;
  const linkOf = (profile: string) => store.setting(`ostinato-link-${profile}`) ?? pages[profile]?.linked ?? '';
  /** Between 20 and 40 hours, always the same for one state of a date. */
  const slowness = (id: string, version: number) =>
    20 * hourMs + ((parseInt(id.slice(0, 6), 16) + version * 7919) % 1200) * 60_000;
  /** Looks at the register, and shows what has waited long enough. */
  const work = () => {
    for (const { id, version, body } of store.list<TourDate>(register)) {
      const [known] = store.find<Copy>(shelf, id);
      const copy = known?.body ?? { shown: null, next: null, version: 0 };
      const next: Copy = { ...copy };
      if (version > copy.version) {
        next.next = { version, due: (body.at ?? clock.now()) + slowness(id, version), date: body };
        next.version = version;
      }
      if (next.next !== null && next.next.due <= clock.now()) {
        next.shown = next.next.date;
        next.next = null;
      }
      if (!known) store.make<Copy>(shelf, id, next);
      else if (JSON.stringify(next) !== JSON.stringify(copy)) store.change<Copy>(shelf, known.id, next);
    }
    for (const thing of store.list<Copy>(shelf))
      if (thing.reference !== null && store.get(register, thing.reference) === null) store.remove(shelf, thing.id);
  };
  const seen = (date: TourDate | null, profile: string) =>
    date !== null && date.status === 'published' && date.profile === linkOf(profile);
  const whose = (token: string | undefined) =>
    Object.keys(pages).find(
      (candidate) => token !== undefined && token === store.setting(`ostinato-token-${candidate}`),
    );
  const tokenOf = (header: string | undefined) => /^Bearer (.+)$/.exec(header ?? '')?.[1];
  return { api, whose, tokenOf, store, work, linkOf, seen, urlOf, clock, app };
}

/** The interface of an artist’s page. */
function pageCalls({ api, whose, tokenOf, store, work, linkOf, seen, urlOf, clock }: Player): void {
  api.use(async (c, next) => {
    if (whose(tokenOf(c.req.header('authorization'))) === undefined) return plainRefusal(c, 401, 'unknown token');
    store.whole(work);
    return next();
  });
  api.get('/page', (c) => {
    const profile = whose(tokenOf(c.req.header('authorization'))) ?? '';
    return c.json({ artist: pages[profile]?.artist ?? '', profile, linked_to: linkOf(profile) });
  });
  api.get('/dates/:id', (c) => {
    const profile = whose(tokenOf(c.req.header('authorization'))) ?? '';
    const id = c.req.param('id');
    const date = store.find<Copy>(shelf, id)[0]?.body.shown ?? null;
    const of = store.get<TourDate>(register, id)?.body.profile ?? null;
    if (!seen(date, profile) || date === null) return c.json({ id, shown: false, url: null, register_profile: of });
    return c.json({
      id,
      shown: true,
      url: urlOf(id),
      register_profile: of,
      name: date.heading ?? '',
      venue: date.venue_name,
      tickets: date.ticket_url ?? null,
      at: startOf(date) / 1000,
      zone: date.dates[0]?.zone,
    });
  });
  const shownHighlight = ({ id, body }: { id: string; body: Highlight }) => {
    const until = body.until ?? 0;
    const visible = clock.now() >= (body.at ?? 0) + showsAfterMs;
    // Of a date neither text nor picture is shown; what it was given is kept to itself.
    const { text: _, ...rest } = body;
    return {
      ...rest,
      id,
      highlighted: body.state === 'on' && body.highlighted && until > clock.now() && visible,
      state: visible || body.state === 'off' ? body.state : 'off',
      until,
    };
  };
  entriesApi<Highlight>(api, {
    store,
    shelf: highlights,
    path: '/highlights',
    schema: highlightSchema as unknown as z.ZodType<Highlight>,
    refuse: plainRefusal,
    beside: () => ({ until: clock.now() + holdsMs, at: clock.now() }),
    shown: shownHighlight,
  });
  api.post('/highlights/:id/renew', (c) => {
    const found = store.get<Highlight>(highlights, c.req.param('id'));
    if (!found) return plainRefusal(c, 404, 'there is no such highlight');
    const body = { ...found.body, until: clock.now() + holdsMs };
    store.change(highlights, found.id, body);
    return c.json(shownHighlight({ id: found.id, body }));
  });
}

/** What the public sees. */
function publicPages({ store, work, seen, app, urlOf }: Player): void {
  const shell = (title: string, body: ReturnType<typeof html>) =>
    page(title, style, html`<header>OSTINATO</header><main>${body}</main>`);
  const shown = (profile: string) => {
    store.whole(work);
    return store
      .list<Copy>(shelf)
      .flatMap(({ reference, body }) =>
        body.shown && seen(body.shown, profile) ? [{ id: reference ?? '', date: body.shown }] : [],
      );
  };
  app.get('/', (c) =>
    c.html(
      shell(
        'Ostinato',
        html`${Object.entries(pages).map(
          ([profile, { artist }]) =>
            html`<h1>${artist}</h1>
              ${shown(profile).map(({ id, date }) => html`<p><a href="/ostinato/d/${id}">${date.dates[0]?.standing === 'postponed' ? 'No date yet' : say(startOf(date), date.dates[0]?.zone ?? 'UTC', 'D MMM YYYY')}</a> ${date.heading ?? ''}, ${date.venue_name}</p>`)}`,
        )}`,
      ),
    ),
  );
  app.get('/d/:id', (c) => {
    const found = Object.keys(pages)
      .flatMap(shown)
      .find((candidate) => candidate.id === c.req.param('id'));
    if (!found) return c.html(shell('Not here', html`<p>There is no such date.</p>`), 404);
    const { heading, venue_name: venue, ticket_url: link, dates } = found.date;
    return c.html(
      shell(
        heading ?? venue,
        html`${eventLd({ name: heading ?? venue, url: urlOf(found.id), dates: [{ start: startOf(found.date), befell: dates[0]?.standing ?? null }], place: venue, offer: link })}
          <h1>${heading ?? venue}</h1>
          <p>${dates[0]?.standing === 'postponed' ? 'No date yet' : say(startOf(found.date), dates[0]?.zone ?? 'UTC')} · ${venue}</p>
          ${link ? html`<p><a href="${link}">Tickets</a></p>` : ''}`,
      ),
    );
  });
}

/** What the owner sees and does there by hand. */
function ownerSide({ app, store }: Player): void {
  // The artist's page is linked to a profile of the register; to the wrong one, or none, nothing shows.
  app.post('/owner/link', async (c) => {
    const { profile, to } = z
      .object({ profile: z.string().max(40), to: z.string().max(40) })
      .parse(await c.req.parseBody());
    store.putSetting(`ostinato-link-${profile}`, to);
    return c.json({ profile, to });
  });
  ownerPages<Highlight>(app, {
    store,
    shelf: highlights,
    base: shelf,
    name: 'Ostinato',
    row: ({ body }) => ({ title: `highlight of ${body.date}`, state: body.state }),
    fields: (body) => [{ name: 'date', label: 'Date', value: body.date }],
    edit: (body, form) => (form.date ? { ...body, date: form.date } : 'Name the date'),
    acts: {
      off: {
        label: (body) => (body.state === 'on' ? 'Take it off' : null),
        does: (body) => ({ ...body, state: 'off' }),
      },
    },
  });
}

const style = `
body { background: #0f0d14; color: #efe9ff } header { padding: 20px 7vw; font: 700 15px Mono; letter-spacing: .5em; color: #c9a7ff } main { width: min(700px, 92vw); margin: 0 auto } h1 { font: 700 26px Display; border-left: 6px solid #c9a7ff; padding-left: 14px }
`;
