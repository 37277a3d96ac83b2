import { Hono } from 'hono';
import { html } from 'hono/html';
import { z } from 'zod';
import type { Outside } from '../../outside';
import type { Service } from '../../stand-in';
import { ownerPages } from '../../entries';
import { asCalendar, eventLd, type EventData } from '../../ld';
import { asHtml, page, readLocal, say, stamp } from '../../page';

const shelf = 'lectern';
const wall = z.string().regex(/^\d{4}-\d\d-\d\d \d\d:\d\d( \(2\))?$/);
const entrySchema = z
  .object({
    title: z.string().min(1).max(240),
    subtitle: z.string().max(400).nullish(),
    excerpt: z.string().max(360).nullish(),
    body: z.string().max(100_000).nullish(),
    byline: z.string().max(500).nullish(),
    place: z.string().max(400).nullish(),
    street: z.string().max(300).nullish(),
    price_note: z.string().max(300).nullish(),
    ticket_url: z.url().nullish(),
    categories: z.array(z.string().max(60)).max(12).nullish(),
    date_note: z.string().max(300).nullish(),
    notice: z.string().max(200).nullish(),
    good_to_know: z.string().max(700).nullish(),
    presented_by: z.string().max(200).nullish(),
    tags: z.string().max(300).nullish(),
    organiser_about: z.string().max(2400).nullish(),
    organiser_contact: z.string().max(700).nullish(),
    dates_line: z.string().max(240).nullish(),
    leads_to: z.url().nullish(),
    film_url: z.url().nullish(),
    sound_url: z.url().nullish(),
    logo: z.object({ file: z.string(), alt: z.string() }).nullish(),
    acts: z
      .array(
        z.object({
          ref: z.string(),
          name: z.string().min(1).max(200),
          words: z.string().max(2400).nullish(),
          links: z.string().max(30_000).nullish(),
        }),
      )
      .max(60)
      .default([]),
    running_order: z.string().max(1200).nullish(),
    image_credit: z.string().max(500).nullish(),
    refunds_note: z.string().max(700).nullish(),
    recording_url: z.url().nullish(),
    set_list: z.string().max(2400).nullish(),
    links: z
      .array(
        z.object({
          ref: z.string(),
          label: z.string().min(1).max(100),
          url: z.url().nullish(),
          new_window: z.boolean().nullish(),
        }),
      )
      .max(20)
      .default([]),
    documents: z
      .array(z.object({ ref: z.string(), title: z.string().max(200).nullish(), file: z.string().max(120) }))
      .max(30)
      .default([]),
    programme: z
      .array(
        z.object({
          ref: z.string(),
          title: z.string().min(1).max(240),
          who: z.string().max(400).nullish(),
          room: z.string().max(100).nullish(),
          from: wall.nullish(),
          to: wall.nullish(),
          zone: z.string().nullish(),
        }),
      )
      .max(120)
      .default([]),
    gallery: z
      .array(z.object({ ref: z.string(), image: z.object({ file: z.string(), alt: z.string() }) }))
      .max(30)
      .default([]),
    online_url: z.url().nullish(),
    show_tickets: z.boolean().default(false),
    status: z.enum(['draft', 'published']).default('draft'),
    image: z.object({ file: z.string(), alt: z.string() }).nullish(),
    dates: z
      .array(
        z.object({
          ref: z.string(),
          starts: wall,
          ends: wall.nullish(),
          doors: wall.nullish(),
          zone: z.string(),
          note: z.string().max(100).nullish(),
          standing: z.enum(['called off', 'put off']).nullish(),
        }),
      )
      .default([]),
  })
  .refine((entry) => entry.dates.length > 0 || Boolean(entry.date_note), {
    path: ['dates'],
    message: 'a date, or a note on the date, is needed',
  });
