import { Hono } from 'hono';
import { html } from 'hono/html';
import { z } from 'zod';
import type { Outside } from '../../outside';
import type { Service } from '../../stand-in';
import { entriesApi, ownerPages, problemRefusal } from '../../entries';
import { eventLd } from '../../ld';
import { page, readLocal, say, stamp } from '../../page';

const shelf = 'concourse';
const askedWithinMs = 10 * 86_400_000;
/** People that one of the organisation's people asks within that. */
const mostAsked = 250;
/** `2027-03-14T20:00:00Z[Europe/Dublin]` (RFC 9557). */
const zoned = z
  .string()
  .max(90)
  .regex(/^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\dZ\[[\w/+-]+\]$/);
const eventSchema = z.looseObject({
  subject: z.string().min(1).max(82),
  details: z.string().max(4200).nullish(),
  venue: z.string().max(500).nullish(),
  outside_link: z.url().nullish(),
  banner: z.object({ file: z.string(), alt: z.string() }).nullish(),
  posted_as: z.enum(['organisation', 'person']).default('person'),
  asks_registration: z.boolean().nullish(),
  tell_followers: z.boolean().default(true),
  told: z.number().optional(),
  stage: z.enum(['live', 'withheld', 'called off']).default('live'),
  slots: z
    .array(
      z.object({
        tag: z.string(),
        begins: zoned,
        ends: zoned.nullish(),
        doors: zoned.nullish(),
        standing: z.enum(['called off', 'undated']).nullish(),
      }),
    )
    .length(1, 'an event has one slot'),
});
type Meeting = z.infer<typeof eventSchema>;
const atOf = (text: string) => Date.parse(text.replace(/\[.*$/, ''));
const zoneOf = (text: string) => /\[(.+)\]$/.exec(text)?.[1] ?? 'UTC';

export const service: Service = {
  make: concourse,
  accounts(once, secret, as) {
    const [house, person] = [once('concourse-house', secret), once('concourse-person', secret)];
    return { concourse: { key: as === 'person' ? person : house } };
  },
};

/**
 * The professional network: REST with problem details, an organisation's key, and the same trap: a person's key works
 * too.
 */
function concourse(outside: Outside) {
  const hall = hallOf(outside);
  const { app, api } = hall;
  memberCalls(hall);
  app.route('/api', api);
  publicPages(hall);
  ownerSide(hall);
  return app as unknown as Hono;
}

type Hall = ReturnType<typeof hallOf>;

/** The hall with its meetings, and what its parts share. */
function hallOf({ store, clock, base }: Outside) {
  const app = new Hono<{ Variables: { sort: 'organisation' | 'person' } }>({ strict: false });
  const api = new Hono<{ Variables: { sort: 'organisation' | 'person' } }>();
  const urlOf = (id: string) => `${base}/${shelf}/e/${id}`;
  return { api, store, urlOf, clock, app, base };
}

/** The interface: meetings, banners, and asking people to come. */
function memberCalls({ api, store, urlOf, clock }: Hall): void {
  api.use(async (c, next) => {
    const key = /^Bearer (.+)$/.exec(c.req.header('authorization') ?? '')?.[1];
    const sort =
      key === store.setting('concourse-house')
        ? 'organisation'
        : key === store.setting('concourse-person')
          ? 'person'
          : null;
    if (sort === null || key === undefined) return problemRefusal(c, 401, 'no such key');
    c.set('sort', sort);
    return next();
  });
  api.get('/whoami', (c) =>
    c.json({ name: c.get('sort') === 'person' ? 'Ines Okafor-Lindqvist' : 'Tallow Yard', sort: c.get('sort') }),
  );
  api.put('/banners/:file', async (c) => {
    store.putMedia(shelf, c.req.param('file'), Buffer.from(await c.req.arrayBuffer()));
    return c.json({ file: c.req.param('file') }, 201);
  });
  entriesApi<Meeting>(api as unknown as Hono, {
    store,
    shelf,
    path: '/events',
    schema: eventSchema,
    refuse: problemRefusal,
    // Whoever asks, it stands under the name of whom the key is.
    beside: (c, body) => ({
      posted_as: c.get('sort') === 'organisation' ? body.posted_as : 'person',
      told: body.tell_followers ? 1 : 0,
    }),
    touch: ({ tell_followers: tell = true }, { told = 0 }) => ({ told: told + (tell === true ? 1 : 0) }),
    shown: ({ id, body }) => ({ ...body, id, url: urlOf(id) }),
    lock(before, after) {
      const [was, is] = [before.slots[0], after.slots[0]];
      if (before.stage === 'called off' && after.stage !== 'called off')
        return { status: 423, field: 'stage', message: 'it was called off, and everybody was told' };
      if (was && is && was.begins !== is.begins && atOf(was.begins) <= clock.now())
        return { status: 423, field: 'slots', message: 'it has begun: its start cannot be moved' };
      if (after.asks_registration === true && after.posted_as !== 'organisation')
        return { status: 422, field: 'asks_registration', message: 'only an organisation may ask for registration' };
      return null;
    },
  });
  api.post('/events/:id/call-off', async (c) => {
    const found = store.get<Meeting>(shelf, c.req.param('id'));
    if (!found) return problemRefusal(c, 404, 'there is no such event');
    const read = z.object({ reason: z.string().min(1) }).safeParse(await c.req.json());
    if (!read.success) return problemRefusal(c, 422, 'say why', 'reason');
    store.change(shelf, found.id, {
      ...found.body,
      stage: 'called off',
      why: read.data.reason,
      told: (found.body.told ?? 0) + 1,
    });
    return c.json({ id: found.id, url: urlOf(found.id) });
  });
  // Each of the organisation's people asks so many in any ten days, by place and trade.
  api.post('/events/:id/asked', async (c) => {
    const read = z
      .object({
        asker: z.string().min(1).max(80),
        place: z.string().max(80),
        trade: z.string().max(80),
        count: z.number().int().min(1).max(mostAsked),
      })
      .safeParse(await c.req.json());
    if (!read.success)
      return problemRefusal(c, 422, 'asker, place, trade and count are needed', read.error.issues[0]?.path.join('.'));
    const { asker, count } = read.data;
    const key = `concourse-asked-${asker}`;
    const before = z.array(z.tuple([z.number(), z.number()])).parse(JSON.parse(store.setting(key) ?? '[]'));
    const lately = before.filter(([at]) => at > clock.now() - askedWithinMs);
    const left = mostAsked - lately.reduce((sum, [, asked]) => sum + asked, 0);
    if (count > left) return problemRefusal(c, 409, `${asker} may ask ${left} more in these ten days`, 'count');
    store.putSetting(key, JSON.stringify([...lately, [clock.now(), count]]));
    return c.json({ asked: count, left: left - count });
  });
  api.get('/events/:id/answers.csv', (c) => c.body('name,answer\r\n', 200, { 'content-type': 'text/csv' }));
}

/** What the public sees. */
function publicPages({ app, store, urlOf, base }: Hall): void {
  app.get('/banners/:file', (c) => {
    const bytes = store.media(shelf, c.req.param('file'));
    return bytes ? c.body(new Uint8Array(bytes), 200, { 'content-type': 'image/jpeg' }) : c.notFound();
  });
  const shell = (title: string, body: ReturnType<typeof html>) =>
    page(title, style, html`<header>concourse</header><main>${body}</main>`);
  app.get('/', (c) =>
    c.html(
      shell(
        'Tallow Yard at Concourse',
        html`<h1>Tallow Yard</h1>
          ${store
            .list<Meeting>(shelf)
            .filter(({ body }) => body.stage === 'live' && body.posted_as === 'organisation')
            .map(({ id, body }) => html`<p class="row"><a href="/concourse/e/${id}">${body.subject}</a></p>`)}`,
      ),
    ),
  );
  app.get('/e/:id', (c) => {
    const found = store.get<Meeting>(shelf, c.req.param('id'));
    if (!found || found.body.stage === 'withheld')
      return c.html(shell('Not here', html`<p>Nothing is shown here.</p>`), 404);
    const { subject, details, venue, outside_link: link, banner, slots, stage, posted_as: as } = found.body;
    const [slot] = slots;
    const start = atOf(slot?.begins ?? '');
    return c.html(
      shell(
        subject,
        html`${eventLd({
          name: subject,
          url: urlOf(found.id),
          dates: [
            {
              start,
              end: slot?.ends ? atOf(slot.ends) : null,
              befell: slot?.standing === 'undated' ? 'postponed' : null,
            },
          ],
          place: venue,
          offer: link,
          cancelled: stage === 'called off',
          image: banner ? `${base}/concourse/banners/${banner.file}` : null,
          about: details,
          by: as === 'organisation' ? 'Tallow Yard' : null,
        })}
          ${banner ? html`<img src="/concourse/banners/${banner.file}" alt="${banner.alt}" />` : ''}
          <h1>${subject}</h1>
          <p class="dim">${as === 'organisation' ? 'Tallow Yard' : 'Ines Okafor-Lindqvist'}${stage === 'called off' ? ' · called off' : ''}</p>
          <p><b>${slot?.standing === 'undated' ? 'Undated for now' : say(start, zoneOf(slot?.begins ?? ''))}</b> · ${venue ?? ''}</p>
          <p class="pre">${details ?? ''}</p>
          ${link ? html`<p><a class="go" href="${link}">Places</a></p>` : ''}`,
      ),
    );
  });
}

/** What the owner sees and does there by hand. */
function ownerSide({ app, store }: Hall): void {
  ownerPages<Meeting>(app as unknown as Hono, {
    store,
    shelf,
    name: 'Concourse',
    row: ({ body }) => ({
      title: body.subject,
      state: `${body.stage}, by the ${body.posted_as}, told ${body.told ?? 0} times`,
    }),
    fields: (body) => [
      { name: 'subject', label: 'Title', value: body.subject },
      { name: 'details', label: 'Details', value: body.details ?? '', long: true },
      {
        name: 'begins',
        label: 'Begins',
        value: say(atOf(body.slots[0]?.begins ?? ''), zoneOf(body.slots[0]?.begins ?? ''), 'YYYY-MM-DD HH:mm'),
      },
    ],
    edit(body, form) {
      const zone = zoneOf(body.slots[0]?.begins ?? '');
      const at = readLocal(form.begins ?? '', zone);
      if (at === null) return `“${form.begins}” is no date and time; write 2027-02-04 20:00`;
      const slots = body.slots.map((slot) => ({ ...slot, begins: `${stamp(at).slice(0, 19)}Z[${zone}]` }));
      return { ...body, subject: form.subject ?? '', details: form.details ?? '', slots };
    },
    acts: {
      withhold: {
        label: (body) => (body.stage === 'live' ? 'Withhold it' : null),
        does: (body) => ({ ...body, stage: 'withheld' }),
      },
    },
  });
}

const style = `
body { background: #f4f2ee; color: #23262b } header { padding: 14px 7vw; font: 500 17px Mono; letter-spacing: .3em; border-bottom: 1px solid #23262b } main { width: min(760px, 92vw); margin: 26px auto } h1 { font: 500 30px/1.2 Display; margin: 14px 0 4px }
.dim { color: #6b6f78 } .pre { white-space: pre-line } .row { border-bottom: 1px solid #cfcac0; padding: 8px 0 } .go { border: 2px solid #23262b; padding: 8px 18px; text-decoration: none; display: inline-block }
`;
