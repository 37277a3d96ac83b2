import type { Hono } from 'hono';
import { html } from 'hono/html';
import { z } from 'zod';
import type { Outside } from '../../outside';
import { postLd } from '../../ld';
import { ownerForm } from '../../owner';
import { say, type page } from '../../page';
import { RpcError, type RpcMethods } from '../../rpc';

const shelf = 'hearthside-posts';
const firstPage = 'Tallow Yard';
const dayMs = 86_400_000;
/** A pin holds for so long, then it lapses. */
const pinMs = 10 * dayMs;

const postSchema = z.object({
  text: z.string().min(1).max(1800),
  link: z.url().nullish(),
  photo: z.object({ file: z.string(), alt: z.string() }).nullish(),
  pinned: z.boolean().default(false),
  visible: z.boolean().default(true),
});
type Post = Omit<z.infer<typeof postSchema>, 'pinned'> & {
  pinnedUntil: number | null;
  at: number;
  published_as: 'page' | 'person';
  page?: string;
};

/** What stands on the wall, and how it is kept and shown. */
function wallOf({ store, clock, base }: Outside) {
  const pinned = (post: Post) => post.pinnedUntil !== null && post.pinnedUntil > clock.now();
  const shown = (id: string, post: Post) => ({
    id,
    url: `${base}/hearthside/p/${id}`,
    text: post.text,
    link: post.link,
    photo: post.photo,
    visible: post.visible,
    published_as: post.published_as,
    pinned: pinned(post),
    pinned_until: post.pinnedUntil === null ? null : Math.floor(post.pinnedUntil / 1000),
  });
  const need = (id: unknown) => {
    const found = store.get<Post>(shelf, String(id));
    if (!found) throw new RpcError(-32004, 'no such post');
    return found;
  };
  const read = (input: unknown) => {
    const parsed = postSchema.safeParse(input);
    if (parsed.success) return parsed.data;
    throw new RpcError(
      -32602,
      parsed.error.issues[0]?.message ?? 'not accepted',
      parsed.error.issues[0]?.path.join('.') ?? null,
    );
  };
  /** A pin that is there keeps its moment; asking for it again does not make it longer. */
  const until = (before: Post | null, wanted: boolean) =>
    !wanted ? null : before && pinned(before) ? before.pinnedUntil : clock.now() + pinMs;
  const save = (id: string, post: Post) => {
    store.change(shelf, id, post);
    return shown(id, post);
  };

  const standing = (name: string) =>
    store
      .list<Post>(shelf)
      .filter(
        (thing) => thing.body.visible && thing.body.published_as === 'page' && (thing.body.page ?? firstPage) === name,
      )
      .sort((a, b) => Number(pinned(b.body)) - Number(pinned(a.body)) || b.body.at - a.body.at);
  const postHtml = (id: string, post: Post) =>
    html`<article class="post">
      ${postLd({ text: post.text, url: `${base}/hearthside/p/${id}`, at: post.at, by: post.page ?? firstPage })}
      ${pinned(post) ? html`<p class="who">pinned until ${say(post.pinnedUntil ?? 0, 'Europe/Dublin')}</p>` : ''}
      ${post.photo ? html`<img src="/hearthside/photos/${post.photo.file}" alt="${post.photo.alt}" />` : ''}
      <p class="pre">${post.text}</p>
      ${post.link ? html`<p><a class="go" href="${post.link}">Tickets</a></p>` : ''}
      <p class="who">
        <a href="/hearthside/p/${id}">${say(post.at, 'Europe/Dublin')}</a>,
        ${post.published_as === 'page' ? `by the page ${post.page ?? firstPage}` : 'by M. Okonedo-Brandt (a person)'}
      </p>
    </article>`;

  return { store, clock, pinned, shown, need, read, until, save, standing, postHtml };
}

type Wall = ReturnType<typeof wallOf>;

