import { Hono } from 'hono';
import { html } from 'hono/html';
import Papa from 'papaparse';
import { z } from 'zod';
import type { Outside } from '../../outside';
import type { Service } from '../../stand-in';
import { ownerPages } from '../../entries';
import { eventLd } from '../../ld';
import { page, readLocal, say } from '../../page';

const shelf = 'pennyseat';
const tray = 'pennyseat-tray';
const zone = 'Europe/Dublin';
const hourMs = 3_600_000;
/** Venues of its register. A row that names another is turned down alone. */
const venues: Record<string, string> = {
  TALLOW: 'Tallow Yard',
  TYVAT: 'Tallow Yard, The Vat',
  TYWICK: 'Tallow Yard, Wick Room',
  TYDRIP: 'Tallow Yard, The Dripping Court',
};
const time = /^\d\d:\d\d( B)?$/;
const rowSchema = z.object({
  title: z.string().min(1).max(60),
  text: z.string().max(400).default(''),
  venue_code: z.string().refine((code) => venues[code] !== undefined, 'no venue has this code'),
  price: z.string().regex(/^\d+(\.\d+)?(-\d+(\.\d+)?)? [A-Z]{3}$/),
  seats: z.coerce.number().int().min(1).max(100_000),
  status: z.enum(['LIVE', 'OFF', 'CANCELLED']).default('LIVE'),
  tag: z.string().min(1).max(80),
  date: z.string().regex(/^\d\d\/\d\d\/\d{4}$/),
  time: z.string().regex(time),
});
type Row = z.infer<typeof rowSchema> & { sold: number };
interface Batch {
  name: string;
  csv: string;
  at: number;
  result: string | null;
}

function sellSome({ store }: Outside, count: number, chance: () => number): number {
  let sold = 0;
  for (let n = 0; n < count; n += 1) {
    const open = store.list<Row>(shelf).filter(({ body }) => body.status === 'LIVE' && body.sold < body.seats);
    const found = open[Math.floor(chance() * open.length)];
    if (!found) break;
    store.change<Row>(shelf, found.id, { ...found.body, sold: found.body.sold + 1 });
    sold += 1;
  }
  return sold;
}

export const service: Service = {
  make: pennyseat,
  sell: sellSome,
  accounts: (once, secret) => ({ pennyseat: { member: 'TYRD27', word: once('pennyseat-word', secret) } }),
};

/** The regional box offices: rows in CSV into a tray, answered row by row after the next full hour. */
function pennyseat(outside: Outside) {
  const counter = counterOf(outside);
  const { app, api } = counter;
  memberCalls(counter);
  app.route('/api', api);
  publicPages(counter);
  ownerSide(counter);
  return app;
}

type Counter = ReturnType<typeof counterOf>;

/** The counter, which carries rows out in batches. */
function counterOf({ store, clock, base }: Outside) {
  const app = new Hono({ strict: false });
  const api = new Hono();
  const urlOf = (ref: string) => `${base}/${shelf}/t/${encodeURIComponent(ref)}`;
  const startOf = ({ date, time: at }: Row) =>
    readLocal(`${date.slice(6)}-${date.slice(3, 5)}-${date.slice(0, 2)} ${at.slice(0, 5)}`, zone) ?? 0;
  /**
   * Works through what was laid in before the last full hour. Nobody turns a wheel: it is done when somebody next
   * looks.
   */
  const work = () => {
    const hour = Math.floor(clock.now() / hourMs) * hourMs;
    for (const { id, body } of store.list<Batch>(tray)) {
      if (body.result !== null || body.at >= hour) continue;
      const rows = z
        .array(z.record(z.string(), z.string()))
        .catch([])
        .parse(Papa.parse(body.csv, { header: true, skipEmptyLines: true }).data);
      store.change(tray, id, { ...body, result: Papa.unparse(rows.map(carryOut), { newline: '\r\n' }) });
    }
  };
  const carryOut = (row: Record<string, string>) => {
    const { ref = '', action, reason: _, ...cells } = row;
    const [known] = store.find<Row>(shelf, ref);
    const down = (field: string, message: string, result = 'DOWN') => ({ ref, result, field, message });
    if (action !== 'ENTER' && !known) return down('ref', 'no such row');
    const { sold = 0, ...before } = known?.body ?? {};
    const read = rowSchema.safeParse({ ...before, ...cells });
    if (!read.success) {
      const [issue] = read.error.issues;
      return down(String(issue?.path[0] ?? ''), issue?.message ?? 'not accepted');
    }
    if (known?.body.status === 'CANCELLED' && read.data.status !== 'CANCELLED')
      return down('status', 'it is cancelled', 'LOCKED');
    if (known && sold > 0 && read.data.seats < known.body.seats)
      return down('seats', 'tickets are sold: only more', 'LOCKED');
    if (known) store.change<Row>(shelf, known.id, { ...read.data, sold });
    else store.make<Row>(shelf, ref, { ...read.data, sold: 0 });
    return { ref, result: 'TAKEN', field: '', message: '' };
  };
  const csv = (text: string) => new Response(text, { headers: { 'content-type': 'text/csv; charset=utf-8' } });
  return { api, store, work, clock, csv, app, startOf, urlOf };
}

