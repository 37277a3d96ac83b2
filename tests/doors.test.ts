import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import Database from 'better-sqlite3';
import { NextRequest } from 'next/server';
import { TOTP } from 'otpauth';
import { SMTPServer } from 'smtp-server';
import { mayDo, rightsOf, roles, type Doer, type Right } from '@/core/people/doer';
import { person, keeper } from '@/core/testing/doers';
import { POST as door } from '@/app/api/door/[what]/route';
import { GET as pulseRoute } from '@/app/api/pulse/route';
import { GET as exportRoute } from '@/app/api/export/route';
import { connectChannel } from '@/desk/channels/connect-channel';
import { doVerb } from '@/desk/house/verbs';
import { theHouse } from '@/desk/house/the-house';
import { firstCode, invite, takeInvitationBack } from '@/desk/people/invitations';
import { changeRole, endSessionOf, peopleView, takePersonOut } from '@/desk/people/people';
import { asksAgain, NotAllowed, rightsOfVerbs } from '@/desk/people/rights-of-verbs';
import { doerOf } from '@/desk/people/who';
import { makeDemoHouse } from '@/house/demo-house';
import { transaction } from '@/store/database';
import { openSessions, personByEmail, putPassword } from '@/store/persons';
import { sessions } from '@/store/schema';
import { eq } from 'drizzle-orm';
import { proxy } from '@/proxy';

/*
 * The doors as a browser meets them: requests go through the proxy to the route handlers themselves, on a house of its own.
 */

const own = 'http://127.0.0.1:4310';
const good = 'seven lanterns over a quiet quay';
const better = 'no ferry sails before the thaw';
let folder: string;

beforeAll(() => {
  folder = mkdtempSync(path.join(os.tmpdir(), 'nuntiax-doors-'));
  process.env.NUNTIAX_DATA = folder;
  // Guesses are told apart by where they come from, which a proxy of ours tells.
  process.env.NUNTIAX_PROXY = 'yes';
});
afterAll(() => {
  theHouse().db.close();
  rmSync(folder, { recursive: true, force: true });
});

/** A browser: it keeps the cookies that it is given. */
class Browser {
  readonly cookies = new Map<string, string>();
  constructor(readonly address = '203.0.113.7') {}

  headers(more: Record<string, string> = {}): Headers {
    const cookie = [...this.cookies].map(([name, value]) => `${name}=${value}`).join('; ');
    return new Headers({
      ...{ host: '127.0.0.1:4310', 'user-agent': 'Mozilla/5.0 (X11; Linux x86_64)', 'x-forwarded-for': this.address },
      ...(cookie === '' ? {} : { cookie }),
      ...more,
    });
  }

  async ask(what: string, input: object) {
    const url = `${own}/api/door/${what}`;
    const passed = await proxy(new NextRequest(url, { method: 'POST', headers: this.headers({ origin: own }) }));
    if (passed.headers.get('x-middleware-next') !== '1')
      return { status: passed.status, said: (await passed.json()) as never };
    const request = new Request(url, { method: 'POST', headers: this.headers(), body: JSON.stringify(input) });
    const answer = await door(request, { params: Promise.resolve({ what }) });
    for (const line of answer.headers.getSetCookie()) {
      const [, name = '', value = ''] = /^([^=]+)=([^;]*)/.exec(line) ?? [];
      if (value === '' || /max-age=0/i.test(line)) this.cookies.delete(name);
      else this.cookies.set(name, value);
    }
    return {
      status: answer.status,
      said: (await answer.json()) as Record<string, never> & { errors?: Record<string, string> },
    };
  }

  /** What the proxy makes of a page: 0 where it passes it on. */
  async page(address: string): Promise<number> {
    const answer = await proxy(new NextRequest(`${own}${address}`, { headers: this.headers() }));
    return answer.headers.get('x-middleware-next') === '1' ? 0 : answer.status;
  }

  get doer() {
    return doerOf(theHouse(), this.headers());
  }

  async here(): Promise<Doer> {
    const doer = await this.doer;
    if (!doer) throw new Error('nobody is signed in');
    return doer;
  }
}

const digits = (secret: string) => new TOTP({ secret, digits: 6, period: 30 }).generate();
const keeperAt = new Browser();
let secret = '';
let recovery: string[] = [];

