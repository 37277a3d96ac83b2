import { Hono } from 'hono';
import { html } from 'hono/html';
import Papa from 'papaparse';
import { z } from 'zod';
import type { Outside } from '../../outside';
import type { Service } from '../../stand-in';
import { entriesApi, ownerPages, plainRefusal } from '../../entries';
import { eventLd } from '../../ld';
import { page, readLocal, say, stamp } from '../../page';

const shelf = 'vestibule';
const people = 'vestibule-people';
const hourMs = 3_600_000;
const utc = z
  .string()
  .max(40)
  .regex(/Z$/)
  .refine((text) => !Number.isNaN(Date.parse(text)));
const roomSchema = z.looseObject({
  topic: z.string().min(1).max(80),
  about: z.string().max(2000).nullish(),
  host: z.string().max(120).nullish(),
  places: z.number().int().min(1).nullish(),
  note: z.string().max(120).nullish(),
  /** Nobody registers from then on. */
  closes_at: utc.nullish(),
  closes_zone: z.string().max(60).nullish(),
  /** Whoever asks for a place waits for a yes. */
  asks_first: z.boolean().nullish(),
  /** Whoever asks when all places are taken waits for one. */
  keeps_waiting: z.boolean().nullish(),
  /** What is written to who has a place, has none, or waits for one. */
  letter_yes: z.string().max(2000).nullish(),
  letter_no: z.string().max(2000).nullish(),
  letter_waiting: z.string().max(2000).nullish(),
  /** How often everybody who is registered was written to. */
  letters: z.number().optional(),
  door: z.enum(['open', 'shut', 'cancelled']).default('open'),
  sessions: z
    .array(
      z.object({
        tag: z.string(),
        opens_at: utc,
        shuts_at: utc.nullish(),
        lobby_at: utc.nullish(),
        zone: z.string(),
        standing: z.enum(['dropped', 'to be set']).nullish(),
      }),
    )
    .min(1)
    .max(20),
});
type Room = z.infer<typeof roomSchema>;
interface Person {
  room: string;
  name: string;
  mail: string;
  from: string;
  at: number;
  /** All places were taken: one waits for somebody to leave. */
  waits?: boolean;
}

const isOver = ({ closes_at: closes }: Room, now: number) => closes != null && now >= Date.parse(closes);

/** People register, from wherever a link to it stands. */
function sellSome({ store, clock }: Outside, count: number, chance: () => number): number {
  const sources = ['lectern', 'hearthside', 'concourse', 'nowhere'];
  let taken = 0;
  for (let n = 0; n < count; n += 1) {
    const open = store.list<Room>(shelf).filter(({ body }) => body.door === 'open' && !isOver(body, clock.now()));
    const found = open[Math.floor(chance() * open.length)];
    if (!found || (found.body.places != null && store.find(people, found.id).length >= found.body.places)) break;
    const from = sources[Math.floor(chance() * sources.length)] ?? 'nowhere';
    const name = `Guest ${Math.floor(chance() * 100_000)}`;
    const mail = `${name.replace(' ', '').toLowerCase()}@post.example`;
    store.make<Person>(people, found.id, { room: found.id, name, mail, from, at: clock.now() });
    taken += 1;
  }
  return taken;
}

export const service: Service = {
  make: vestibule,
  sell: sellSome,
  accounts: (once, secret) => ({ vestibule: { key: once('vestibule-key', () => `vk-${secret()}`) } }),
};

/** The online room: REST with a key in a header of its own; who registers is counted by the source of the link. */
function vestibule(outside: Outside) {
  const house = houseOf(outside);
  const { app, api } = house;
  ownerCalls(house);
  app.route('/api', api);
  publicPages(house);
  ownerSide(house);
  return app;
}

type House = ReturnType<typeof houseOf>;

/** The house with its rooms, and what its parts share. */
function houseOf({ store, clock, base }: Outside) {
  const app = new Hono({ strict: false });
  const api = new Hono();
  const urls = (id: string) => ({
    url: `${base}/${shelf}/e/${id}`,
    register_url: `${base}/${shelf}/r/${id}`,
    join_url: `${base}/${shelf}/join/${id}${id.slice(0, 4)}`,
  });
  const inRoom = (id: string) => store.find<Person>(people, id).flatMap(({ body }) => (body.waits ? [] : [body]));

  const shell = (title: string, body: ReturnType<typeof html>) =>
    page(title, style, html`<header>Vestibule</header><main>${body}</main>`);
  return { api, store, urls, inRoom, clock, app, shell };
}