/** For whom a page of the site is: everybody, or those who have its address. */
const areas = { 'lectern-login': 'public', 'lectern-login-2': 'members', 'lectern-login-3': 'friends' } as const;
type Area = (typeof areas)[keyof typeof areas];
type Entry = z.infer<typeof entrySchema> & { slug: string; area?: Area };

export const service: Service = {
  make: lectern,
  accounts(once, secret) {
    const login = (name: keyof typeof areas, user: string) => {
      const [known = '', password = ''] = once(name, () => `${user}:${secret()}`).split(':');
      return { user: known, password };
    };
    return {
      lectern: login('lectern-login', 'tallow-desk'),
      'lectern-2': login('lectern-login-2', 'tallow-members'),
      'lectern-3': login('lectern-login-3', 'tallow-friends'),
    };
  },
};

/** The venue's website: REST with an app password, ETag and If-Match. */
function lectern(outside: Outside) {
  const site = siteOf(outside);
  const { app, api } = site;
  editorCalls(site);
  app.route('/api', api);
  publicPages(site);
  ownerSide(site);
  return app;
}

type Site = ReturnType<typeof siteOf>;

/** The website, and what its parts share. */
function siteOf({ store, base }: Outside) {
  const app = new Hono({ strict: false });
  const api = new Hono();
  const shown = (id: string, { area, ...entry }: Entry) => ({
    ...entry,
    id,
    url: `${base}${pathOf({ ...entry, area })}`,
  });
  /** Whose login it is. */
  const areaOf = (header: string | undefined): Area | null => {
    const given = /^Basic (.+)$/.exec(header ?? '')?.[1];
    const known = (Object.keys(areas) as (keyof typeof areas)[]).find((name) => {
      const login = store.setting(name);
      return login !== null && given === btoa(login);
    });
    return known === undefined ? null : areas[known];
  };
  const etagOf = (version: number) => `"v${version}"`;

  function freeSlug(title: string): string {
    const stem = stemOf(title) || 'event';
    const taken = new Set(store.list<Entry>(shelf).map((thing) => thing.body.slug));
    for (let n = 1; ; n += 1) {
      const slug = n === 1 ? stem : `${stem}-${n}`;
      if (!taken.has(slug)) return slug;
    }
  }
  return { api, store, shown, etagOf, freeSlug, app, base, areaOf };
}

/** The interface: entries, each write against the version that was read. */
function editorCalls({ api, store, shown, etagOf, freeSlug, areaOf }: Site): void {
  api.use(async (c, next) => {
    if (areaOf(c.req.header('authorization')) === null) return c.json({ message: 'unknown user or app password' }, 401);
    return next();
  });
  api.get('/me', (c) => {
    const user = atob((c.req.header('authorization') ?? '').replace(/^Basic /, '')).split(':')[0];
    return c.json({ user, mayPublish: true });
  });
  api.put('/media/:file', async (c) => {
    store.putMedia(shelf, c.req.param('file'), Buffer.from(await c.req.arrayBuffer()));
    return c.json({ file: c.req.param('file') }, 201);
  });
  api.get('/entries', (c) =>
    c.json(
      store
        .find<Entry>(shelf, c.req.query('reference') ?? '')
        .map((thing) => ({ ...shown(thing.id, thing.body), etag: etagOf(thing.version) })),
    ),
  );
  api.post('/entries', async (c) => {
    const body: unknown = await c.req.json();
    const parsed = entrySchema.safeParse(body);
    if (!parsed.success) return c.json(refusal(parsed.error), 422);
    const reference = z.object({ reference: z.string() }).parse(body).reference;
    const made = store.whole(() =>
      store.make<Entry>(shelf, reference, {
        ...parsed.data,
        slug: freeSlug(parsed.data.title),
        area: areaOf(c.req.header('authorization')) ?? 'public',
      }),
    );
    c.header('etag', etagOf(1));
    return c.json(shown(made.id, made.body), 201);
  });
  api.get('/entries/:id', (c) => {
    const found = store.get<Entry>(shelf, c.req.param('id'));
    if (!found) return c.json({ message: 'no such entry' }, 404);
    c.header('etag', etagOf(found.version));
    return c.json(shown(found.id, found.body));
  });
  api.patch('/entries/:id', async (c) => {
    const found = store.get<Entry>(shelf, c.req.param('id'));
    if (!found) return c.json({ message: 'no such entry' }, 404);
    const given = c.req.header('if-match');
    if (given === undefined) return c.json({ message: 'If-Match is needed' }, 428);
    if (given !== etagOf(found.version)) return c.json({ message: 'the entry was edited since' }, 412);
    const parsed = entrySchema.safeParse({ ...found.body, ...((await c.req.json()) as object) });
    if (!parsed.success) return c.json(refusal(parsed.error), 422);
    const { slug, area } = found.body;
    const next = { ...parsed.data, slug, ...(area ? { area } : {}) };
    store.change(shelf, found.id, next);
    c.header('etag', etagOf(found.version + 1));
    return c.json(shown(found.id, next));
  });
  api.delete('/entries/:id', (c) => {
    const found = store.get<Entry>(shelf, c.req.param('id'));
    if (!found) return c.json({ message: 'no such entry' }, 404);
    const given = c.req.header('if-match');
    if (given === undefined) return c.json({ message: 'If-Match is needed' }, 428);
    if (given !== etagOf(found.version)) return c.json({ message: 'the entry was edited since' }, 412);
    store.remove(shelf, found.id);
    return c.body(null, 204);
  });
}