describe('an empty house', () => {
  test.each([
    ['/season', 307],
    ['/people', 307],
    ['/records/r1', 307],
    ['/api/pulse', 401],
    ['/api/pictures/x?w=400', 401],
    ['/api/documents/x', 401],
    ['/sign-in', 0],
    ['/join', 0],
    ['/api/health', 0],
    ['/feeds/k3y', 0],
  ])('answers %s to nobody who is signed in with %i', async (address, status) => {
    expect(await new Browser().page(address)).toBe(status);
  });

  test('leads to the sign-in and back to what was asked for; no write comes in', async () => {
    const answer = await proxy(new NextRequest(`${own}/dispatch?record=r1`, { headers: new Browser().headers() }));
    expect(answer.headers.get('location')).toBe(`${own}/sign-in?to=%2Fdispatch%3Frecord%3Dr1`);
    const action = new NextRequest(`${own}/season`, {
      method: 'POST',
      headers: new Browser().headers({ origin: own, 'next-action': '0'.repeat(40) }),
    });
    expect((await proxy(action)).status).toBe(401);
    // A route asks by itself as well, were the proxy ever passed by.
    expect((await pulseRoute(new Request(`${own}/api/pulse`))).status).toBe(401);
  });

  test('gives one code at a time, and none once somebody can sign in', async () => {
    const [old, code] = [firstCode(theHouse())?.code ?? '', firstCode(theHouse())?.code ?? ''];
    expect(code).toMatch(/^(?:[A-Z2-9]{5}-){3}[A-Z2-9]{5}$/);
    const looked = (given: string) => keeperAt.ask('look', { code: given });
    expect((await looked(old)).status).toBe(422);
    expect((await looked(code.toLowerCase().replaceAll('-', ' '))).said).toMatchObject({
      sort: 'first',
      role: 'keeper',
    });
    const input = { code, name: 'Ines Orrel', email: 'Ines@Yard.Example', password: good };
    const weak = async (password: string) => (await keeperAt.ask('join', { ...input, password })).said.errors;
    expect(await weak('short')).toEqual({ password: 'At least 12 characters.' });
    expect((await weak('password1234'))?.password).toMatch(/common/);
    expect((await weak('inesorrel2026'))?.password).toMatch(/guessed/);
    expect(await keeperAt.ask('join', input)).toMatchObject({ status: 200, said: { next: 'in' } });
    expect(firstCode(theHouse())).toBeNull();
    expect((await new Browser().ask('join', { ...input, email: 'other@yard.example' })).said.errors).toHaveProperty(
      'code',
    );
    expect(await keeperAt.page('/season')).toBe(0);
  });

  test('has cookies that no script reads and no other site sends', async () => {
    const request = new Request(`${own}/api/door/sign-in`, {
      method: 'POST',
      headers: new Browser('203.0.113.8').headers(),
      body: JSON.stringify({ email: 'ines@yard.example', password: good }),
    });
    const answer = await door(request, { params: Promise.resolve({ what: 'sign-in' }) });
    expect(answer.headers.getSetCookie().join()).toMatch(/nuntiax\.session_token=[^;]+;.*HttpOnly; SameSite=Lax/i);
  });
});

