import { Hono } from 'hono';
import { html } from 'hono/html';
import ICAL from 'ical.js';
import moment from 'moment-timezone';
import { z } from 'zod';
import type { Outside } from '../../outside';
import type { Service } from '../../stand-in';
import { ownerPages, plainRefusal } from '../../entries';
import { eventLd } from '../../ld';
import { page, readLocal, say, stamp } from '../../page';

const shelf = 'marrowby-diary';
const zone = 'Europe/Dublin';
const hourMs = 3_600_000;

/** The last of its visits up to a moment: at 0, 6, 12 and 18 o’clock of its own day. */
function visitBefore(at: number): number {
  const there = moment.tz(at, zone);
  return there
    .hour(Math.floor(there.hour() / 6) * 6)
    .startOf('hour')
    .valueOf();
}

/** The first of its visits after a moment. */
function visitAfter(at: number): number {
  const last = moment.tz(visitBefore(at), zone);
  return last.hour(last.hour() + 6).valueOf();
}

const categories = ['Music', 'Stage', 'Film', 'Talks', 'Families', 'Making', 'Nightlife'];

interface Said {
  summary: string;
  description: string;
  location: string;
  category: string;
  link: string | null;
  status: string;
  start: number;
  end: number | null;
}
interface Entry extends Said {
  uid: string;
  sequence: number;
  state: 'waiting' | 'shown' | 'turned down';
  word: string;
  /** When its editor looks at it. */
  due: number;
}

export const service: Service = {
  make: diary,
  accounts: (once, secret) => ({ 'marrowby-diary': { key: once('diary-key', secret) } }),
};

/** What a feed says, by id: one that is no calendar says nothing, and nothing is lost by it. */
function readFeed(text: string): Map<string, Said & { sequence: number; changed: number }> | null {
  try {
    const calendar = new ICAL.Component(ICAL.parse(text) as unknown[]);
    const found = calendar.getAllSubcomponents('vevent').map((component) => {
      const event = new ICAL.Event(component);
      const value = (name: string) => String(component.getFirstPropertyValue(name) ?? '');
      const said = {
        summary: event.summary ?? '',
        description: (event.description ?? '').slice(0, 350),
        location: event.location ?? '',
        category: value('categories'),
        link: value('url') || null,
        status: value('status') || 'CONFIRMED',
        start: event.startDate.toJSDate().getTime(),
        end: component.getFirstPropertyValue('dtend') === null ? null : event.endDate.toJSDate().getTime(),
        sequence: Number(value('sequence') || 0),
        changed: Date.parse(value('last-modified')) || 0,
      };
      return [event.uid, said] as const;
    });
    return new Map(found);
  } catch {
    return null;
  }
}

/**
 * The town calendar: comes for a contributor's feed at 0, 6, 12 and 18 o'clock; a person looks at what is new within a
 * day.
 */
function diary(outside: Outside) {
  const paper = paperOf(outside);
  const { app, api } = paper;
  contributorCalls(paper);
  app.route('/api', api);
  publicPages(paper);
  return app;
}

type Paper = ReturnType<typeof paperOf>;

/** The diary as it is kept: what is read from feeds, and when. */
function paperOf({ store, clock, base, pull }: Outside) {
  const app = new Hono({ strict: false });
  const api = new Hono();
  const urlOf = (id: string) => `${base}/${shelf}/e/${id}`;
  let visiting: Promise<void> | null = null;
  const slot = () => visitBefore(clock.now());
  const visit = async () => {
    const feed = store.setting('diary-feed');
    const before = Number(store.setting('diary-visited') ?? 0);
    if (feed === null || before >= slot()) return;
    const at = slot();
    const text = await pull(feed).catch(() => null);
    const said = text === null ? null : readFeed(text);
    // What does not answer, or is no calendar, is come for again next time; what stands here stays.
    if (said === null) return;
    store.whole(() => {
      take(said, before);
      store.putSetting('diary-visited', String(at));
    });
  };
  const take = (said: ReturnType<typeof readFeed> & {}, before: number) => {
    const known = store.list<Entry>(shelf);
    for (const { id, body } of known) if (!said.has(body.uid)) store.remove(shelf, id);
    for (const [uid, { sequence, changed, ...now }] of said) {
      const own = known.find((thing) => thing.body.uid === uid);
      if (now.status === 'ABSENT') {
        if (own) store.remove(shelf, own.id);
        continue;
      }
      // Of visits that nobody looked at meanwhile, the first after the change was the one that saw it.
      const at = Math.max(visitAfter(before), visitAfter(changed - 1));
      const due = at + looksAfter(uid, sequence);
      if (!own) store.make<Entry>(shelf, uid, { ...now, uid, sequence, state: 'waiting', word: '', due });
      // An entry that says that it has not changed is not read.
      else if (sequence > own.body.sequence) {
        const moved = now.start !== own.body.start || now.location !== own.body.location;
        const again = moved || own.body.state === 'turned down';
        store.change<Entry>(shelf, own.id, {
          ...own.body,
          ...now,
          sequence,
          ...(again ? { state: 'waiting', word: '', due } : {}),
        });
      }
    }
  };
  const looksAfter = (uid: string, sequence: number) =>
    ([...uid].reduce((sum, text) => sum + text.charCodeAt(0), sequence * 31) % 23) * hourMs;
  /** Its editor looks at what is due. */
  const look = () => {
    for (const { id, body } of store.list<Entry>(shelf)) {
      if (body.state !== 'waiting' || body.due > clock.now()) continue;
      const word = !categories.includes(body.category)
        ? 'there is no such category'
        : /\b(raffle|lottery)\b/i.test(body.description)
          ? 'no raffles in the Diary'
          : '';
      store.change<Entry>(shelf, id, { ...body, state: word === '' ? 'shown' : 'turned down', word });
    }
  };
  const work = async () => {
    visiting ??= visit().finally(() => (visiting = null));
    await visiting;
    store.whole(look);
  };
  const shell = (title: string, body: ReturnType<typeof html>) =>
    page(title, style, html`<header>The Marrowby Diary</header><main>${body}</main>`);
  const shown = () => store.list<Entry>(shelf).filter(({ body }) => body.state === 'shown');
  return { api, store, work, slot, urlOf, app, shell, shown };
}