/** What the public sees. */
function publicPages({ app, store, base }: Site): void {
  app.get('/media/:file', (c) => {
    const bytes = store.media(shelf, c.req.param('file'));
    const file = c.req.param('file');
    const type = file.endsWith('.jpg')
      ? 'image/jpeg'
      : file.endsWith('.pdf')
        ? 'application/pdf'
        : 'application/octet-stream';
    return bytes ? c.body(new Uint8Array(bytes), 200, { 'content-type': type }) : c.notFound();
  });
  const published = (area: Area = 'public') =>
    store
      .list<Entry>(shelf)
      .map((thing) => thing.body)
      .filter((body) => body.status === 'published' && (body.area ?? 'public') === area);
  app.get('/', (c) => c.html(listPage(published())));
  // Pages for some: nothing leads to them, and nothing of them stands on the others.
  app.get('/members', (c) => c.html(listPage(published('members'), 'For members')));
  app.get('/friends', (c) => c.html(listPage(published('friends'), 'For friends of the yard')));
  app.get('/:area{members|friends}/:slug', (c) => {
    const found = published(c.req.param('area') as Area).find((entry) => entry.slug === c.req.param('slug'));
    return found
      ? c.html(eventPage(found, base))
      : c.html(page('Not here', style, html`<main><h1>No such event</h1></main>`), 404);
  });
  app.get('/in/:category', (c) => {
    const category = c.req.param('category');
    const entries = published().filter((entry) => entry.categories?.includes(category));
    return entries.length > 0
      ? c.html(listPage(entries, category.replaceAll('-', ' ')))
      : c.html(page('Nothing here', style, html`<main><h1>Nothing in ${category}</h1></main>`), 404);
  });
  app.get('/acts/:act', (c) => {
    const act = c.req.param('act');
    const entries = published().filter((entry) => actsOf(entry).some((name) => stemOf(name) === act));
    const name = entries.flatMap(actsOf).find((candidate) => stemOf(candidate) === act);
    return name === undefined
      ? c.html(page('Nobody here', style, html`<main><h1>No such act</h1></main>`), 404)
      : c.html(listPage(entries, name));
  });
  app.get('/events/:slug', (c) => {
    const found = published().find((entry) => entry.slug === c.req.param('slug'));
    return found
      ? c.html(eventPage(found, base))
      : c.html(page('Not here', style, html`<main><h1>No such event</h1></main>`), 404);
  });
  app.get('/events/:slug/dates.ics', (c) => {
    const found = published().find((entry) => entry.slug === c.req.param('slug'));
    return found ? asCalendar(c, dataOf(found, base)) : c.notFound();
  });
}

