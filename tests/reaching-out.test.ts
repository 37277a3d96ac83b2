import { createServer, type RequestListener, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { gzipSync } from 'node:zlib';
import { SMTPServer } from 'smtp-server';
import { careful, ownHostOnly, type Care } from '@/channels/kit/careful';
import { accepted, OutsideError, pageOf } from '@/channels/kit/http';
import type { ChannelClient, Remote } from '@/channels/kit/kind';
import { isOpen, makeHttp } from '@/channels/kit/reach';
import { makeMail } from '@/channels/kit/smtp';

/* The way out: which addresses it reaches, how much it reads, and what of an answer goes any further. */

let answer: RequestListener = (_, response) => response.end();
let server: Server;
let base: string;
beforeAll(async () => {
  server = createServer((request, response) => answer(request, response));
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
});
afterAll(() => {
  server.closeAllConnections();
  server.close();
});
const http = makeHttp(new Set(['127.0.0.1']));
const failure = (work: Promise<unknown>) =>
  work.then(
    () => null,
    (error: unknown) => (error instanceof OutsideError ? [error.kind, error.message] : [String(error)]),
  );

test.each([
  ['93.184.215.14', true],
  ['2606:2800:21f:cb07:6820:80da:af6b:8b2c', true],
  ['127.0.0.1', false],
  ['10.1.2.3', false],
  ['172.16.0.9', false],
  ['192.168.1.1', false],
  ['169.254.169.254', false],
  ['100.64.0.1', false],
  ['0.0.0.0', false],
  ['::1', false],
  ['fd00::1', false],
  ['fe80::1', false],
  ['::ffff:127.0.0.1', false],
  ['::ffff:10.0.0.1', false],
  ['nothing', false],
])('%s is on the open internet: %s', (address, open) => expect(isOpen(address)).toBe(open));

test('a private host is reached only where it is allowed, by name or by address, however it is written', async () => {
  const shut = makeHttp(new Set());
  for (const host of ['127.0.0.1', 'localhost', '[::1]', '2130706433', '0x7f.1'])
    expect([host, (await failure(shut({ method: 'POST', url: `http://${host}:5999/`, body: '{}' })))?.[0]]).toEqual([
      host,
      'not-allowed',
    ]);
  answer = (_, response) => response.end('here');
  const byName = makeHttp(new Set(['localhost']));
  expect((await byName({ method: 'GET', url: base.replace('127.0.0.1', 'localhost') })).text).toBe('here');
  expect((await failure(byName({ method: 'GET', url: base })))?.[0]).toBe('not-allowed');
});

test('an answer is counted while it is read, after it is unpacked: a small one that unfolds is not read to its end', async () => {
  const bomb = gzipSync(Buffer.alloc(60_000_000, 'x'));
  expect(bomb.length).toBeLessThan(100_000);
  answer = (_, response) => {
    response.writeHead(200, { 'content-encoding': 'gzip' });
    response.end(bomb);
  };
  expect(await failure(http({ method: 'GET', url: base }))).toEqual([
    'invalid',
    expect.stringContaining('larger than 5 MB'),
  ]);
  // Of a writing it is not known what it came to.
  expect((await failure(http({ method: 'POST', url: base, body: '{}' })))?.[0]).toBe('unknown-outcome');
  answer = (_, response) => {
    response.writeHead(200, { 'content-encoding': 'gzip' });
    response.end(gzipSync('small'));
  };
  expect((await http({ method: 'GET', url: base })).text).toBe('small');
});

test('a public page leads on a few times on its own host; away from it, to another scheme, or in a circle, it is not followed', async () => {
  const leads =
    (to: (url: string) => string | null): RequestListener =>
    (request, response) => {
      const next = to(request.url ?? '');
      if (next === null) return void response.end('the page');
      response.writeHead(302, { location: next });
      response.end();
    };
  answer = leads((url) => (url === '/a' ? '/b' : url === '/b' ? '/c' : null));
  expect(await pageOf(http, `${base}/a`)).toBe('the page');
  for (const to of ['http://elsewhere.example/', 'ftp://127.0.0.1/', 'javascript:alert(1)', '/round']) {
    answer = leads(() => to);
    expect([to, (await failure(pageOf(http, `${base}/a`)))?.[0]]).toEqual([to, 'invalid']);
  }
  // A call is led nowhere.
  answer = leads(() => '/b');
  await expect(async () => accepted(await http({ method: 'GET', url: `${base}/a` }), false)).rejects.toThrow(
    /nothing was followed/,
  );
});

describe('what of an answer goes further', () => {
  const foreign: string[] = [];
  const allowed = new Set<string>();
  const care: Care = {
    connection: {
      address: 'https://api.place.example/v1',
      credentials: { user: 'yard-desk', key: 'sk-very-secret/1' },
    },
    open: new Set(['user']),
    allowed: () => allowed,
    foreign: (host) => void foreign.push(host),
  };
  const there: Remote = { id: '1', publicUrl: null, etag: null, link: null, lapsesAt: null };
  const client = (part: Partial<ChannelClient>) => careful(part as ChannelClient, care);

  test('known secrets are struck from every message, in whatever clothes they come', async () => {
    const basic = Buffer.from('yard-desk:sk-very-secret/1').toString('base64');
    for (const said of ['sk-very-secret/1', encodeURIComponent('sk-very-secret/1'), basic]) {
      const thrown = client({ find: () => Promise.reject(new OutsideError('invalid', `bad key ${said}!`)) });
      expect(await failure(thrown.find('x'))).toEqual(['invalid', 'bad key [secret]!']);
      // A name that is no secret stays readable.
      const named = client({ find: () => Promise.reject(new OutsideError('not-allowed', 'yard-desk may not')) });
      expect(await failure(named.find('x'))).toEqual(['not-allowed', 'yard-desk may not']);
      const ours = client({ find: () => Promise.reject(new TypeError(`cannot read ${said}`)) });
      expect(await failure(ours.find('x'))).toEqual(['TypeError: cannot read [secret]']);
    }
  });

  test.each([
    ['https://api.place.example/e/1', true],
    ['https://evil.example/e/1', false],
    ['javascript:alert(1)', false],
    ['https://user@api.place.example/', false],
    ['file:///etc/passwd', false],
    ['no address', false],
  ])('%s is passed on: %s', async (address, passed) => {
    const given = {
      ...there,
      publicUrl: address,
      link: address,
      gifts: { 'registration link': address, 'remote id': 'fw-1' },
    };
    const [found] = await client({ find: () => Promise.resolve([given]) }).find('x');
    expect([found?.publicUrl, found?.link, found?.gifts?.['registration link']]).toEqual(
      passed ? [address, address, address] : [null, null, undefined],
    );
    expect(found?.gifts?.['remote id']).toBe('fw-1');
  });

  test('a further host is told, and passed on once a person allows it; requests go to the own host alone', async () => {
    const page = { ...there, publicUrl: 'https://www.place.example/e/1' };
    const channelClient = client({ find: () => Promise.resolve([page]) });
    expect([(await channelClient.find('x'))[0]?.publicUrl, foreign.includes('www.place.example')]).toEqual([
      null,
      true,
    ]);
    allowed.add('www.place.example');
    expect((await channelClient.find('x'))[0]?.publicUrl).toBe(page.publicUrl);
    const asked: string[] = [];
    const out = ownHostOnly(
      (request) => (asked.push(request.url), Promise.resolve({ status: 200, headers: new Headers(), text: '' })),
      care,
    );
    await out({ method: 'GET', url: 'https://api.place.example/v1/x' });
    await out({ method: 'GET', url: 'https://www.place.example/e/1', follow: true });
    for (const request of [
      { method: 'POST' as const, url: 'https://www.place.example/e/1' },
      { method: 'GET' as const, url: 'http://169.254.169.254/latest', follow: true },
    ])
      expect((await failure(out(request)))?.[0]).toBe('invalid');
    expect(asked).toHaveLength(2);
  });
});

test('what meets a reset connection is asked once more, where doing it twice harms nobody; a writing is in doubt', async () => {
  const tries = async (request: Parameters<typeof http>[0], resets: number) => {
    let calls = 0;
    answer = (incoming, response) => {
      calls += 1;
      incoming.resume();
      if (calls <= resets) incoming.socket.resetAndDestroy();
      else response.end('here');
    };
    const said = await failure(http(request));
    return [calls, said?.[0] ?? 'answered'];
  };
  expect(await tries({ method: 'GET', url: base }, 1)).toEqual([2, 'answered']);
  expect(await tries({ method: 'PUT', url: base, body: 'x', repeatable: true }, 1)).toEqual([2, 'answered']);
  expect(await tries({ method: 'GET', url: base }, 2)).toEqual([2, 'again-later']);
  expect(await tries({ method: 'POST', url: base, body: 'x' }, 1)).toEqual([1, 'unknown-outcome']);
});

describe('the last question, when the line stands and nothing was written yet', () => {
  const refusal = new Error('another process leads now');
  const refuse = () => {
    throw refusal;
  };

  test.each(['GET', 'POST', 'PUT', 'DELETE'] as const)('%s: what is refused then does not arrive', async (method) => {
    const arrived: string[] = [];
    answer = (request, response) => {
      arrived.push(request.method ?? '');
      response.end();
    };
    const request = { method, url: base, ...(method === 'POST' || method === 'PUT' ? { body: 'words' } : {}) };
    // On a line that stands already, and on one that is made for it: thrown is what was thrown there, in no other
    // clothes.
    await http(request);
    await expect(http(request, refuse)).rejects.toBe(refusal);
    await expect(makeHttp(new Set(['127.0.0.1']))(request, refuse)).rejects.toBe(refusal);
    expect(arrived).toEqual([method]);
    let asked = 0;
    await http(request, () => (asked += 1));
    expect([asked, arrived]).toEqual([1, [method, method]]);
  });

  test('a letter is read only when the server takes it', async () => {
    const said: string[] = [];
    const taking = new SMTPServer({
      disabledCommands: ['STARTTLS'],
      onAuth: (_, __, done) => done(null, { user: 'u' }),
      onRcptTo: ({ address }, _, done) => {
        said.push(`to ${address}`);
        done();
      },
      onData: (stream, _, done) => {
        let text = '';
        stream.on('data', (part: Buffer) => (text += part.toString()));
        stream.on('end', () => {
          said.push(/^Subject: (.*)$/m.exec(text)?.[1]?.trim() ?? '');
          done();
        });
      },
    });
    taking.on('error', () => undefined);
    await new Promise<void>((resolve) => taking.listen(0, '127.0.0.1', resolve));
    const { port } = taking.server.address() as AddressInfo;
    const mail = makeMail(new Set(['127.0.0.1']));
    const letter = {
      ...{ host: '127.0.0.1', port, user: 'u', password: 'p', from: 'a@house.test', to: 'all@list.test' },
      ...{ subject: 'A letter', html: '<p>x</p>', text: 'x', messageId: 'm1@house.test', inReplyTo: null },
      ...{ headers: {}, pictures: [] },
    };
    try {
      await expect(mail(letter, refuse)).rejects.toBe(refusal);
      await mail(letter, () => void said.push('asked'));
      expect(said).toEqual(['to all@list.test', 'to all@list.test', 'asked', 'A letter']);
    } finally {
      await new Promise<void>((resolve) => taking.close(resolve));
    }
    // Where nobody answers any more nothing was handed over: it is tried again without asking.
    await expect(mail(letter, () => undefined)).rejects.toMatchObject({ kind: 'again-later' });
  });
});