/** The interface: rooms, and the people in them. */
function ownerCalls({ api, store, urls, inRoom, clock }: House): void {
  api.use(async (c, next) =>
    c.req.header('x-vestibule-key') === store.setting('vestibule-key') ? next() : plainRefusal(c, 401, 'unknown key'),
  );
  api.get('/key', (c) => c.json({ owner: 'Tallow Yard', may: ['rooms', 'people'] }));
  entriesApi<Room>(api, {
    store,
    shelf,
    path: '/rooms',
    schema: roomSchema,
    refuse: plainRefusal,
    shown: ({ id, body }) => ({
      ...body,
      id,
      ...urls(id),
      registered: inRoom(id).length,
      sources: countBy(inRoom(id)),
    }),
    lock: (before, after) =>
      before.door === 'cancelled' && after.door !== 'cancelled'
        ? { status: 423, field: 'door', message: 'it is cancelled, which is for ever' }
        : null,
  });
  api.post('/rooms/:id/cancel', async (c) => {
    const found = store.get<Room>(shelf, c.req.param('id'));
    if (!found) return plainRefusal(c, 404, 'there is no such entry');
    const reason = z.object({ reason: z.string().min(1) }).safeParse(await c.req.json());
    if (!reason.success) return plainRefusal(c, 422, 'say why', 'reason');
    // Everybody who is registered is written to, each time that it is called off.
    store.change(shelf, found.id, {
      ...found.body,
      door: 'cancelled',
      note: reason.data.reason.slice(0, 120),
      letters: (found.body.letters ?? 0) + 1,
    });
    return c.json({ id: found.id });
  });
  api.get('/rooms/:id/people.csv', (c) =>
    c.body(Papa.unparse(inRoom(c.req.param('id')), { columns: ['name', 'mail', 'from', 'at'] }), 200, {
      'content-type': 'text/csv',
    }),
  );
  api.post('/rooms/:id/people.csv', async (c) => {
    const rows = Papa.parse<unknown>(await c.req.text(), { header: true, skipEmptyLines: true }).data;
    const read = z
      .array(z.looseObject({ name: z.string().min(1), mail: z.string().min(3) }))
      .max(5000)
      .safeParse(rows);
    if (!read.success)
      return plainRefusal(c, 422, 'a row needs name and mail', read.error.issues[0]?.path.join('.') ?? '');
    const id = c.req.param('id');
    for (const { name, mail } of read.data)
      store.make<Person>(people, id, { room: id, name, mail, from: 'list', at: clock.now() });
    return c.json({ taken: read.data.length });
  });
}