/** What the owner sees and does there by hand. */
function ownerSide({ app, store }: Site): void {
  ownerPages<Entry>(app, {
    store,
    shelf,
    name: 'Lectern',
    row: ({ body }) => ({ title: body.title, state: body.status }),
    fields: ({ title, excerpt, price_note: price, dates: [first] }) => [
      { name: 'title', label: 'Title', value: title },
      { name: 'excerpt', label: 'Excerpt', value: excerpt ?? '', long: true },
      { name: 'price_note', label: 'Price', value: price ?? '' },
      { name: 'starts', label: 'First date starts', value: first?.starts ?? '' },
    ],
    edit(body, { title = '', excerpt = '', price_note: price = '', starts = '' }) {
      if (body.dates[0] && readLocal(starts, body.dates[0].zone) === null)
        return `“${starts}” is no date and time; write 2027-02-04 20:00`;
      const dates = body.dates.map((date, i) => (i === 0 ? { ...date, starts } : date));
      return { ...body, title, excerpt, price_note: price || null, dates };
    },
    dates: 'dates',
    acts: {
      flip: {
        label: ({ status }) => (status === 'published' ? 'Make it a draft' : 'Publish'),
        does: (body) => ({ ...body, status: body.status === 'published' ? 'draft' : 'published' }),
      },
      tickets: {
        label: (body) => (body.show_tickets ? 'Hide tickets' : 'Show tickets'),
        does: (body) => ({ ...body, show_tickets: !body.show_tickets }),
      },
    },
  });
}

function refusal(error: z.ZodError) {
  const issue = error.issues[0];
  return { message: issue?.message ?? 'not accepted', field: issue?.path.join('.') ?? '' };
}

const style = `
body { background: #fff; color: #1d1b22 } header { background: #5b2a3c; color: #fbeee6; padding: 20px 9vw; font: 700 24px Display; display: flex; justify-content: space-between }
header a { text-decoration: none } main { padding: 34px 9vw; max-width: 1180px } main img { width: 100%; margin-bottom: 18px } main img.logo { width: 120px } main figure { margin: 14px 0 } main figure img { margin: 0 } figcaption { font-size: 14px; color: #6b5b62 } .side-left { float: left; margin-right: 22px } .side-right { float: right; margin-left: 22px } .size-small { width: 30% } .size-half { width: 48% } h1 { font: 800 clamp(30px, 5vw, 58px)/1.02 Display; margin: 22px 0 6px; letter-spacing: -.01em }
.when { font: 600 21px Display; color: #5b2a3c } .two { display: grid; grid-template-columns: 2fr 1fr; gap: 44px } aside { border-top: 3px solid #5b2a3c; padding-top: 14px }
.btn { display: inline-block; background: #5b2a3c; color: #fff; padding: 11px 20px; text-decoration: none; font-weight: 600; margin: 10px 0 } ul.list { list-style: none; padding: 0 } ul.list li { border-top: 1px solid #dcd2d6; padding: 12px 0; font-size: 18px }
ul.list b { font: 700 22px Display } .lead { font-size: 20px } @media (max-width: 700px) { .two { grid-template-columns: 1fr } }
`;
const head = html`<header><a href="/lectern/">Tallow Yard</a><span>What’s on</span></header>`;
const at = (text: string, zone: string) => readLocal(text.replace(' (2)', ''), zone) ?? 0;

const stemOf = (text: string) =>
  text
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '');

/** Where an entry stands: on its own page among those of its area. */
const pathOf = ({ slug, area = 'public' }: Pick<Entry, 'slug' | 'area'>) =>
  `/${shelf}/${area === 'public' ? 'events' : area}/${slug}`;