describe('a second factor', () => {
  test('is asked of whoever keeps the house, before channels and people', async () => {
    const doer = await keeperAt.here();
    expect([doer.role, mayDo(doer, 'keep'), mayDo(doer, 'send')]).toEqual(['keeper', false, true]);
    await expect(invite(theHouse(), doer, {})).rejects.toThrow(/second factor/);
    const connecting = connectChannel(theHouse(), doer, { kind: 'lectern' }, { address: '', credentials: {} });
    await expect(connecting).rejects.toThrow(/second factor/);
  });

  test('is set up with the password and a code of it, and asked for from then on', async () => {
    expect((await keeperAt.ask('factor', { password: 'not the password' })).said.errors?.password).toMatch(/not your/);
    const { said } = await keeperAt.ask('factor', { password: good });
    ({ secret, recovery } = said as unknown as { secret: string; recovery: string[] });
    expect([recovery.length, String(said.picture).startsWith('<svg')]).toEqual([10, true]);
    expect((await keeperAt.ask('confirm', { code: '000000' })).status).toBe(422);
    expect(mayDo(await keeperAt.here(), 'keep')).toBe(false);
    expect((await keeperAt.ask('confirm', { code: digits(secret) })).status).toBe(200);
    expect(mayDo(await keeperAt.here(), 'keep')).toBe(true);

    const again = new Browser();
    expect((await again.ask('sign-in', { email: 'ines@yard.example', password: good })).said).toEqual({
      next: 'second',
    });
    expect(await again.doer).toBeNull();
    expect((await again.ask('second', { code: '123456' })).status).toBe(401);
    const code = digits(secret);
    expect((await again.ask('second', { code })).status).toBe(200);
    expect((await again.here()).name).toBe('Ines Orrel');

    // Whoever knows the password, and looked over her shoulder.
    const onlooker = new Browser();
    await onlooker.ask('sign-in', { email: 'ines@yard.example', password: good });
    const open = openSessions(theHouse().db, new Date()).length;
    expect((await onlooker.ask('second', { code: ` ${code} ` })).status).toBe(403);
    expect([await onlooker.doer, openSessions(theHouse().db, new Date()).length]).toEqual([null, open]);
    expect((await again.here()).name).toBe('Ines Orrel');
  });

  test('is replaced by a recovery code, once', async () => {
    const by = async (code: string) => {
      const browser = new Browser();
      await browser.ask('sign-in', { email: 'ines@yard.example', password: good });
      return (await browser.ask('second', { code, recovery: true })).status;
    };
    expect([await by(recovery[0] ?? ''), await by(recovery[0] ?? ''), await by(recovery[1] ?? '')]).toEqual([
      200, 401, 200,
    ]);
  });

  test('lies in no stolen database, and a session cannot be made of one', async () => {
    const lies = readdirSync(folder)
      .filter((name) => name.startsWith('nuntiax.sqlite'))
      .map((name) => readFileSync(path.join(folder, name), 'latin1'))
      .join('');
    expect([secret, ...recovery, good].filter((plain) => plain === '' || lies.includes(plain))).toEqual([]);
    const db = new Database(path.join(folder, 'nuntiax.sqlite'), { readonly: true });
    const { token } = db.prepare('SELECT token FROM sessions ORDER BY created_at DESC').get() as { token: string };
    db.close();
    const thief = new Browser();
    thief.cookies.set(
      'nuntiax.session_token',
      encodeURIComponent(`${token}.${Buffer.from('x'.repeat(32)).toString('base64')}`),
    );
    expect(await thief.doer).toBeNull();
    thief.cookies.set('nuntiax.session_token', token);
    expect(await thief.doer).toBeNull();
  });
});

const comeIn = async (
  given: { name: string; email: string; role: string; only?: object | null },
  password = better,
) => {
  const out = await invite(theHouse(), await keeperAt.here(), { only: null, ...given });
  if (!out.ok) throw new Error(JSON.stringify(out.error));
  const browser = new Browser();
  const came = await browser.ask('join', { code: out.value.code, name: given.name, email: given.email, password });
  expect(came).toMatchObject({ status: 200 });
  return { browser, ...out.value };
};