/** The interface: files in, files out. */
function memberCalls({ api, store, work, clock, csv }: Counter): void {
  api.use(async (c, next) => {
    if (c.req.header('authorization') !== `Member TYRD27:${store.setting('pennyseat-word')}`)
      return c.text('unknown member', 401);
    store.whole(work);
    return next();
  });
  api.get('/member', (c) => c.json({ name: 'Tallow Yard', standing: 'good' }));
  api.put('/in/:file', async (c) => {
    const name = c.req.param('file');
    const text = await c.req.text();
    if (text.length > 1_000_000) return c.json({ message: 'a batch has at most a megabyte' }, 422);
    const [before] = store.find<Batch>(tray, name);
    // The same file again is the same batch; another under its name is refused.
    if (before && before.body.csv !== text) return c.json({ message: 'another batch has this name' }, 409);
    if (!before) store.make<Batch>(tray, name, { name, csv: text, at: clock.now(), result: null });
    return c.json({ file: name, next: Math.ceil((clock.now() + 1) / hourMs) * hourMs }, 202);
  });
  // What lies in the tray: whoever is in doubt whether a batch came asks here.
  api.get('/in/:file', (c) => {
    const [batch] = store.find<Batch>(tray, c.req.param('file'));
    return batch ? c.json({ file: batch.body.name, at: batch.body.at }) : c.json({ message: 'no such batch' }, 404);
  });
  api.get('/out/:file', (c) => {
    const [batch] = store.find<Batch>(tray, c.req.param('file'));
    return batch?.body.result == null ? c.json({ message: 'not worked through yet' }, 404) : csv(batch.body.result);
  });
  api.get('/stock.csv', (c) =>
    csv(
      Papa.unparse(
        store.find<Row>(shelf, c.req.query('ref') ?? '').map(({ reference, body }) => ({ ref: reference, ...body })),
        {
          newline: '\r\n',
          columns: ['ref', 'title', 'text', 'venue_code', 'price', 'seats', 'status', 'tag', 'date', 'time', 'sold'],
        },
      ),
    ),
  );
}

/** What the public sees. */
function publicPages({ store, work, app, startOf, urlOf }: Counter): void {
  const shell = (title: string, body: ReturnType<typeof html>) =>
    page(title, style, html`<header>PENNYSEAT</header><main>${body}</main>`);
  const live = () => {
    store.whole(work);
    return store.list<Row>(shelf).filter(({ body }) => body.status !== 'OFF');
  };
  app.get('/', (c) =>
    c.html(
      shell(
        'Pennyseat',
        html`<table>
          ${live().map(({ reference, body }) => html`<tr><td>${body.date}</td><td><a href="/pennyseat/t/${encodeURIComponent(reference ?? '')}">${body.title}</a></td><td>${venues[body.venue_code]}</td><td>${body.price}</td></tr>`)}
        </table>`,
      ),
    ),
  );
  app.get('/t/:ref', (c) => {
    const found = live().find((thing) => thing.reference === c.req.param('ref'));
    if (!found) return c.html(shell('Not on sale', html`<p>Not on sale here.</p>`), 404);
    const { title, text, venue_code: code, price, seats, sold, status } = found.body;
    const start = startOf(found.body);
    return c.html(
      shell(
        title,
        html`${eventLd({ name: title, url: urlOf(found.reference ?? ''), dates: [{ start }], place: venues[code], cancelled: status === 'CANCELLED', about: text })}
          <h1>${title}</h1>
          <p>${say(start, zone)} · ${venues[code]}</p>
          <p>${text}</p>
          <p><b>${price}</b> · ${status === 'CANCELLED' ? 'cancelled' : `${seats - sold} left`}</p>`,
      ),
    );
  });
}

/** What the owner sees and does there by hand. */
function ownerSide({ app, store }: Counter): void {
  ownerPages<Row>(app, {
    store,
    shelf,
    name: 'Pennyseat',
    row: ({ body }) => ({ title: body.title, state: `${body.status}, ${body.sold} of ${body.seats} sold` }),
    fields: (body) => [
      { name: 'title', label: 'Title', value: body.title },
      { name: 'text', label: 'Text', value: body.text, long: true },
      { name: 'time', label: 'Time', value: body.time },
    ],
    edit(body, form) {
      const next = rowSchema.safeParse({ ...body, title: form.title, text: form.text, time: form.time });
      return next.success
        ? { ...next.data, sold: body.sold }
        : `${String(next.error.issues[0]?.path[0])}: ${next.error.issues[0]?.message}`;
    },
    acts: {
      sell: {
        label: (body) => (body.sold < body.seats ? 'Sell two' : null),
        does: (body) => ({ ...body, sold: Math.min(body.seats, body.sold + 2) }),
      },
      off: {
        label: (body) => (body.status === 'LIVE' ? 'Take it off' : null),
        does: (body) => ({ ...body, status: 'OFF' }),
      },
    },
  });
}

const style = `
body { background: #fffdf2; color: #222 } header { padding: 12px 5vw; background: #7a1f3d; color: #ffe9b8; font: 700 18px Mono; letter-spacing: .2em } main { width: min(860px, 94vw); margin: 20px auto } table { width: 100%; border-collapse: collapse } td { padding: 7px 10px; border: 1px solid #d8cfb0; font-size: 15px } h1 { font: 700 26px Text; color: #7a1f3d }
`;
