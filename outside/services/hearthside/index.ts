import { Hono } from 'hono';
import { html } from 'hono/html';
import { z } from 'zod';
import type { Outside } from '../../outside';
import type { Service } from '../../stand-in';
import { ownerPages } from '../../entries';
import { asCalendar, eventLd, type EventData } from '../../ld';
import { posts } from './posts';
import { page, readLocal, say, stamp } from '../../page';
import { RpcError, type Identity, type RpcMethods } from '../../rpc';

const shelf = 'hearthside';
const eventSchema = z.object({
  headline: z.string().min(1).max(58),
  about: z.string().max(4500).nullish(),
  featuring: z.string().max(200).nullish(),
  where: z.string().max(500).nullish(),
  rhythm: z.string().max(160).nullish(),
  entry: z.string().max(300).nullish(),
  notice: z.string().max(120).nullish(),
  tickets: z.url().nullish(),
  cover: z.object({ file: z.string(), alt: z.string() }).nullish(),
  visible: z.boolean().default(true),
  // Unless it is told otherwise, everybody sees who comes, and may write to them.
  guest_list: z.boolean().default(true),
  guests_write: z.boolean().default(true),
  times: z
    .array(
      z.object({
        tag: z.string(),
        begins: z.number(),
        standing: z.enum(['off', 'waiting']).nullish(),
        finishes: z.number().nullish(),
        doors: z.number().nullish(),
        zone: z.string(),
      }),
    )
    .min(1)
    .max(4),
});
type SocialEvent = z.infer<typeof eventSchema> & {
  published_as: 'page' | 'person';
  held?: boolean;
  refused?: boolean;
  page?: string;
};

/** The pages that there are, by the setting that holds their token. */
const pages: Record<string, string> = { 'hearthside-page': 'Tallow Yard', 'hearthside-page-2': 'The Ninefold Choir' };
const firstPage = 'Tallow Yard';

/** What these words promise is looked at by a person before the public sees it. */
const looksAt = /\b(raffle|lottery)\b/i;

const dayMs = 86_400_000;

/** Artists who have a page there, by handle. */
const profiles: Record<string, string> = {
  'odalys-quarry': 'Odalys Quarry',
  'ninefold-choir': 'The Ninefold Choir',
  'pocket-observatory': 'Pocket Observatory',
  'brindle-tollkeepers': 'Brindle & the Tollkeepers',
  'cinder-assembly': 'Cinder Assembly',
  ninefold: 'Ninefold Upholstery',
};

export const service: Service = {
  make: hearthside,
  accounts(once, secret, as) {
    const [page, choir] = [once('hearthside-page', secret), once('hearthside-page-2', secret)];
    const person = once('hearthside-person', secret);
    // Its own trap: whoever asks in a person's name gets a token that works, in that person's name.
    return { hearthside: { token: as === 'person' ? person : page }, 'hearthside-2': { token: choir } };
  },
};

/** The social page: JSON-RPC 2.0 at one endpoint, a page's token, and a trap: a person's token works too. */
function hearthside(outside: Outside) {
  const network = networkOf(outside);
  const { app } = network;
  calls(network);
  publicPages(network);
  ownerSide(network);
  return app;
}

type Network = ReturnType<typeof networkOf>;

/** The network with its wall of posts, and what its parts share. */
function networkOf(outside: Outside) {
  const { store, clock, base } = outside;
  const wall = posts(outside);
  const app = new Hono({ strict: false });
  const urlOf = (id: string) => `${base}/${shelf}/e/${id}`;
  const shown = (id: string, event: SocialEvent) => ({ ...event, id, url: urlOf(id) });
  const seen = ({ visible, held }: SocialEvent) => visible && !held;
  const dataOf = (id: string, event: SocialEvent): EventData => ({
    name: event.headline,
    url: urlOf(id),
    dates: event.times.map((t) => ({
      start: t.begins * 1000,
      end: t.finishes ? t.finishes * 1000 : null,
      befell: t.standing === 'off' ? 'cancelled' : t.standing === 'waiting' ? 'postponed' : null,
    })),
    place: event.where,
    offer: event.tickets,
    cancelled: /^cancelled/i.test(event.notice ?? '') && !event.notice?.includes(':'),
    image: event.cover ? `${base}/${shelf}/photos/${event.cover.file}` : null,
    about: event.about,
    by: event.published_as === 'page' ? (event.page ?? firstPage) : null,
  });
  /** Whose token it is. */
  const identityOf = (token: string): Identity | null => {
    const page = Object.keys(pages).find((name) => token === store.setting(name));
    if (page) return { kind: 'page', name: pages[page] ?? firstPage };
    return token === store.setting('hearthside-person') ? { kind: 'person' } : null;
  };
  const read = (input: unknown): z.infer<typeof eventSchema> => {
    const parsed = eventSchema.safeParse(input);
    if (parsed.success) return parsed.data;
    const issue = parsed.error.issues[0];
    throw new RpcError(-32602, issue?.message ?? 'not accepted', issue?.path.join('.') ?? null);
  };
  const need = (id: unknown) => {
    const found = store.get<SocialEvent>(shelf, String(id));
    if (!found) throw new RpcError(-32004, 'no such event');
    return found;
  };
  return { wall, store, read, urlOf, shown, need, clock, app, identityOf, seen, dataOf };
}