describe('somebody who is invited', () => {
  test('comes in with the role that was meant, by a link that works once, and only with that address', async () => {
    const { browser, link, code, letter } = await comeIn({ name: 'Wes', email: 'wes@yard.example', role: 'writer' });
    expect([link.endsWith(`/join#${code}`), letter]).toEqual([true, 'none']);
    expect(await browser.here()).toMatchObject({ name: 'Wes', role: 'writer', only: null, withheld: [] });
    const twice = await new Browser().ask('join', { code, name: 'X', email: 'wes@yard.example', password: better });
    expect(twice.said.errors?.code).toMatch(/used, taken back or has lapsed/);
    const double = await invite(theHouse(), await keeperAt.here(), {
      name: 'W',
      email: 'wes@yard.example',
      role: 'reader',
      only: null,
    });
    expect(double).toMatchObject({ ok: false, error: { email: expect.stringMatching(/already/) as string } });
  });

  test('is known by the invitation, whatever address is sent along', async () => {
    const out = await invite(theHouse(), await keeperAt.here(), {
      name: 'Sia',
      email: 'sia@yard.example',
      role: 'sender',
      only: null,
    });
    const { code } = out.ok ? out.value : { code: '' };
    await new Browser().ask('join', { code, name: 'Sia', email: 'ines@yard.example', password: better });
    expect(personByEmail(theHouse().db, 'sia@yard.example')).toMatchObject({ role: 'sender' });
  });

  test('does not come in once it is taken back', async () => {
    const house = theHouse();
    const out = await invite(house, await keeperAt.here(), {
      name: 'No',
      email: 'no@yard.example',
      role: 'keeper',
      only: null,
    });
    const { code } = out.ok ? out.value : { code: '' };
    const [open] = peopleView(house, await keeperAt.here()).invitations;
    expect(takeInvitationBack(house, await keeperAt.here(), open?.hash ?? '').ok).toBe(true);
    const late = await new Browser().ask('join', { code, name: 'No', email: 'no@yard.example', password: better });
    expect(late.said.errors).toHaveProperty('code');
  });

  test.each([
    [{ name: '', email: 'a@b.example', role: 'reader', only: null }, 'name'],
    [{ name: 'A', email: 'nobody', role: 'reader', only: null }, 'email'],
    [{ name: 'A', email: 'a@b.example', role: 'owner', only: null }, 'role'],
    [{ name: 'A', email: 'a@b.example', role: 'sender', only: { tours: ['t'], records: [] } }, 'role'],
    [{ name: 'A', email: 'a@b.example', role: 'writer', only: { tours: [], records: [] } }, 'only'],
    [{ name: 'A', email: 'a@b.example', role: 'writer', only: { tours: [], records: ['NO-0001'] } }, 'only'],
  ])('is not invited by %j', async (input, field) => {
    const out = await invite(theHouse(), { ...keeper }, input);
    expect(Object.keys(out.ok ? {} : out.error)).toEqual([field]);
  });

  test('gets a letter where mail is set; where it does not go out the link is told all the same', async () => {
    const letters: string[] = [];
    const server = new SMTPServer({
      authOptional: true,
      disabledCommands: ['STARTTLS'],
      onData: (stream, _, done) => {
        let text = '';
        stream.on('data', (part: Buffer) => (text += part.toString()));
        stream.on('end', () => (letters.push(text), done()));
      },
    });
    await new Promise<void>((done) => void server.listen(0, '127.0.0.1', done));
    const { port } = server.server.address() as { port: number };
    process.env.NUNTIAX_SMTP = `smtp://127.0.0.1:${port}`;
    process.env.NUNTIAX_MAIL_FROM = 'desk@yard.example';
    const written = (n: number) =>
      invite(theHouse(), keeper, { name: `Post ${n}`, email: `post${n}@yard.example`, role: 'reader', only: null });
    try {
      const sent = await written(1);
      expect(sent).toMatchObject({ ok: true, value: { letter: 'sent' } });
      expect(letters.join().replaceAll('=\r\n', '')).toContain(
        sent.ok ? sent.value.link.replace('=', '=3D') : 'nothing',
      );
      await new Promise<void>((done) => server.close(() => done()));
      expect(await written(2)).toMatchObject({ ok: true, value: { letter: { failed: expect.any(String) as string } } });
    } finally {
      delete process.env.NUNTIAX_SMTP;
      delete process.env.NUNTIAX_MAIL_FROM;
    }
  });
});

describe('every verb of the desk', () => {
  const modules = readdirSync('src/desk', { recursive: true, encoding: 'utf8' }).filter(
    (file) => file.endsWith('.ts') && !/test\.ts$|run-|reader\.ts$|check-files|tour-map/.test(file),
  );
  const verbs = new Map<string, (...given: unknown[]) => unknown>();
  beforeAll(async () => {
    for (const file of modules) {
      const found = (await import(`@/desk/${file.replace(/\.ts$/, '')}`)) as Record<string, unknown>;
      for (const [name, verb] of Object.entries(found))
        if (Object.hasOwn(rightsOfVerbs, name) && typeof verb === 'function') verbs.set(name, verb as never);
    }
  });

  const rightsAsked = (verb: keyof typeof rightsOfVerbs): readonly Right[] => [rightsOfVerbs[verb]].flat();
  const guests = { tours: ['t1'], records: [] };
  const all = [...roles.map((role) => person(role)), ...roles.map((role) => person(role, { only: guests }))];
  test.each(Object.keys(rightsOfVerbs) as (keyof typeof rightsOfVerbs)[])(
    '%s is refused to each who has not its right, before anything else',
    async (verb) => {
      const work = verbs.get(verb);
      if (!work) throw new Error(`${verb} is not there`);
      for (const doer of all) {
        if (rightsAsked(verb).some((right) => rightsOf(doer.role, doer.only).includes(right))) continue;
        // What is given is nothing: whoever asks what it is before asking who it is fails in another way.
        const asked = async () => {
          await (verb === 'fileJob' || verb === 'fileJobs' || verb === 'stopJob' ? work(doer) : work(theHouse(), doer));
        };
        await expect(asked()).rejects.toThrow(NotAllowed);
      }
    },
  );
});

