import { Hono, type Context } from 'hono';
import { html } from 'hono/html';
import { z } from 'zod';
import type { Outside } from '../../outside';
import type { Service } from '../../stand-in';
import { entriesApi, ownerPages, plainRefusal } from '../../entries';
import { postLd } from '../../ld';
import { page, say } from '../../page';

const shelf = 'murmurline';
const limit = 340;
const linkLength = 18;
const editableMs = 20 * 60_000;
const link = /https?:\/\/\S+/g;
const segmenter = new Intl.Segmenter('en', { granularity: 'grapheme' });

/** Its own count: graphemes, and every link as eighteen of them. */
function lengthOf(text: string): number {
  let n = (text.match(link) ?? []).length * linkLength;
  for (const _ of segmenter.segment(text.replace(link, ''))) n += 1;
  return n;
}

const noteSchema = z.looseObject({
  note: z
    .string()
    .min(1)
    .max(20_000)
    .refine((text) => lengthOf(text) <= limit, `a note has at most ${limit} characters`),
  picture_file: z.string().max(200).nullish(),
  picture_alt: z.string().max(1000).nullish(),
  in_reply_to: z.string().max(40).nullish(),
  visible: z.enum(['yes', 'no']).default('yes'),
});
type Note = z.infer<typeof noteSchema> & { at?: number };

export const service: Service = {
  make: murmurline,
  accounts: (once, secret) => ({ murmurline: { token: once('murmurline-token', secret) } }),
};

/** Short notices: forms in, JSON out. A note can be changed for twenty minutes. */
function murmurline(outside: Outside) {
  const line = lineOf(outside);
  const { app, api } = line;
  accountCalls(line);
  app.route('/api', api);
  publicPages(line);
  ownerSide(line);
  return app;
}

type Line = ReturnType<typeof lineOf>;

/** The line of notes, and what its parts share. */
function lineOf({ store, clock, base }: Outside) {
  const app = new Hono({ strict: false });
  const api = new Hono();
  const urlOf = (id: string) => `${base}/${shelf}/n/${id}`;
  const seen = (id: string): boolean => {
    const found = store.get<Note>(shelf, id);
    if (!found || found.body.visible === 'no') return false;
    // What hangs beneath a note that is gone is gone with it.
    return found.body.in_reply_to ? seen(found.body.in_reply_to) : true;
  };
  return { api, store, clock, urlOf, seen, app, base };
}

/** The interface: notes and their pictures. */
function accountCalls({ api, store, clock, urlOf, seen }: Line): void {
  api.use(async (c, next) =>
    c.req.header('authorization') === `Token ${store.setting('murmurline-token')}`
      ? next()
      : plainRefusal(c, 401, 'unknown token'),
  );
  api.get('/account', (c) => c.json({ handle: '@tallowyard', may_post: true }));
  api.put('/pictures/:file', async (c) => {
    store.putMedia(shelf, c.req.param('file'), Buffer.from(await c.req.arrayBuffer()));
    return c.json({ file: c.req.param('file') }, 201);
  });
  entriesApi<Note>(api, {
    store,
    shelf,
    path: '/notes',
    schema: noteSchema as unknown as z.ZodType<Note>,
    refuse: plainRefusal,
    read: async (c: Context) => z.record(z.string(), z.string()).parse(await c.req.parseBody()),
    beside: () => ({ at: clock.now() }),
    shown: ({ id, body: { picture_file: file, picture_alt: alt, ...body } }) => ({
      ...body,
      id,
      url: urlOf(id),
      picture: file ? { file, alt: alt ?? '' } : null,
      visible: seen(id) ? 'yes' : 'no',
    }),
    lock(before, after) {
      const same = before.note === after.note && before.picture_file === after.picture_file;
      return same || clock.now() - (before.at ?? 0) <= editableMs
        ? null
        : { status: 423, field: 'note', message: 'a note can be changed for twenty minutes' };
    },
  });
}

/** What the public sees. */
function publicPages({ app, store, seen, urlOf, base }: Line): void {
  app.get('/pictures/:file', (c) => {
    const bytes = store.media(shelf, c.req.param('file'));
    return bytes ? c.body(new Uint8Array(bytes), 200, { 'content-type': 'image/jpeg' }) : c.notFound();
  });
  const shell = (title: string, body: ReturnType<typeof html>) =>
    page(title, style, html`<header>~ murmurline</header><main>${body}</main>`);
  const noteHtml = (id: string, { note, picture_file: file, picture_alt: alt, at = 0, in_reply_to: to }: Note) =>
    html`<article>
      ${to ? html`<p class="dim">in reply</p>` : ''}
      <p class="pre">${note}</p>
      ${file ? html`<img src="/murmurline/pictures/${file}" alt="${alt ?? ''}" />` : ''}
      <p class="dim"><a href="/murmurline/n/${id}">${say(at, 'Europe/Dublin')}</a></p>
    </article>`;
  app.get('/', (c) =>
    c.html(
      shell(
        '@tallowyard',
        html`${store
          .list<Note>(shelf)
          .filter(({ id }) => seen(id))
          .reverse()
          .map(({ id, body }) => noteHtml(id, body))}`,
      ),
    ),
  );
  app.get('/n/:id', (c) => {
    const found = store.get<Note>(shelf, c.req.param('id'));
    if (!found || !seen(found.id)) return c.html(shell('Not here', html`<p>There is no such note.</p>`), 404);
    const { note, at = 0, picture_file: file } = found.body;
    return c.html(
      shell(
        'A note',
        html`${postLd({ text: note, url: urlOf(found.id), at, by: 'Tallow Yard', image: file ? `${base}/murmurline/pictures/${file}` : null })}${noteHtml(found.id, found.body)}`,
      ),
    );
  });
}

/** What the owner sees and does there by hand. */
function ownerSide({ app, store }: Line): void {
  ownerPages<Note>(app, {
    store,
    shelf,
    name: 'Murmurline',
    row: ({ body }) => ({
      title: body.note.slice(0, 60),
      state: `${body.visible === 'yes' ? 'seen' : 'removed'}${body.in_reply_to ? ', a reply' : ''}`,
    }),
    fields: (body) => [{ name: 'note', label: 'Note', value: body.note, long: true }],
    edit: (body, { note = '' }) =>
      noteSchema.safeParse({ note }).success ? { ...body, note } : `A note has 1 to ${limit} characters`,
    acts: {
      remove: {
        label: (body) => (body.visible === 'yes' ? 'Remove it from sight' : null),
        does: (body) => ({ ...body, visible: 'no' }),
      },
    },
  });
}

const style = `
body { background: #14171c; color: #dfe6e9 } header { padding: 22px 0; text-align: center; font: 400 19px Mono; color: #8fb7c9 } main { width: min(540px, 92vw); margin: 0 auto } article { border-top: 1px solid #33404a; padding: 12px 0 } .pre { white-space: pre-line; margin: 0 0 8px } .dim { color: #7e95a0; font-size: 13px } img { border-radius: 2px; margin: 6px 0 }
`;
