import { Hono } from 'hono';
import { html } from 'hono/html';
import { simpleParser } from 'mailparser';
import { z } from 'zod';
import type { Outside } from '../../outside';
import type { Service } from '../../stand-in';
import { ownerPages, plainRefusal } from '../../entries';
import { page, say } from '../../page';

const shelf = 'postbag';
const user = 'letters@tallowyard.example';
/** Segments of the list, with how many are in each. */
const segments: Record<string, number> = { everyone: 1904, members: 212, families: 340, friends: 58, late: 605 };

interface Letter {
  subject: string;
  preview: string;
  words: string;
  link: string | null;
  picture: { file: string; alt: string } | null;
  segment: string;
  message_id: string;
  answers: string | null;
  html: string;
  at: number;
  opens: number;
}

export const service: Service = {
  make: postbag,
  accounts: (once, secret) => ({ postbag: { user, key: once('postbag-key', secret) } }),
  mail: {
    login: (store, name, word) => name === user && word === store.setting('postbag-key'),
    knows: (to) => segments[to.split('@')[0] ?? ''] !== undefined,
    take,
  },
};

const firstLine = (value: unknown) => (typeof value === 'string' ? value : '');

/** Takes a letter in as it came over SMTP: what it says is read out of the mail itself. */
async function take(
  { store, clock }: Pick<Outside, 'store' | 'clock'>,
  raw: Buffer,
  to: readonly string[],
): Promise<void> {
  const mail = await simpleParser(raw);
  const [body = ''] = (mail.text ?? '').replaceAll('\r\n', '\n').split('\n-- \n');
  const lines = body.trimEnd().split('\n');
  const last = lines[lines.length - 1] ?? '';
  const link = /^→ (https?:\/\/\S+)$/.exec(last)?.[1] ?? null;
  const [shown] = mail.attachments;
  const words = (link === null ? lines : lines.slice(0, -1)).join('\n').trim();
  if ((mail.subject ?? '').length > 90 || words === '')
    throw new Error('a letter has a subject of up to 90 characters, and words');
  const letter: Letter = {
    subject: mail.subject ?? '',
    preview: firstLine(mail.headers.get('x-preview')),
    words,
    link,
    picture: shown?.filename ? { file: shown.filename, alt: altIn(String(mail.html || '')) } : null,
    segment: to[0]?.split('@')[0] ?? '',
    message_id: (mail.messageId ?? '').replace(/[<>]/g, ''),
    answers: mail.inReplyTo?.replace(/[<>]/g, '') ?? null,
    html: String(mail.html || ''),
    at: clock.now(),
    opens: 0,
  };
  store.make<Letter>(shelf, firstLine(mail.headers.get('x-reference')), letter);
}

const altIn = (text: string) =>
  (/<img[^>]*\salt="([^"]*)"/.exec(text)?.[1] ?? '')
    .replaceAll('&quot;', '"')
    .replaceAll('&lt;', '<')
    .replaceAll('&gt;', '>')
    .replaceAll('&amp;', '&');

/** The mailing list: letters in by SMTP, and by REST what became of them. A letter that was sent cannot be unsent. */
function postbag({ store, clock, base, smtpPort }: Outside) {
  const app = new Hono({ strict: false });
  const api = new Hono();
  api.use(async (c, next) =>
    c.req.header('x-list-key') === store.setting('postbag-key') ? next() : plainRefusal(c, 401, 'unknown key'),
  );
  api.get('/account', (c) =>
    c.json({
      name: 'Letters from the Yard',
      may_send: true,
      smtp_port: smtpPort(),
      segments,
      leave: `${base}/postbag/leave`,
    }),
  );
  const shown = (id: string, { html: _, at, ...letter }: Letter) => {
    // Some of those who have it open it, in their own time.
    const share = Math.min(0.41, (clock.now() - at) / (48 * 3_600_000));
    return {
      ...letter,
      id,
      state: 'sent',
      went_to: segments[letter.segment] ?? 0,
      opens: Math.round((segments[letter.segment] ?? 0) * Math.max(0, share)),
    };
  };
  api.get('/letters', (c) =>
    c.json(store.find<Letter>(shelf, c.req.query('reference') ?? '').map(({ id, body }) => shown(id, body))),
  );
  api.get('/letters/:id', (c) => {
    const found = store.get<Letter>(shelf, c.req.param('id'));
    return found ? c.json(shown(found.id, found.body)) : plainRefusal(c, 404, 'there is no such letter');
  });
  app.route('/api', api);
  const shell = (title: string, body: ReturnType<typeof html>) =>
    page(title, style, html`<header>Postbag</header><main>${body}</main>`);
  app.get('/', (c) =>
    c.html(
      shell(
        'Letters from the Yard',
        html`<h1>Letters from the Yard</h1>
          ${store
            .list<Letter>(shelf)
            .reverse()
            .map(
              ({ id, body }) =>
                html`<p><a href="/postbag/l/${id}">${body.subject}</a> <small>${say(body.at, 'Europe/Dublin')}, to ${body.segment}</small></p>`,
            )}`,
      ),
    ),
  );
  app.get('/l/:id', (c) => {
    const found = store.get<Letter>(shelf, c.req.param('id'));
    return found
      ? c.html(
          shell(
            found.body.subject,
            html`<h1>${found.body.subject}</h1><p class="pre">${found.body.words}</p>${found.body.link ? html`<p><a href="${found.body.link}">${found.body.link}</a></p>` : ''}`,
          ),
        )
      : c.notFound();
  });
  app.on(['GET', 'POST'], '/leave', (c) => c.html(shell('Left', html`<p>You will have no more letters.</p>`)));
  ownerPages<Letter>(app, {
    store,
    shelf,
    name: 'Postbag',
    row: ({ body }) => ({ title: body.subject, state: `sent to ${body.segment}` }),
    fields: (body) => [{ name: 'subject', label: 'Subject, on the desk alone', value: body.subject }],
    edit: (body, form) => {
      const read = z.string().min(1).max(90).safeParse(form.subject);
      return read.success ? { ...body, subject: read.data } : 'A subject has 1 to 90 characters';
    },
    acts: {},
  });
  return app;
}

const style = `
body { background: #ece6da; color: #2f2a22 } header { padding: 26px 0 8px; text-align: center; font: 600 21px Display } main { width: min(600px, 92vw); margin: 0 auto; background: #fffdf8; padding: 24px 30px; box-shadow: 0 1px 0 #cbbf9f } h1 { font: 600 24px Display } .pre { white-space: pre-line }
`;