describe('whoever is taken out', () => {
  test('comes in nowhere from that moment: no session, password, invitation or work under way', async () => {
    const house = theHouse();
    const { browser } = await comeIn({ name: 'Kit', email: 'kit@yard.example', role: 'keeper' });
    const kit = await browser.here();
    const out = await invite(
      house,
      { ...kit, withheld: [] },
      { name: 'Friend', email: 'friend@yard.example', role: 'keeper', only: null },
    );
    expect(takePersonOut(house, await keeperAt.here(), kit.id ?? '').ok).toBe(true);
    expect([await browser.page('/season'), await browser.page('/api/pulse')]).toEqual([307, 401]);
    const back = await new Browser().ask('sign-in', { email: 'kit@yard.example', password: better });
    expect(back.status).toBe(401);
    const friend = {
      code: out.ok ? out.value.code : '',
      name: 'Friend',
      email: 'friend@yard.example',
      password: better,
    };
    expect((await new Browser().ask('join', friend)).said.errors).toHaveProperty('code');
    expect(() => asksAgain(house.db, kit, 'connectChannel')).toThrow(/taken out meanwhile/);
    const book = peopleView(house, await keeperAt.here()).doings;
    expect(book).toContainEqual(expect.objectContaining({ doer: 'Ines Orrel', words: 'took Kit out' }));
    // The address is free for somebody new.
    expect((await comeIn({ name: 'Kit', email: 'kit@yard.example', role: 'reader' })).browser.address).toBeTruthy();
  });

  test('is out, even where a session was made in the very moment', async () => {
    const house = theHouse();
    const { browser } = await comeIn({ name: 'Ash', email: 'ash@yard.example', role: 'reader' });
    const ash = await browser.here();
    const token = house.db
      .select()
      .from(sessions)
      .where(eq(sessions.userId, ash.id ?? ''))
      .get();
    expect(takePersonOut(house, await keeperAt.here(), ash.id ?? '').ok).toBe(true);
    // As a sign-in writes it that was under way.
    if (token) house.db.insert(sessions).values(token).run();
    expect(await browser.doer).toBeNull();
  });

  test('is never the only keeper, nor oneself; nor is the only keeper made something less', async () => {
    const house = theHouse();
    const me = await keeperAt.here();
    const only = /only keeper/;
    expect(takePersonOut(house, me, me.id ?? '')).toMatchObject({ ok: false });
    expect(takePersonOut(house, keeper, me.id ?? '')).toMatchObject({ error: expect.stringMatching(only) as string });
    const lesser = changeRole(house, me, me.id ?? '', { role: 'writer', only: null });
    expect(lesser).toMatchObject({ error: { role: expect.stringMatching(only) as string } });
  });

  test('with another role, or at the end of a session, it holds at the next request', async () => {
    const house = theHouse();
    const { browser } = await comeIn({ name: 'Rue', email: 'rue@yard.example', role: 'writer' });
    const id = (await browser.here()).id ?? '';
    expect(changeRole(house, await keeperAt.here(), id, { role: 'reader', only: null }).ok).toBe(true);
    expect(mayDo(await browser.here(), 'write')).toBe(false);
    // Work that began as a writer is not written any more.
    expect(() => asksAgain(house.db, { ...person('writer'), id }, 'addPicture')).toThrow(NotAllowed);
    expect(endSessionOf(house, await browser.here(), (await keeperAt.here()).id ?? '', null)).toMatchObject({
      ok: false,
    });
    expect(endSessionOf(house, await keeperAt.here(), id, null).ok).toBe(true);
    expect(await browser.doer).toBeNull();
  });

  test('out of one browser by oneself, the others stay', async () => {
    const [a, b] = [new Browser(), new Browser()];
    for (const browser of [a, b]) await browser.ask('sign-in', { email: 'wes@yard.example', password: better });
    await a.ask('sign-out', {});
    expect([await a.doer, (await b.here()).name]).toEqual([null, 'Wes']);
    // A cookie that was kept from before opens nothing.
    expect((await b.ask('password', { now: 'wrong one here', next: good })).said.errors).toHaveProperty('now');
    expect((await b.ask('password', { now: better, next: `${better} again` })).status).toBe(200);
    expect((await new Browser().ask('sign-in', { email: 'wes@yard.example', password: better })).status).toBe(401);
  });
});

