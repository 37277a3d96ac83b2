import { randomBytes } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';
import { serve, type HttpBindings } from '@hono/node-server';
import { Hono } from 'hono';
import { html } from 'hono/html';
import { z } from 'zod';
import { makeClock } from './clock';
import { page, say } from './page';
import { findServices } from './service';
import { type Service } from './stand-in';
import { type Once } from './stand-in';
import { openStore, type OutsideStore } from './store';
import { byHand, hands, type Hand } from './by-hand';
import { keyHeader, withKey } from './key';
import { makeCalls } from './calls';
import { startMail } from './mail';
import { makeTrade } from './trade';
import { hookFates, makeSkies, spoils, underWeather, type Skies } from './weather';
import { sorts, weatherPage } from './weather-page';
import type { Outside } from './outside';

const calls = z.record(z.string().max(60), z.number().int().min(0).max(600_000));
const weatherSchema = z
  .object({
    slowMs: z.number().min(0).max(600_000),
    loseAnswers: z.number().int().min(0),
    down: z.boolean(),
    loseCalls: calls,
    slowCalls: calls,
    answerCalls: z.record(
      z.string().max(60),
      z.object({ status: z.number().int(), headers: z.record(z.string(), z.string()).optional() }),
    ),
    spoil: z.record(z.string().max(60), z.object({ how: z.enum(spoils), times: z.number().int().min(1).max(1000) })),
    slowBodyMs: z.number().min(0).max(600_000),
    dripMs: z.number().min(0).max(600_000),
    errorRate: z.number().min(0).max(1),
    seed: z.number().int(),
    revoked: z.boolean(),
    mostPerSecond: z.number().int().min(0),
    salesPerHour: z.number().min(0).max(100_000),
    hooks: z.enum(hookFates),
    /** What a person does there by hand; `of`: to which listing, the newest where it is not said. */
    hand: z.object({ what: z.enum(Object.keys(hands) as [Hand]), of: z.string().max(60).optional() }),
  })
  .partial();
const hourMs = 3_600_000;

/** What an address answers, as somebody outside reads it: for ten seconds, and five megabytes. */
async function pull(url: string): Promise<string> {
  const answer = await fetch(url, { signal: AbortSignal.timeout(10_000), redirect: 'manual' });
  if (!answer.ok) throw new Error(`${url} answered ${answer.status}`);
  const text = await answer.text();
  if (text.length > 5_000_000) throw new Error(`${url} is too large`);
  return text;
}

interface OutsideParts {
  services: ReadonlyMap<string, Service>;
  store: OutsideStore;
  base: string;
  folder: string;
  slowMs?: number;
  smtpPort?: () => number;
  skies?: Skies;
  /** What owner's pages, weather and accounts ask for; `null`: nothing, as within a test. */
  key?: string | null;
}

/** Makes all stand-ins on one HTTP application. */
function makeOutside(outside: OutsideParts) {
  const town = townOf(outside);
  const { app, trade } = town;
  clockCalls(town);
  weatherCalls(town);
  accountCalls(town);
  homePages(town);
  return { fetch: app.fetch, trade };
}

type Town = ReturnType<typeof townOf>;

/** The app with every service in it, and what its parts share. */
function townOf({
  services,
  store,
  base,
  folder,
  slowMs = 0,
  smtpPort = () => 0,
  skies = makeSkies([...services.keys()], slowMs),
  key = null,
}: OutsideParts) {
  const clock = makeClock(store);
  const callBack = makeCalls(store, clock, skies);
  const outside: Outside = { store, clock, base, smtpPort, pull, callBack };
  const app = new Hono<{ Bindings: HttpBindings }>({ strict: false });
  if (key !== null)
    for (const behind of ['/accounts', '/weather', '/weather/*', '/:name/owner', '/:name/owner/*'])
      app.use(behind, withKey(key));
  for (const [name, service] of services) {
    for (const door of ['api', 'rpc', 'oauth']) app.use(`/${name}/${door}/*`, underWeather(skies, name));
    app.route(`/${name}`, service.make(outside));
  }
  const trade = makeTrade(services, outside, skies);
  return { app, folder, clock, trade, skies, key, services, store, base };
}

