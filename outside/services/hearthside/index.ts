import { Hono } from 'hono';
import { html } from 'hono/html';
import { z } from 'zod';
import type { Outside } from '../../server';
import type { Service } from '../../service';
import { ownerForm, ownerList } from '../../owner';
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
  times: z
    .array(
      z.object({
        tag: z.string(),
        begins: z.number(),
        finishes: z.number().nullish(),
        doors: z.number().nullish(),
        zone: z.string(),
      }),
    )
    .min(1)
    .max(4),
});
type SocialEvent = z.infer<typeof eventSchema> & { published_as: 'page' | 'person'; held?: boolean; page?: string };

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
  const { store, clock, base } = outside;
  const wall = posts(outside);
  const app = new Hono({ strict: false });
  const urlOf = (id: string) => `${base}/${shelf}/e/${id}`;
  const shown = (id: string, event: SocialEvent) => ({ ...event, id, url: urlOf(id) });
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
    'profile.get': ({ handle }) => ({ name: profiles[String(handle)] ?? null }),
    'event.get': ({ id }) => shown(need(id).id, need(id).body),
    'event.find': ({ reference }) =>
      store.find<SocialEvent>(shelf, String(reference)).map((one) => shown(one.id, one.body)),
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
    return c.html(eventPage(found.body));
  });
  wall.routes(app, (title, body) =>
    page(
      title,
      style,
      html`${head}
        <main>${body}</main>`,
    ),
  );
  app.get('/owner', (c) =>
    c.html(
      ownerList('Hearthside', `/${shelf}`, [
        ...store.list<SocialEvent>(shelf).map(({ id, body }) => ({
          id,
          title: body.headline,
          state: `${body.held ? 'held for a look' : body.visible ? 'visible' : 'hidden'}, by the ${body.published_as}`,
        })),
        ...wall.rows(),
      ]),
    ),
  );
  app.on(['GET', 'POST'], '/owner/:id', async (c) => {
    const id = c.req.param('id') ?? '';
    const found = store.get<SocialEvent>(shelf, id);
    if (!found) return c.notFound();
    const first = found.body.times[0];
    const zone = first?.zone ?? 'UTC';
    let problem: string | null = null;
    if (c.req.method === 'POST') {
      const form = await c.req.parseBody();
      if (form.act === 'delete') {
        store.remove(shelf, id);
        return c.redirect(`/${shelf}/owner`);
      }
      const at = readLocal(String(form.begins ?? ''), zone);
      const headline = String(form.headline ?? '').trim();
      if (at === null) problem = `“${String(form.begins)}” is no date and time; write 2027-02-04 20:00`;
      else if (headline === '' || headline.length > 58) problem = 'The title has 1 to 58 characters';
      else {
        const times = found.body.times.map((one, i) => (i === 0 ? { ...one, begins: at / 1000 } : one));
        const visible = form.act === 'flip' ? !found.body.visible : found.body.visible;
        const held = form.act === 'let' ? false : (found.body.held ?? false);
        store.change(shelf, id, {
          ...found.body,
          headline,
          about: String(form.about ?? ''),
          where: String(form.where ?? ''),
          times,
          visible,
          held,
        });
        return c.redirect(`/${shelf}/owner/${id}`);
      }
    }
    const fields = [
      { name: 'headline', label: 'Title', value: found.body.headline },
      { name: 'about', label: 'Text', value: found.body.about ?? '', long: true },
      { name: 'where', label: 'Place', value: found.body.where ?? '' },
      {
        name: 'begins',
        label: 'First time begins',
        value: first ? say(first.begins * 1000, zone, 'YYYY-MM-DD HH:mm') : '',
      },
    ];
    return c.html(
      ownerForm(
        'Hearthside',
        `/${shelf}/owner`,
        fields,
        [
          { act: 'flip', label: found.body.visible ? 'Hide' : 'Show' },
          ...(found.body.held ? [{ act: 'let', label: 'Let it through' }] : []),
        ],
        problem,
      ),
    );
  });
  return app;
}

function movedLate(before: SocialEvent, after: SocialEvent, now: number): boolean {
  return before.times.some((one) => {
    const moved = after.times.find((other) => other.tag === one.tag);
    return moved !== undefined && moved.begins !== one.begins && one.begins * 1000 - now < dayMs;
  });
}

const style = `
body { background: #fbf1e4; color: #33241a } header { padding: 16px 0; text-align: center; font: 700 22px Display; color: #b0492b; border-bottom: 4px double #e3b98f } main { width: min(680px, 94vw); margin: 22px auto }
article { background: #fffaf2; border-radius: 20px; overflow: hidden; padding-bottom: 20px } article > * { margin-left: 26px; margin-right: 26px } article > img { margin: 0; width: 100% } h1 { font: 700 27px/1.15 Display; margin-top: 18px; margin-bottom: 6px }
.at { color: #b0492b; font-weight: 600 } .go { display: inline-block; padding: 9px 18px; border-radius: 20px; background: #b0492b; color: #fff; text-decoration: none } .chip { display: block; padding: 13px 20px; margin: 9px 0; background: #fffaf2; border-radius: 16px; text-decoration: none } .who { color: #8a6c55; font-size: 14px } .pre { white-space: pre-line } .post { margin: 0 0 18px; padding-top: 14px } .post::after { content: ""; display: block; clear: both } .post > img { width: 210px; float: right; margin: 0 26px 6px 18px; border-radius: 14px }
`;
const head = html`<header>Hearthside</header>`;

function eventPage(one: SocialEvent) {
  return page(
    one.headline,
    style,
    html`${head}
      <main>
        <article itemscope itemtype="https://schema.org/Event">
          ${one.cover ? html`<img src="/hearthside/photos/${one.cover.file}" alt="${one.cover.alt}" />` : ''}
          <h1 itemprop="name">${one.headline}</h1>
          <p class="who">
            ${one.published_as === 'page' ? `by the page ${one.page ?? firstPage}` : 'by M. Okonedo-Brandt (a person)'}
          </p>
          ${one.notice ? html`<p class="at">${one.notice}</p>` : ''}${one.times.map((t) => html`<p class="at"><time itemprop="startDate" datetime="${stamp(t.begins * 1000)}">${say(t.begins * 1000, t.zone)}</time>${t.doors ? html` · doors ${say(t.doors * 1000, t.zone, 'HH:mm')}` : ''}</p>`)}
          <p itemprop="location">${one.where ?? ''}</p>
          <p>${one.featuring ?? ''}</p>
          ${one.rhythm ? html`<p class="at">${one.rhythm}</p>` : ''}<p class="pre">${one.about ?? ''}</p>
          <p>${one.entry ?? ''}</p>
          ${one.tickets ? html`<p itemprop="offers" itemscope itemtype="https://schema.org/Offer"><a class="go" itemprop="url" href="${one.tickets}">Get tickets</a></p>` : ''}
        </article>
      </main>`,
  );
}