/** What a contributor can ask and say. */
function contributorCalls({ api, store, work, slot, urlOf }: Paper): void {
  api.use(async (c, next) => {
    if (c.req.header('x-contributor') !== store.setting('diary-key')) return plainRefusal(c, 401, 'unknown key');
    await work();
    return next();
  });
  api.get('/contributor', (c) => c.json({ name: 'Tallow Yard' }));
  api.put('/feed', async (c) => {
    const read = z.object({ feed: z.url() }).safeParse(await c.req.json());
    if (!read.success) return plainRefusal(c, 422, 'that is no address', 'feed');
    store.putSetting('diary-feed', read.data.feed);
    if (store.setting('diary-visited') === null) store.putSetting('diary-visited', String(slot()));
    return c.json(read.data);
  });
  api.get('/entries', (c) => {
    const of = `${c.req.query('of') ?? ''}-`;
    const found = store.list<Entry>(shelf).filter(({ body }) => body.uid.startsWith(of));
    return c.json(
      found.map(
        ({ id, body: { uid, state, word, summary, description, location, category, link, status, start, end } }) => ({
          uid,
          url: urlOf(id),
          state,
          word,
          summary,
          ...(description ? { description } : {}),
          ...(location ? { location } : {}),
          categories: category,
          ...(link ? { link } : {}),
          status,
          dtstart: `${stamp(start).slice(0, 19)}Z[${zone}]`,
          ...(end === null ? {} : { dtend: `${stamp(end).slice(0, 19)}Z[${zone}]` }),
        }),
      ),
    );
  });
}

/** What the public reads, and what its owner does by hand. */
function publicPages({ app, work, shell, shown, urlOf, store }: Paper): void {
  app.get('/', async (c) => {
    await work();
    return c.html(
      shell(
        'The Marrowby Diary',
        html`${shown()
          .sort((a, b) => a.body.start - b.body.start)
          .map(
            ({ id, body }) =>
              html`<p><b>${body.status === 'TENTATIVE' ? 'Date to follow' : say(body.start, zone, 'ddd D MMM HH:mm')}</b> <a href="/marrowby-diary/e/${id}">${body.summary}</a> <i>${body.category}</i></p>`,
          )}`,
      ),
    );
  });
  app.get('/e/:id', async (c) => {
    await work();
    const found = shown().find((thing) => thing.id === c.req.param('id'));
    if (!found) return c.html(shell('Not here', html`<p>There is no such entry.</p>`), 404);
    const { summary, description, location, link, start, end, status } = found.body;
    return c.html(
      shell(
        summary,
        html`${eventLd({ name: summary, url: urlOf(found.id), dates: [{ start, end, befell: status === 'TENTATIVE' ? 'postponed' : null }], place: location, offer: link, cancelled: status === 'CANCELLED', about: description })}
          <h1>${summary}</h1>
          ${status === 'CANCELLED' ? html`<p><b>Cancelled</b></p>` : ''}
          <p>${status === 'TENTATIVE' ? 'new date to follow' : say(start, zone)} · ${location}</p>
          <p>${description}</p>
          ${link ? html`<p><a href="${link}">More</a></p>` : ''}`,
      ),
    );
  });
  ownerPages<Entry>(app, {
    store,
    shelf,
    name: 'Marrowby Diary',
    row: ({ body }) => ({ title: body.summary, state: `${body.state}${body.word ? `: ${body.word}` : ''}` }),
    fields: (body) => [
      { name: 'summary', label: 'Title', value: body.summary },
      { name: 'description', label: 'Text', value: body.description, long: true },
      { name: 'start', label: 'Starts', value: say(body.start, zone, 'YYYY-MM-DD HH:mm') },
      { name: 'word', label: 'A word to the contributor', value: body.word },
    ],
    edit(body, form) {
      const at = readLocal(form.start ?? '', zone);
      if (at === null) return `“${form.start}” is no date and time; write 2027-02-04 20:00`;
      return {
        ...body,
        summary: form.summary ?? '',
        description: form.description ?? '',
        start: at,
        word: form.word ?? '',
      };
    },
    acts: {
      let: {
        label: (body) => (body.state === 'shown' ? null : 'Let it in'),
        does: (body) => ({ ...body, state: 'shown', word: '' }),
      },
      down: {
        label: (body) => (body.state === 'turned down' ? null : 'Turn it down'),
        does: (body) => ({ ...body, state: 'turned down', word: body.word || 'not for the Diary' }),
      },
    },
  });
}

const style = `
body { background: #fdf8e7; color: #26301d } header { padding: 24px 8vw; font: 700 26px Display; background: #c9d8a8 } main { width: min(720px, 92vw); margin: 20px auto } p { margin: 8px 0 } i { color: #6a7350; font-size: 14px } h1 { font: 600 27px Display }
`;