/** Its JSON-RPC methods at one endpoint. */
function calls({ wall, store, read, urlOf, shown, need, clock, app, identityOf }: Network): void {
  const methods: RpcMethods = {
    ...wall.methods,
    'identity.me': (_, identity) => ({
      kind: identity.kind,
      name: identity.kind === 'page' ? identity.name : 'M. Okonedo-Brandt',
    }),
    'photo.put': ({ file, base64 }) => {
      store.putMedia(shelf, String(file), Buffer.from(String(base64), 'base64'));
      return { file: String(file) };
    },
    'event.create': ({ as, event, reference, announce = true }, identity) => {
      const wanted = read(event);
      const body = {
        ...wanted,
        held: looksAt.test(wanted.about ?? ''),
        published_as: identity.kind === 'page' && as === 'page' ? ('page' as const) : ('person' as const),
        page: identity.kind === 'page' ? identity.name : firstPage,
      };
      const made = store.make<SocialEvent>(shelf, String(reference), body);
      // Unless it is told not to, it posts that there is such an event.
      if (announce !== false) wall.announce(body.headline, urlOf(made.id), body);
      return shown(made.id, made.body);
    },
    'event.update': ({ id, event, as }, identity) => {
      const found = need(id);
      const next = {
        ...read({ ...found.body, ...(event as object) }),
        held: found.body.held ?? false,
        page: found.body.page ?? firstPage,
        published_as: as === 'page' && identity.kind === 'page' ? ('page' as const) : found.body.published_as,
      };
      if (movedLate(found.body, next, clock.now()))
        throw new RpcError(-32010, 'a start cannot be moved in the last 24 hours', 'times');
      store.change(shelf, found.id, next);
      return shown(found.id, next);
    },
    'event.delete': ({ id }) => {
      store.remove(shelf, need(id).id);
      return { deleted: true };
    },
    'profile.get': ({ handle }) => ({ name: profiles[String(handle)] ?? null }),
    'event.get': ({ id }) => shown(need(id).id, need(id).body),
    'event.find': ({ reference }) =>
      store.find<SocialEvent>(shelf, String(reference)).map((thing) => shown(thing.id, thing.body)),
  };

  app.post('/rpc', async (c) => {
    const { id, method, params } = z
      .object({ id: z.unknown(), method: z.string(), params: z.record(z.string(), z.unknown()) })
      .parse(await c.req.json());
    const answer = (body: object) => c.json({ jsonrpc: '2.0', id, ...body });
    const token = /^Bearer (.+)$/.exec(c.req.header('authorization') ?? '')?.[1];
    const identity = token === undefined ? null : identityOf(token);
    if (identity === null) return answer({ error: { code: -32001, message: 'unknown token' } });
    const work = methods[method];
    if (!work) return answer({ error: { code: -32601, message: 'no such method' } });
    try {
      return answer({ result: store.whole(() => work(params, identity)) });
    } catch (error) {
      if (!(error instanceof RpcError)) throw error;
      return answer({
        error: { code: error.code, message: error.message, ...(error.field ? { data: { field: error.field } } : {}) },
      });
    }
  });
}

/** What the public sees. */
function publicPages({ app, store, wall, seen, dataOf }: Network): void {
  app.get('/photos/:file', (c) => {
    const bytes = store.media(shelf, c.req.param('file'));
    return bytes ? c.body(new Uint8Array(bytes), 200, { 'content-type': 'image/jpeg' }) : c.notFound();
  });
  const front = (name: string) =>
    page(
      `${name} on Hearthside`,
      style,
      html`${head}
        <main>
          ${wall.front(name)}
          ${store
            .list<SocialEvent>(shelf)
            .filter(
              ({ body }) =>
                body.visible && !body.held && body.published_as === 'page' && (body.page ?? firstPage) === name,
            )
            .map(({ id, body }) => html`<a class="chip" href="/hearthside/e/${id}">${body.headline}</a>`)}
        </main>`,
    );
  app.get('/', (c) => c.html(front(firstPage)));
  // Each further page has a front of its own.
  app.get('/pages/ninefold-choir', (c) => c.html(front('The Ninefold Choir')));
  app.get('/e/:file{[0-9a-f]+\\.ics}', (c) => {
    const found = store.get<SocialEvent>(shelf, c.req.param('file').replace('.ics', ''));
    return found && seen(found.body) ? asCalendar(c, dataOf(found.id, found.body)) : c.notFound();
  });
  app.get('/e/:id', (c) => {
    const found = store.get<SocialEvent>(shelf, c.req.param('id'));
    if (!found?.body.visible || found.body.held)
      return c.html(
        page(
          'Not here',
          style,
          html`${head}
            <main>This event is not shown.</main>`,
        ),
        404,
      );
    return c.html(eventPage(found.body, dataOf(found.id, found.body)));
  });
  wall.routes(app, (title, body) =>
    page(
      title,
      style,
      html`${head}
        <main>${body}</main>`,
    ),
  );
}

