/** @jest-environment node */
import { NextRequest } from 'next/server';
import { ownAddress, turnedAway, type Knock, type OwnAddress } from '@/house/front-door';
import { config, proxy } from '@/proxy';

/* Who is answered at all: by the host that is asked for, and by where a write comes from. */

const own = 'http://127.0.0.1:4310';
const knock = (part: Partial<Knock> = {}): Knock => ({
  method: 'GET',
  path: '/season',
  host: '127.0.0.1:4310',
  origin: null,
  site: null,
  forwardedHost: null,
  forwarded: null,
  ...part,
});
const here: OwnAddress = { origin: null, proxied: false };
const named: OwnAddress = { origin: new URL('https://desk.yard.example'), proxied: false };
const behind: OwnAddress = { ...named, proxied: true };

test.each<[string, OwnAddress, Partial<Knock>, number | null]>([
  ['this machine', here, {}, null],
  ['this machine by its name', here, { host: 'localhost:4310' }, null],
  ['this machine, IPv6', here, { host: '[::1]:4310' }, null],
  ['another host', here, { host: 'evil.example' }, 421],
  ['a host that only begins like ours', here, { host: '127.0.0.1.evil.example' }, 421],
  ['a host with a user before it', here, { host: 'localhost@evil.example' }, 421],
  ['no host', here, { host: null }, 421],
  ['the name that is configured', named, { host: 'desk.yard.example' }, null],
  ['that name in capitals', named, { host: 'Desk.Yard.Example' }, null],
  ['that name with another port', named, { host: 'desk.yard.example:8443' }, 421],
  ['that name where none is configured', here, { host: 'desk.yard.example' }, 421],
  ['a forwarded host that is the same', here, { forwardedHost: '127.0.0.1:4310' }, null],
  ['a forwarded host that is another, with no proxy', here, { forwardedHost: 'evil.example' }, 400],
  ['Forwarded, with no proxy', here, { forwarded: 'host=evil.example' }, 400],
  ['a forwarded host behind a proxy', behind, { forwardedHost: 'desk.yard.example' }, null],
  ['a foreign forwarded host behind a proxy', behind, { forwardedHost: 'evil.example' }, 421],
  ['a write from a page of ours', here, { method: 'POST', origin: own, site: 'same-origin' }, null],
  ['a write from a program', here, { method: 'POST' }, null],
  ['a write from another page', here, { method: 'POST', origin: 'https://evil.example' }, 403],
  ['a write from another port of this machine', here, { method: 'POST', origin: 'http://127.0.0.1:9' }, 403],
  ['a write from nowhere in particular', here, { method: 'POST', origin: 'null' }, 403],
  ['a write that a browser calls foreign', here, { method: 'POST', site: 'cross-site' }, 403],
  ['a write from a sister site', here, { method: 'DELETE', site: 'same-site' }, 403],
  [
    'a write that claims its own host by another name',
    here,
    { method: 'POST', origin: 'http://evil.example', forwardedHost: '127.0.0.1:4310' },
    403,
  ],
  [
    'a write from the configured page',
    named,
    { method: 'PATCH', host: 'desk.yard.example', origin: named.origin?.origin ?? '' },
    null,
  ],
  [
    'a write from that page without https',
    named,
    { method: 'POST', host: 'desk.yard.example', origin: 'http://desk.yard.example' },
    403,
  ],
  ['a read from another page', here, { origin: 'https://evil.example', site: 'cross-site' }, null],
  ['a call of a place, signed', here, { method: 'POST', path: '/api/hooks/abc', site: 'cross-site' }, null],
  [
    'a call to another door by a path that looks so',
    here,
    { method: 'POST', path: '/x/api/hooks/abc', site: 'cross-site' },
    403,
  ],
])('%s', (_, address, part, status) => {
  expect(turnedAway(knock(part), address)?.status ?? null).toBe(status);
});

test.each([
  [{ NUNTIAX_ORIGIN: 'desk.yard.example' }, /NUNTIAX_ORIGIN/],
  [{ NUNTIAX_ORIGIN: 'ftp://desk.yard.example' }, /NUNTIAX_ORIGIN/],
  [{ NUNTIAX_ORIGIN: 'https://desk.yard.example/house' }, /no path/],
  [{ NUNTIAX_PROXY: 'maybe' }, /NUNTIAX_PROXY/],
])('an address that is none stops the house: %j', (env, words) => {
  expect(() => ownAddress(env)).toThrow(words);
});

test('what is not said is left as it is', () => {
  expect([ownAddress({}), ownAddress({ NUNTIAX_ORIGIN: '', NUNTIAX_PROXY: '' })]).toEqual([here, here]);
  expect(ownAddress({ NUNTIAX_ORIGIN: 'https://desk.yard.example/', NUNTIAX_PROXY: 'yes' }).origin?.host).toBe(
    'desk.yard.example',
  );
});

describe('every answer', () => {
  const ask = (headers: Record<string, string>, method = 'GET', path = '/sign-in') =>
    proxy(new NextRequest(`${own}${path}`, { method, headers: { host: '127.0.0.1:4310', ...headers } }));

  test('says what may be done with it; scripts go by a mark that is new each time', async () => {
    const [first, second] = await Promise.all([ask({}), ask({})]);
    const policy = first.headers.get('content-security-policy') ?? '';
    expect(policy).toMatch(/script-src 'self' 'nonce-[\w+/=]{24}' 'strict-dynamic';/);
    for (const rule of ["frame-ancestors 'none'", "base-uri 'none'", "object-src 'none'", "form-action 'self'"])
      expect(policy).toContain(rule);
    expect(policy).not.toBe(second.headers.get('content-security-policy'));
    expect([
      first.headers.get('x-content-type-options'),
      first.headers.get('x-frame-options'),
      first.headers.get('referrer-policy'),
      first.headers.get('strict-transport-security'),
    ]).toEqual(['nosniff', 'DENY', 'same-origin', null]);
    // What the page is made with is the mark that its answer names.
    expect(policy).toContain(`'nonce-${first.headers.get('x-middleware-request-x-nonce')}'`);
  });

  test('that is a refusal says so in JSON, and goes no further', async () => {
    const refused = await ask({ host: 'evil.example' });
    expect([refused.status, await refused.json()]).toEqual([421, { message: 'This house is not evil.example.' }]);
    expect(refused.headers.get('x-middleware-next')).toBeNull();
    expect((await ask({ origin: 'https://evil.example' }, 'POST')).status).toBe(403);
    expect((await ask({})).headers.get('x-middleware-next')).toBe('1');
  });

  test.each([
    ['/season', true],
    ['/api/pictures', true],
    ['/feeds/x', true],
    ['/_next/data/x', true],
    ['/_next/image', true],
    ['/_next/static/chunks/x.js', false],
  ])('%s passes the door: %s', (path, passes) => {
    expect(new RegExp(`^${config.matcher[0]}$`).test(path)).toBe(passes);
  });
});