/** Who is on, by the names in its byline. */
function actsOf({ byline }: Entry): string[] {
  return (byline ?? '')
    .split(/ with |, | and | · /)
    .map((name) => name.trim())
    .filter((name) => stemOf(name) !== '');
}

/** The pages that an entry stands on beside its own: its categories, and its acts. */
function pagesOf(entry: Entry) {
  const pages = [
    ...(entry.categories ?? []).map((category) => ({
      href: `/lectern/in/${category}`,
      name: category.replaceAll('-', ' '),
    })),
    ...actsOf(entry).map((name) => ({ href: `/lectern/acts/${stemOf(name)}`, name })),
  ];
  return pages.map(({ href, name }, i) => html`${i === 0 ? '' : ' · '}<a href="${href}">${name}</a>`);
}

function listPage(entries: Entry[], title = 'What’s on') {
  const sorted = [...entries].sort((a, b) => ((a.dates[0]?.starts ?? '') < (b.dates[0]?.starts ?? '') ? -1 : 1));
  return page(
    `Tallow Yard: ${title}`,
    style,
    html`${head}
      <main>
        <h1>${title}</h1>
        <ul class="list">
          ${sorted.map(
            (entry) =>
              html`<li>
                <a href="${entry.leads_to ?? pathOf(entry)}"><b>${entry.title}</b></a
                ><br />${entry.dates_line ? entry.dates_line : entry.dates[0] && entry.dates[0].standing !== 'put off' ? say(at(entry.dates[0].starts, entry.dates[0].zone), entry.dates[0].zone) : (entry.date_note ?? '')}${entry.notice ? ` · ${entry.notice}` : ''}
              </li>`,
          )}
        </ul>
      </main>`,
  );
}

const befellOf = (standing: string | null | undefined) =>
  standing === 'called off' ? 'cancelled' : standing === 'put off' ? 'postponed' : null;

/** What the public page says of an entry, for programs. */
function dataOf(entry: Entry, base: string): EventData {
  const off = /cancelled/i.test(entry.notice ?? '') && !entry.notice?.includes(':');
  return {
    name: entry.title,
    url: `${base}${pathOf(entry)}`,
    dates: entry.dates.map((d) => ({
      start: at(d.starts, d.zone),
      end: d.ends ? at(d.ends, d.zone) : null,
      befell: befellOf(d.standing),
    })),
    place: entry.place,
    offer: entry.show_tickets ? entry.ticket_url : null,
    cancelled: off,
    image: entry.image ? `${base}/${shelf}/media/${entry.image.file}` : null,
    about: entry.excerpt,
    by: entry.presented_by,
  };
}