/** What it is, and what time it is there: asked, and put on. */
function clockCalls({ app, folder, clock, trade }: Town): void {
  app.get('/about', (c) => c.json({ outside: true, folder }));
  app.get('/clock', (c) => c.json({ now: clock.now() }));
  app.post('/clock', async (c) => {
    const { ms } = z
      .object({
        ms: z.coerce
          .number()
          .int()
          .min(-30 * 24 * hourMs)
          .max(400 * 24 * hourMs),
      })
      .parse(await c.req.parseBody());
    clock.advance(ms);
    trade();
    return c.req.header('accept')?.includes('text/html') ? c.redirect('/') : c.json({ now: clock.now() });
  });
}

/** The weather of its services: seen, and made. */
function weatherCalls({ app, skies, clock, key, services }: Town): void {
  app.get('/weather', (c) => c.html(weatherPage(skies, clock.now(), c.req.query('said') ?? '')));
  const inside = async (at: string, form?: Record<string, string>) =>
    app.request(at, {
      method: form ? 'POST' : 'GET',
      headers: key === null ? {} : { [keyHeader]: key },
      ...(form ? { body: new URLSearchParams(form) } : {}),
    });
  app.post('/weather/:name', async (c) => {
    const name = c.req.param('name');
    const byForm = c.req.header('content-type')?.includes('form') === true;
    const sort = byForm ? String((await c.req.parseBody()).sort) : '';
    const pressed = Object.keys(hands).find((candidate): candidate is Hand => candidate === sort);
    const read = byForm
      ? { success: true as const, data: pressed ? { hand: { what: pressed, of: undefined } } : sorts[sort]?.weather }
      : weatherSchema.safeParse(await c.req.json().catch(() => null));
    if (!read.success)
      return c.json({ message: read.error.issues[0]?.message, field: read.error.issues[0]?.path.join('.') }, 422);
    const { hand, ...change } = { hand: undefined, ...read.data };
    if (hand !== undefined && services.has(name)) {
      const done = await byHand(inside, name, hand.what, hand.of);
      if (byForm)
        return c.redirect(
          `/weather?said=${encodeURIComponent('why' in done ? `${name}: ${done.why}` : `${name}: ${hand.what}`)}`,
        );
      return c.json(done, 'why' in done ? 409 : 200);
    }
    const under = name === 'all' ? [...skies.values()] : [skies.get(name)].filter((weather) => weather !== undefined);
    if (under.length === 0 || read.data === undefined) return c.notFound();
    for (const weather of under) Object.assign(weather, structuredClone(change));
    return byForm ? c.redirect('/weather') : c.json(under[0]);
  });
}

/** The accounts that are given out. */
function accountCalls({ store, services, app, base }: Town): void {
  // Opening an account at each service: makes the credentials, the same ones when asked again.
  const accounts = (as?: string) => {
    const once: Once = (name, make) => {
      const known = store.setting(name) ?? make();
      store.putSetting(name, known);
      return known;
    };
    const secret = () => randomBytes(15).toString('base64url');
    const open = [...services.values()].map((service) => service.accounts(once, secret, as));
    return Object.assign({}, ...open) as Record<string, Record<string, string>>;
  };
  app.post('/accounts', (c) => c.json(accounts(c.req.query('as'))));
  app.get('/accounts', (c) => c.html(accountsPage(accounts(), base)));
}

/** Its front page and its typefaces. */
function homePages({ app, key, services, clock }: Town): void {
  app.get('/faces/:file', (c) => {
    const name = /^([a-z-]+)\.woff2$/.exec(c.req.param('file'))?.[1];
    const file = name && faceFiles[name];
    return file
      ? c.body(new Uint8Array(readFileSync(file)), 200, {
          'content-type': 'font/woff2',
          'cache-control': 'max-age=86400',
        })
      : c.notFound();
  });
  // The key may be left by any page.
  if (key !== null)
    app.get('/', async (c, next) => (c.req.query('key') === undefined ? next() : withKey(key)(c, next)));
  app.get('/', (c) => c.html(homePage([...services.keys()], clock.now())));
}