test('guesses are counted from wherever they come, and at once; whoever is signed in stays so', async () => {
  const { browser } = await comeIn({ name: 'Uma', email: 'uma@yard.example', role: 'reader' });
  const guesses = await Promise.all(
    Array.from({ length: 14 }, (_, i) =>
      new Browser(`198.51.100.${i}`).ask('sign-in', { email: 'uma@yard.example', password: `guess number ${i}` }),
    ),
  );
  const statuses = guesses.map(({ status }) => status);
  // One try was the person's own, when she came in.
  expect([
    statuses.filter((status) => status === 401).length,
    statuses.filter((status) => status === 429).length,
  ]).toEqual([10, 4]);
  const right = await new Browser().ask('sign-in', { email: 'uma@yard.example', password: better });
  expect([right.status, right.said.errors?.password]).toEqual([429, expect.stringMatching(/15 minutes/)]);
  expect((await browser.here()).name).toBe('Uma');
  expect((await new Browser().ask('sign-in', { email: 'sia@yard.example', password: better })).status).toBe(200);
});

test('an unknown address and a wrong password are told alike', async () => {
  const said = async (email: string) =>
    new Browser('192.0.2.1').ask('sign-in', { email, password: 'something quite wrong' });
  expect(await said('nobody@yard.example')).toEqual(await said('rue@yard.example'));
});

test('the machine lets somebody in anew: a new password, no second factor, and every session ends', async () => {
  const house = theHouse();
  expect(doVerb(house, 'let-in', ['nobody@yard.example'], { ...keeper, role: 'machine' })).toMatchObject({ ok: false });
  const out = doVerb(house, 'let-in', ['ines@yard.example'], { ...keeper, role: 'machine', name: 'a script' });
  const code = out.ok ? (out.value[0] as { code: string }).code : '';
  const browser = new Browser('192.0.2.9');
  const came = await browser.ask('join', { code, name: 'x', email: 'x@x.example', password: `${good} anew` });
  expect(came).toMatchObject({ status: 200, said: { next: 'in' } });
  expect(await keeperAt.doer).toBeNull();
  expect(mayDo(await browser.here(), 'keep')).toBe(false);
});

test('a file taken out, and whoever is refused, stands in the book with its doer', async () => {
  const browser = new Browser('192.0.2.20');
  await browser.ask('sign-in', { email: 'sia@yard.example', password: better });
  const asked = (format: string) =>
    exportRoute(new Request(`${own}/api/export?format=${format}`, { headers: browser.headers() }));
  expect([(await asked('csv')).status, (await asked('doc')).status]).toEqual([200, 400]);
  const book = peopleView(theHouse(), keeper).doings.map(({ doer, words }) => `${doer}: ${words}`);
  expect(book).toEqual(
    expect.arrayContaining([expect.stringMatching(/^somebody: A sign-in as uma@yard\.example was refused/)]),
  );
  expect(book[0]).toBe('Sia: signed in');
});

describe('the demo', () => {
  test('signs its person in by itself, and another that is picked; real data and real use never', async () => {
    const house = theHouse();
    const nobody = new Browser();
    process.env.NUNTIAX_DEMO = 'yes';
    try {
      expect(await nobody.doer).toBeNull();
      transaction(house.db, (tx) => makeDemoHouse(tx, new Date()));
      expect(await nobody.here()).toMatchObject({ name: 'Maren', role: 'keeper', withheld: [] });
      const reader = personByEmail(house.db, 'idris@tallowyard.example');
      nobody.cookies.set('nuntiax-as', reader?.id ?? '');
      expect(await nobody.here()).toMatchObject({ name: 'Idris', role: 'reader' });
      // Nobody who has a password of his own is taken for granted.
      nobody.cookies.set('nuntiax-as', personByEmail(house.db, 'sia@yard.example')?.id ?? '');
      expect(await nobody.here()).toMatchObject({ name: 'Maren' });
      // Nor one of the demo's own, once it has a password.
      nobody.cookies.set('nuntiax-as', reader?.id ?? '');
      putPassword(house.db, reader?.id ?? '', 'a hash', new Date());
      expect(await nobody.here()).toMatchObject({ name: 'Maren' });
      process.env.NUNTIAX_DEMO = '';
      expect(await nobody.doer).toBeNull();
    } finally {
      delete process.env.NUNTIAX_DEMO;
    }
  });
});