function eventPage(entry: Entry, base: string) {
  return page(
    entry.title,
    style,
    html`${head}
      <main>
        ${eventLd(dataOf(entry, base))}<link rel="alternate" type="text/calendar" href="/lectern/events/${entry.slug}/dates.ics" />
        <h1>${entry.title}</h1>
        ${entry.subtitle ? html`<p class="lead">${entry.subtitle}</p>` : ''}
        <div class="two">
          <div>
            ${entry.image ? html`<img src="/lectern/media/${entry.image.file}" alt="${entry.image.alt}" />` : ''}${entry.byline ? html`<p class="lead">${entry.byline}</p>` : ''}
            <p class="lead">${entry.excerpt ?? ''}</p>
            ${asHtml((entry.body ?? '').replaceAll('<img src="', '<img src="/lectern/media/'))}
            ${
              entry.programme.length > 0
                ? html`<h2>Programme</h2>
                    <ul class="list">
                      ${entry.programme.map(
                        (p) =>
                          html`<li>
                            ${p.from ? html`${say(at(p.from, p.zone ?? 'UTC'), p.zone ?? 'UTC', 'HH:mm')}${p.to ? html`–${say(at(p.to, p.zone ?? 'UTC'), p.zone ?? 'UTC', 'HH:mm')}` : ''} ` : ''}<b
                              >${p.title}</b
                            >${p.who ? html`<br />${p.who}` : ''}${p.room ? html` · ${p.room}` : ''}
                          </li>`,
                      )}
                    </ul>`
                : ''
            }
            ${entry.running_order ? html`<h2>Who is on when</h2><p>${entry.running_order}</p>` : ''}${entry.image_credit ? html`<p><small>Pictures: ${entry.image_credit}</small></p>` : ''}
            ${entry.acts.map(
              (a) =>
                html`<h2>${a.name}</h2>${a.words ? html`<p>${a.words}</p>` : ''}${(a.links ?? '')
                  .split(' ')
                  .filter(Boolean)
                  .map((href) => html`<p><a href="${href}">${href.replace(/^https?:\/\//, '')}</a></p>`)}`,
            )}${entry.set_list ? html`<h2>What was played</h2><p>${entry.set_list}</p>` : ''}
            ${entry.gallery.map((g) => html`<img src="/lectern/media/${g.image.file}" alt="${g.image.alt}" />`)}
          </div>
          <aside>
            ${entry.notice ? html`<p class="when">${entry.notice}</p>` : ''}${entry.dates_line ? html`<p class="when">${entry.dates_line}</p>` : ''}${entry.date_note ? html`<p class="when">${entry.date_note}</p>` : ''}${entry.dates
              .filter((d) => d.standing !== 'put off')
              .map(
                (d) =>
                  html`<p class="when">
                  ${d.standing === 'called off' ? html`Called off: ` : ''}
                  <time datetime="${stamp(at(d.starts, d.zone))}"
                    >${say(at(d.starts, d.zone), d.zone)}</time
                  >
                  ${d.ends ? html`<br />until ${say(at(d.ends, d.zone), d.zone, 'HH:mm')}` : ''}${d.doors ? html`<br />doors ${say(at(d.doors, d.zone), d.zone, 'HH:mm')}` : ''}${d.note ? html`<br />${d.note}` : ''}
                </p>`,
              )}
            <p>${entry.place ?? ''}${entry.street ? html`<br />${entry.street}` : ''}</p>
            <p>${pagesOf(entry)}</p>
            <p>${entry.price_note ?? ''}</p>
            ${entry.good_to_know ? html`<p>${entry.good_to_know}</p>` : ''}${entry.presented_by ? html`<p>presented by ${entry.presented_by}</p>` : ''}${entry.organiser_about ? html`<p>${entry.organiser_about}</p>` : ''}${entry.organiser_contact ? html`<p>${entry.organiser_contact}</p>` : ''}
            ${entry.links.map((l) => (l.url ? html`<p><a href="${l.url}" ${l.new_window ? 'target=_blank rel=noopener' : ''}>${l.label}</a></p>` : ''))}
            ${entry.film_url ? html`<p><a href="${entry.film_url}">Watch the film</a></p>` : ''}${entry.sound_url ? html`<p><a href="${entry.sound_url}">Listen</a></p>` : ''}${entry.refunds_note ? html`<p>${entry.refunds_note}</p>` : ''}
            ${entry.recording_url ? html`<p><a href="${entry.recording_url}">Watch the recording</a></p>` : ''}
            ${entry.documents.map((d) => html`<p><a href="/lectern/media/${d.file}" download>${d.title ?? d.file}</a></p>`)}${entry.online_url ? html`<p><a href="${entry.online_url}">Keep a place online</a></p>` : ''}
            ${entry.show_tickets && entry.ticket_url ? html`<p><a class="btn" target="_blank" rel="noopener" href="${entry.ticket_url}">Tickets</a></p>` : ''}
          </aside>
        </div>
        ${entry.logo ? html`<p><img class="logo" src="/lectern/media/${entry.logo.file}" alt="${entry.logo.alt}" /></p>` : ''}
      </main>`,
  );
}