/** The posts of the social page: its share of the JSON-RPC methods, its public pages and its owner's pages. */
export function posts(outside: Outside) {
  const wall = wallOf(outside);
  const { store, clock, pinned, standing, postHtml } = wall;
  /** Posts that there is a new event. */
  const announce = (headline: string, link: string, by: Pick<Post, 'published_as' | 'page'>) => {
    const { published_as, page: name } = by;
    const post = { text: `New: ${headline}`, link, visible: true, pinnedUntil: null, at: clock.now() };
    store.make<Post>(shelf, '', { ...post, published_as, ...(name === undefined ? {} : { page: name }) });
  };
  return {
    methods: methodsOf(wall),
    announce,
    routes: (app: Hono, dress: Dress) => routes(app, dress, wall),
    front: (name: string) => standing(name).map((thing) => postHtml(thing.id, thing.body)),
    rows: () =>
      store.list<Post>(shelf).map(({ id, body }) => ({
        id: `posts/${id}`,
        title: body.text.slice(0, 60),
        state: pinned(body) ? 'a post, pinned' : 'a post',
      })),
  };
}

/** Its share of the JSON-RPC methods. */
function methodsOf({ store, clock, pinned, shown, need, read, until, save }: Wall): RpcMethods {
  return {
    'post.create': ({ as, post, reference }, identity) => {
      const { pinned: pin, ...rest } = read(post);
      const made = store.make<Post>(shelf, String(reference), {
        ...rest,
        pinnedUntil: until(null, pin),
        at: clock.now(),
        published_as: identity.kind === 'page' && as === 'page' ? 'page' : 'person',
        page: identity.kind === 'page' ? identity.name : firstPage,
      });
      return shown(made.id, made.body);
    },
    'post.update': ({ id, post, as }, identity) => {
      const { id: key, body } = need(id);
      const { pinned: pin, ...rest } = read({ ...body, pinned: pinned(body), ...(post as object) });
      return save(key, {
        ...body,
        ...rest,
        pinnedUntil: until(body, pin),
        published_as: as === 'page' && identity.kind === 'page' ? 'page' : body.published_as,
      });
    },
    'post.delete': ({ id }) => {
      store.remove(shelf, need(id).id);
      return { deleted: true };
    },
    'post.pin': ({ id }) => {
      const { id: key, body } = need(id);
      return save(key, { ...body, pinnedUntil: clock.now() + pinMs });
    },
    'post.get': ({ id }) => shown(need(id).id, need(id).body),
    'post.find': ({ reference }) =>
      store.find<Post>(shelf, String(reference)).map((thing) => shown(thing.id, thing.body)),
  };
}

/** How a page of it is dressed. */
type Dress = (title: string, body: ReturnType<typeof html>) => ReturnType<typeof page>;

/** Adds the public page and the owner's page of a post. */
function routes(app: Hono, dress: Dress, { store, pinned, postHtml }: Wall): void {
  app.get('/p/:id', (c) => {
    const found = store.get<Post>(shelf, c.req.param('id'));
    if (!found?.body.visible) return c.html(dress('Not here', html`This post is not shown.`), 404);
    return c.html(dress('A post', html`${postHtml(found.id, found.body)}`));
  });
  app.on(['GET', 'POST'], '/owner/posts/:id', async (c) => {
    const found = store.get<Post>(shelf, c.req.param('id') ?? '');
    if (!found) return c.notFound();
    let problem: string | null = null;
    if (c.req.method === 'POST') {
      const form = await c.req.parseBody();
      const text = String(form.text ?? '').trim();
      if (form.act === 'delete') {
        store.remove(shelf, found.id);
        return c.redirect('/hearthside/owner');
      }
      if (text === '' || text.length > 1800) problem = 'The text has 1 to 1800 characters';
      else {
        store.change(shelf, found.id, {
          ...found.body,
          text,
          pinnedUntil: form.act === 'unpin' ? null : found.body.pinnedUntil,
        });
        return c.redirect(`/hearthside/owner/posts/${found.id}`);
      }
    }
    return c.html(
      ownerForm(
        'Hearthside',
        '/hearthside/owner',
        [{ name: 'text', label: 'Text', value: found.body.text, long: true }],
        pinned(found.body) ? [{ act: 'unpin', label: 'Take the pin off' }] : [],
        problem,
      ),
    );
  });
}