const fontFile = (name: string, file: string) =>
  path.join(
    path.dirname(createRequire(path.join(process.cwd(), 'package.json')).resolve(`@fontsource-variable/${name}`)),
    'files',
    file,
  );
const faceFiles: Record<string, string> = {
  'bricolage-grotesque': fontFile('bricolage-grotesque', 'bricolage-grotesque-latin-standard-normal.woff2'),
  'hanken-grotesk': fontFile('hanken-grotesk', 'hanken-grotesk-latin-wght-normal.woff2'),
  'sometype-mono': fontFile('sometype-mono', 'sometype-mono-latin-wght-normal.woff2'),
};

function homePage(names: readonly string[], now: number) {
  const style =
    'body { background: #20262b; color: #e8e4da; padding: 40px 8vw } h1 { font: 700 30px Display } a { color: #f0c27a } li { margin: 8px 0 } button { padding: 8px 16px; margin-right: 8px; cursor: pointer }';
  return page(
    'Outside',
    style,
    html`<h1>Outside</h1>
      <p>
        The simulated services that the house sends to. It is <b>${say(now, 'Europe/Dublin')}</b> in Dublin, by the
        simulated clock.
      </p>
      <form method="post" action="/clock">
        <button name="ms" value="${hourMs}">+1 h</button><button name="ms" value="${24 * hourMs}">+1 day</button>
      </form>
      <p><a href="/weather">Weather</a>: trouble for one of them, or for all. <a href="/accounts">Accounts</a>: what each asks for when it is connected. Both, and the owner’s pages, want the key.</p>
      <ul>
        ${names.map((name) => html`<li><b>${name[0]?.toUpperCase()}${name.slice(1)}</b>: <a href="/${name}/">public page</a> · <a href="/${name}/owner">owner’s page</a></li>`)}
      </ul>`,
  );
}

/** What each place asks for when it is connected, as its own pages would show it to whoever has the account. */
function accountsPage(accounts: Readonly<Record<string, Record<string, string>>>, base: string) {
  return page(
    'Accounts',
    'body { background: #20262b; color: #e8e4da; padding: 30px 6vw } h1 { font: 700 28px Display } table { border-collapse: collapse } td { padding: 5px 18px 5px 0; vertical-align: top; border-top: 1px solid #444c54 } a { color: #f0c27a } code { font-family: Mono; user-select: all }',
    html`<h1>Accounts</h1>
      <table>
        ${Object.entries(accounts).map(
          ([name, words]) =>
            html`<tr>
              <td><b>${name}</b><br /><code>${base}/${name.replace(/-\d$/, '')}</code></td>
              <td>${Object.entries(words).map(([field, value]) => html`${field} <code>${value}</code><br />`)}</td>
            </tr>`,
        )}
      </table>
      <p><a href="/">Back</a></p>`,
  );
}

/** Starts the stand-ins on `port` of the loopback address; port 0 takes a free one. Resolves when they answer. */
export async function startOutside({
  folder,
  port,
  slowMs = 0,
  key = null,
}: {
  folder: string;
  port: number;
  slowMs?: number;
  key?: string | null;
}) {
  const services = await findServices();
  const store = openStore(folder);
  const skies = makeSkies([...services.keys()], slowMs);
  const post = await startMail(services, { store, clock: makeClock(store) }, skies);
  let app: ReturnType<typeof makeOutside> | null = null;
  return new Promise<{ base: string; stop: () => Promise<void> }>((resolve) => {
    const server = serve(
      {
        fetch: (request, env) => app?.fetch(request, env) ?? new Response('starting', { status: 503 }),
        port,
        hostname: '127.0.0.1',
      },
      (info) => {
        const base = `http://127.0.0.1:${info.port}`;
        const trading = setInterval(() => app?.trade(), 1000);
        server.on('close', () => clearInterval(trading));
        app = makeOutside({ services, store, base, folder, slowMs, skies, key, smtpPort: () => post.port });
        resolve({
          base,
          stop: () =>
            post.stop().then(
              () =>
                new Promise<void>((done) =>
                  server.close(() => {
                    store.close();
                    done();
                  }),
                ),
            ),
        });
      },
    );
  });
}