/** What the public sees, and where it registers. */
function publicPages({ app, shell, store, urls, inRoom, clock }: House): void {
  app.get('/', (c) =>
    c.html(
      shell(
        'Vestibule',
        html`<h1>Rooms that are open</h1>
          ${store
            .list<Room>(shelf)
            .filter((thing) => thing.body.door === 'open')
            .map(({ id, body }) => html`<p><a href="/vestibule/e/${id}">${body.topic}</a></p>`)}`,
      ),
    ),
  );
  app.get('/e/:id', (c) => {
    const found = store.get<Room>(shelf, c.req.param('id'));
    if (!found || found.body.door === 'shut') return c.html(shell('Shut', html`<p>This room is shut.</p>`), 404);
    const { topic, about, host, note, sessions, door } = found.body;
    return c.html(
      shell(
        topic,
        html`${eventLd({
          name: topic,
          url: urls(found.id).url,
          dates: sessions.map((session) => ({
            start: Date.parse(session.opens_at),
            end: session.shuts_at ? Date.parse(session.shuts_at) : null,
            befell: session.standing === 'dropped' ? 'cancelled' : session.standing ? 'postponed' : null,
          })),
          online: true,
          cancelled: door === 'cancelled',
          about,
          by: host,
        })}
          <h1>${topic}</h1>
          ${note ? html`<p class="note">${note}</p>` : ''}${sessions.map((session) => (session.standing === 'to be set' ? html`<p>A session whose time is to be set</p>` : html`<p>${session.standing ? 'Dropped: ' : ''}${say(Date.parse(session.opens_at), session.zone, 'dddd D MMMM YYYY, HH:mm')} (${session.zone})</p>`))}
          <p class="pre">${about ?? ''}</p>
          ${door === 'open' && isOver(found.body, clock.now()) ? html`<p>Registration has closed.</p>` : door === 'open' ? html`<p>${found.body.asks_first ? 'Whoever registers waits for a yes. ' : ''}<a class="go" href="${urls(found.id).register_url}?from=vestibule">Register</a></p>` : html`<p>Cancelled.</p>`}`,
      ),
    );
  });
  app.on(['GET', 'POST'], '/r/:id', async (c) => {
    const found = store.get<Room>(shelf, c.req.param('id') ?? '');
    if (!found || found.body.door !== 'open' || isOver(found.body, clock.now()))
      return c.html(shell('Shut', html`<p>Registration is shut.</p>`), 404);
    const full = found.body.places != null && inRoom(found.id).length >= found.body.places;
    if (full && !found.body.keeps_waiting)
      return c.html(shell('Full', html`<p>All ${found.body.places} places are taken.</p>`), 409);
    if (c.req.method === 'POST') {
      const form = z
        .object({ name: z.string().min(1).max(120), mail: z.string().min(3).max(200) })
        .safeParse(await c.req.parseBody());
      if (!form.success) return c.html(shell('Not yet', html`<p>Give a name and a mail address.</p>`), 422);
      const from = (c.req.query('from') ?? 'nowhere').slice(0, 60);
      store.make<Person>(people, found.id, { room: found.id, ...form.data, from, at: clock.now(), waits: full });
      if (full)
        return c.html(
          shell(
            'Waiting',
            html`<p>${found.body.letter_waiting ?? 'All places are taken: you are on the waiting list.'}</p>`,
          ),
        );
      return c.html(
        shell(
          'Registered',
          found.body.asks_first
            ? html`<p>You asked for a place at ${found.body.topic}. Somebody says yes or no by mail.</p>`
            : html`<p>You are registered for ${found.body.topic}. The link to join comes by mail.</p>`,
        ),
      );
    }
    return c.html(
      shell(
        found.body.topic,
        html`<h1>${found.body.topic}</h1>
          <form method="post"><label>Name <input name="name" /></label> <label>Mail <input name="mail" /></label> <button>Register</button></form>`,
      ),
    );
  });
  app.get('/join/:token', (c) => c.html(shell('The room', html`<p>Those who are registered come in here.</p>`)));
}

/** What the owner sees and does there by hand. */
function ownerSide({ app, store, clock, inRoom }: House): void {
  ownerPages<Room>(app, {
    store,
    shelf,
    name: 'Vestibule',
    row: ({ id, body }) => {
      const first = Date.parse(body.sessions[0]?.opens_at ?? '');
      const reminded = [24, 1].filter((hours) => clock.now() > first - hours * hourMs);
      return {
        title: body.topic,
        state: `${body.door}, ${inRoom(id).length} registered, ${reminded.length} reminders sent`,
      };
    },
    fields: (body) => [
      { name: 'topic', label: 'Topic', value: body.topic },
      { name: 'about', label: 'About', value: body.about ?? '', long: true },
      {
        name: 'opens',
        label: 'First session opens',
        value: say(Date.parse(body.sessions[0]?.opens_at ?? ''), body.sessions[0]?.zone ?? 'UTC', 'YYYY-MM-DD HH:mm'),
      },
    ],
    edit(body, form) {
      const at = readLocal(form.opens ?? '', body.sessions[0]?.zone ?? 'UTC');
      if (at === null) return `“${form.opens}” is no date and time; write 2027-02-04 20:00`;
      const sessions = body.sessions.map((session, i) =>
        i === 0 ? { ...session, opens_at: `${stamp(at).slice(0, 19)}Z` } : session,
      );
      return { ...body, topic: form.topic ?? '', about: form.about ?? '', sessions };
    },
    acts: {
      shut: {
        label: (body) => (body.door === 'open' ? 'Shut it' : null),
        does: (body) => ({ ...body, door: 'shut' }),
      },
    },
  });
}

function countBy(all: readonly Person[]): Record<string, number> {
  const counts: Record<string, number> = {};
  for (const { from } of all) counts[from] = (counts[from] ?? 0) + 1;
  return counts;
}

const style = `
body { background: #1d2433; color: #e9ecf5 } header { padding: 18px 6vw; font: 600 18px Mono; color: #9fd8c4 } main { width: min(620px, 92vw); margin: 12px auto; border-left: 3px solid #9fd8c4; padding: 6px 0 6px 26px }
h1 { font: 600 28px/1.2 Text } .note { color: #ffd28a } .pre { white-space: pre-line } .go { background: #9fd8c4; color: #14202b; padding: 9px 20px; text-decoration: none } input { background: #2b3550; color: inherit; border: 1px solid #55628a; padding: 6px } button { padding: 7px 14px }
`;