/** What the owner sees and does there by hand. */
function ownerSide({ app, store, wall }: Network): void {
  ownerPages<SocialEvent>(app, {
    store,
    shelf,
    name: 'Hearthside',
    row: ({ body }) => ({
      title: body.headline,
      state: `${body.refused ? 'turned down' : body.held ? 'held for a look' : body.visible ? 'visible' : 'hidden'}, by the ${body.published_as}`,
    }),
    more: wall.rows,
    fields: ({ headline, about, where, times: [first] }) => [
      { name: 'headline', label: 'Title', value: headline },
      { name: 'about', label: 'Text', value: about ?? '', long: true },
      { name: 'where', label: 'Place', value: where ?? '' },
      {
        name: 'begins',
        label: 'First time begins',
        value: first ? say(first.begins * 1000, first.zone, 'YYYY-MM-DD HH:mm') : '',
      },
    ],
    edit(body, { headline = '', about = '', where = '', begins = '' }) {
      const at = readLocal(begins, body.times[0]?.zone ?? 'UTC');
      if (at === null) return `“${begins}” is no date and time; write 2027-02-04 20:00`;
      if (headline.trim() === '' || headline.length > 58) return 'The title has 1 to 58 characters';
      const times = body.times.map((time, i) => (i === 0 ? { ...time, begins: at / 1000 } : time));
      return { ...body, headline: headline.trim(), about, where, times };
    },
    dates: 'times',
    acts: {
      flip: {
        label: (body) => (body.visible ? 'Hide' : 'Show'),
        does: (body) => ({ ...body, visible: !body.visible }),
      },
      let: {
        label: (body) => (body.held ? 'Let it through' : null),
        does: (body) => ({ ...body, held: false, refused: false }),
      },
      down: {
        label: (body) => (body.refused ? null : 'Turn it down'),
        does: (body) => ({ ...body, held: true, refused: true }),
      },
    },
  });
}

function movedLate(before: SocialEvent, after: SocialEvent, now: number): boolean {
  return before.times.some((time) => {
    const moved = after.times.find((other) => other.tag === time.tag);
    return moved !== undefined && moved.begins !== time.begins && time.begins * 1000 - now < dayMs;
  });
}

const style = `
body { background: #fbf1e4; color: #33241a } header { padding: 16px 0; text-align: center; font: 700 22px Display; color: #b0492b; border-bottom: 4px double #e3b98f } main { width: min(680px, 94vw); margin: 22px auto }
article { background: #fffaf2; border-radius: 20px; overflow: hidden; padding-bottom: 20px } article > * { margin-left: 26px; margin-right: 26px } article > img { margin: 0; width: 100% } h1 { font: 700 27px/1.15 Display; margin-top: 18px; margin-bottom: 6px }
.at { color: #b0492b; font-weight: 600 } .go { display: inline-block; padding: 9px 18px; border-radius: 20px; background: #b0492b; color: #fff; text-decoration: none } .chip { display: block; padding: 13px 20px; margin: 9px 0; background: #fffaf2; border-radius: 16px; text-decoration: none } .who { color: #8a6c55; font-size: 14px } .pre { white-space: pre-line } .post { margin: 0 0 18px; padding-top: 14px } .post::after { content: ""; display: block; clear: both } .post > img { width: 210px; float: right; margin: 0 26px 6px 18px; border-radius: 14px }
`;
const head = html`<header>Hearthside</header>`;

function eventPage(event: SocialEvent, data: EventData) {
  return page(
    event.headline,
    style,
    html`${head}
      <main>
        <article>
          ${eventLd(data)}<link rel="alternate" type="text/calendar" href="${data.url}.ics" />
          ${event.cover ? html`<img src="/hearthside/photos/${event.cover.file}" alt="${event.cover.alt}" />` : ''}
          <h1>${event.headline}</h1>
          <p class="who">
            ${event.published_as === 'page' ? `by the page ${event.page ?? firstPage}` : 'by M. Okonedo-Brandt (a person)'}
          </p>
          ${event.notice ? html`<p class="at">${event.notice}</p>` : ''}${event.times.map((t) => (t.standing === 'waiting' ? html`<p class="at">Waiting for its new date</p>` : html`<p class="at">${t.standing === 'off' ? 'Off: ' : ''}<time datetime="${stamp(t.begins * 1000)}">${say(t.begins * 1000, t.zone)}</time>${t.doors ? html` · doors ${say(t.doors * 1000, t.zone, 'HH:mm')}` : ''}</p>`))}
          <p>${event.where ?? ''}</p>
          <p>${event.featuring ?? ''}</p>
          ${event.rhythm ? html`<p class="at">${event.rhythm}</p>` : ''}<p class="pre">${event.about ?? ''}</p>
          <p>${event.entry ?? ''}</p>
          ${event.guest_list ? html`<p class="who">Who comes: nobody yet</p>` : ''}${event.guests_write ? html`<p class="who">Those who come may write here.</p>` : ''}${event.tickets ? html`<p><a class="go" href="${event.tickets}">Get tickets</a></p>` : ''}
        </article>
      </main>`,
  );
}
