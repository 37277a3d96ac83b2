import { by, keeper } from '@/core/testing/doers';
import { kinds } from '@/channels/kinds-rules';
import { findingWords } from '@/core/findings/finding-words';
import { performance } from '@/core/testing/samples';
import { newLevel, newNotice, newOutlet, newTickets } from '@/core/record/new-record';
import { mapCategories } from '@/desk/channels/connect-channel';
import { saveVenue } from '@/desk/directory/save-directory';
import { allVenues } from '@/store/venues';
import { previewNotice } from '@/desk/records/preview-notice';
import { Parser } from 'htmlparser2';
import { registrationSchema } from '@/core/record/ticket-schema';
import { makeRig, type Rig } from './rig';

/*
 * One event to every kind there is, in one dispatch: over real HTTP and SMTP, on real stand-ins, by the simulated
 * clock. What is public in the end is read by the pages themselves.
 */

const hourMs = 3_600_000;
/** What lies at the house itself has no stand-in. */
const outer = kinds.filter((kind) => kind.ours !== true);
const names = outer.filter((kind) => kind.connectsAs === undefined).map((kind) => kind.id);
let rig: Rig;
beforeAll(async () => {
  rig = await makeRig(names);
  const venue = allVenues(rig.house.db).get(rig.venueId);
  if (!venue) throw new Error('no venue');
  const coded = saveVenue(rig.house, keeper, venue.id, { ...venue, channelIds: { pennyseat: 'TYVAT' } });
  if (!coded.ok) throw new Error(JSON.stringify(coded.error));
});
afterAll(() => rig.end());

const publicOf = (id: string, channel: string) =>
  rig.listings(id as never).find((listing) => listing.channel === channel)?.publicUrl ?? null;
const pageAt = async (url: string | null) => (url === null ? '' : (await fetch(url)).text());

test('one event to every kind in one dispatch: gifts first, then those that carry them; in the end every page is right to the minute', async () => {
  const id = rig.make({
    title: 'The Lamp Lecture',
    online: { keep: null, join: null },
    tickets: newTickets({
      levels: [newLevel('s', 'Standard', 2200)],
      outlets: [
        newOutlet('o1', 'Gatefold', { channel: 'gatefold', allocation: 60 }),
        newOutlet('o2', 'Pennyseat', { channel: 'pennyseat', allocation: 30 }),
      ],
    }),
    notices: [
      newNotice('n1', 'hearthside-posts', { words: 'Come and hear {{ title }}' }),
      newNotice('n2', 'murmurline'),
      newNotice('n3', 'postbag', { words: 'A lamp, and who lit it.', segment: 'members' }),
      newNotice('n4', 'ostinato-highlights', { words: 'Next' }),
    ],
  });
  const sent = rig.send();
  if (!sent.ok) throw new Error(sent.error);
  await rig.settle(60);
  // What takes its time: the batch on the hour, the diary's visit and its editor, the artist's page.
  for (const hours of [2, 24, 24]) {
    await rig.pass(hours * hourMs);
    await rig.settle(30);
  }
  const standings = rig.standings(id);
  expect(Object.entries(standings).filter(([, standing]) => standing !== 'instep')).toEqual([]);
  expect(Object.keys(standings)).toHaveLength(outer.length);

  const ticketLink = publicOf(id, 'gatefold') ?? '';
  for (const channel of ['lectern', 'hearthside', 'concourse', 'fernway', 'ostinato', 'marrowby-diary']) {
    const page = await pageAt(publicOf(id, channel));
    expect([
      channel,
      page.includes('2027-03-14T19:30:00'),
      page.includes(ticketLink),
      page.includes('The Lamp Lecture'),
    ]).toEqual([channel, true, true, true]);
  }
  // Each source has a link of its own.
  expect(await pageAt(publicOf(id, 'concourse'))).toContain(`${ticketLink}?via=concourse`);
  expect(await pageAt(publicOf(id, 'pennyseat'))).toMatch(/Sunday 14 March 2027, 19:30[\s\S]*22\.00 EUR/);
  expect(await pageAt(publicOf(id, 'vestibule'))).toContain('2027-03-14T19:30:00');
  for (const channel of ['concourse', 'murmurline'])
    expect(await pageAt(publicOf(id, channel))).toMatch(/<img src="\/[\w/.-]+\.jpg" alt="A harp"/);
  // What each says to programs is whole: by the terms of schema.org, with addresses that lead somewhere.
  for (const { channel, publicUrl } of rig.listings(id as never)) {
    const { things, wrong } = saidToPrograms(await pageAt(publicUrl));
    const none = publicUrl === null || channel === 'ostinato-highlights';
    expect([channel, things > 0, wrong]).toEqual([channel, !none, []]);
  }
  for (const channel of ['lectern', 'hearthside'] as const) {
    const page = await pageAt(publicOf(id, channel));
    const file = /rel="alternate" type="text\/calendar" href="([^"]+)"/.exec(page)?.[1] ?? '';
    const calendar = await (await fetch(new URL(file, rig.base))).text();
    expect([
      channel,
      calendar.includes('DTSTART:20270314T193000Z'),
      calendar.includes('SUMMARY:The Lamp Lecture'),
    ]).toEqual([channel, true, true]);
  }
  // Nothing public says where one joins.
  for (const { publicUrl } of rig.listings(id as never)) expect(await pageAt(publicUrl)).not.toContain('/join/');
});

test('what befell a date is said on every page, in its own way: called off among others, put off, and put off alone', async () => {
  const sale = newTickets({
    levels: [newLevel('s', 'Standard', 2200)],
    outlets: [newOutlet('o1', 'Gatefold', { channel: 'gatefold', allocation: 60 })],
  });
  const part = { online: { keep: null, join: null }, tickets: sale, leftOff: ['pennyseat'] };
  const run = rig.make({
    ...part,
    title: 'Three Lamps',
    performances: [
      performance('p1', '2027-03-15', { turn: 'cancelled' }),
      performance('p2', '2027-03-16', { turn: 'postponed' }),
      performance('p3', '2027-03-17'),
    ],
  });
  const alone = rig.make({
    ...part,
    title: 'One Lamp',
    performances: [performance('p1', '2027-03-18', { turn: 'postponed' })],
  });
  const sent = rig.send();
  if (!sent.ok) throw new Error(sent.error);
  await rig.settle(60);
  for (const hours of [7, 24]) {
    await rig.pass(hours * hourMs);
    await rig.settle(30);
  }
  const statusOn = async (id: string, channel: string) => {
    const own = rig
      .listings(id as never)
      .filter((listing) => listing.channel === channel && listing.publicUrl !== null);
    const pages = await Promise.all(own.map(({ publicUrl }) => pageAt(publicUrl)));
    return {
      words: pages
        .join(' ')
        .replace(/<script[\s\S]*?<\/script>/g, '')
        .replace(/<[^>]*>/g, ' '),
      said: pages
        .flatMap((page) => [...page.matchAll(/<script type="application\/ld\+json">([\s\S]*?)<\/script>/g)])
        .flatMap(([, text = '']) => [JSON.parse(text) as unknown].flat() as Record<string, string>[])
        .map((thing) => `${thing.startDate?.slice(8, 10)} ${thing.eventStatus?.split('/Event')[1]}`)
        .sort(),
    };
  };
  for (const channel of ['lectern', 'hearthside', 'gatefold', 'vestibule']) {
    const { words, said } = await statusOn(run, channel);
    expect([channel, said]).toEqual([channel, ['15 Cancelled', '16 Postponed', '17 Scheduled']]);
    // The day that is not true any more stands in no line of its own.
    expect([channel, /Tue(?:sday)? 16 Mar(?:ch)? 2027, 19:30|16 March 2027, 19:30/.test(words)]).toEqual([
      channel,
      false,
    ]);
    expect([channel, /17 Mar/.test(words)]).toEqual([channel, true]);
  }
  // The diary has an entry a date.
  expect((await statusOn(run, 'marrowby-diary')).said).toEqual(['15 Cancelled']);
  const front = (await pageAt(`${rig.base}/marrowby-diary/`)).replace(/<[^>]*>/g, ' ');
  expect(front).toMatch(/Date to follow\s+Postponed: Three Lamps/);
  expect(front).toMatch(/Wed 17 Mar 19:30\s+Three Lamps/);
  for (const channel of ['lectern', 'hearthside', 'concourse', 'fernway', 'vestibule', 'marrowby-diary']) {
    const { words, said } = await statusOn(alone, channel);
    expect([channel, said]).toEqual([channel, ['18 Postponed']]);
    expect([channel, /18 Mar/.test(words)]).toEqual([channel, false]);
  }
  expect(rig.listings(alone as never).find(({ channel }) => channel === 'gatefold')?.wanted.listed).toEqual({
    kind: 'state',
    is: 'closed',
  });
  const off = Object.entries(rig.standings(run)).filter(
    ([place, is]) => is !== null && is !== 'instep' && !place.startsWith('ostinato'),
  );
  expect(off).toEqual([]);
});

test('whoever registers comes by a link of its own source: each page, each post, and the letter; and none after the last day', async () => {
  const today = new Date(rig.house.clock.now()).toISOString().slice(0, 10);
  const id = rig.make({
    title: 'The Wick Seminar',
    eventType: 'talk',
    online: { keep: null, join: null },
    tickets: newTickets({
      mode: 'registration',
      levels: [],
      registration: registrationSchema.parse({ closes: today, approval: true }),
    }),
    leftOff: ['marrowby-diary'],
    notices: [
      newNotice('w1', 'hearthside-posts', { words: 'Keep a place: {{ link }}' }),
      newNotice('w2', 'murmurline', { words: 'One: {{ link }}' }),
      newNotice('w3', 'murmurline', { words: 'Two: {{ link }}' }),
      newNotice('w4', 'postbag', { words: 'Come: {{ link }}', subject: 'A seminar', segment: 'members' }),
    ],
  });
  const sent = rig.send();
  if (!sent.ok) throw new Error(sent.error);
  await rig.settle(60);
  const room = /https?:\/\/\S+\/r\/[\w-]+/.exec(await pageAt(publicOf(id, 'vestibule')))?.[0] ?? 'none';
  const pages = rig.listings(id).filter(({ publicUrl, channel }) => publicUrl !== null && channel !== 'vestibule');
  const found = new Map<string, string[]>();
  for (const { channel, part, publicUrl } of pages) {
    const hrefs = (await pageAt(publicUrl)).match(/https?:\/\/[^\s"'<]+\/r\/[^\s"'<]+/g) ?? [];
    found.set(`${channel} ${part}`, [...new Set(hrefs)]);
  }
  const sources = [...found.values()].flat();
  for (const channel of ['lectern', 'hearthside', 'concourse'])
    expect([...found].filter(([place]) => place.startsWith(`${channel} `)).flatMap(([, links]) => links)).toEqual([
      `${room}?from=${channel}`,
    ]);
  for (const notice of ['hearthside-posts.w1', 'murmurline.w2', 'murmurline.w3'])
    expect(sources).toContain(`${room}?from=${notice}`);
  expect(new Set(sources).size).toBe(sources.length);
  const letter = rig.listings(id).find(({ channel }) => channel === 'postbag');
  expect(JSON.stringify(letter?.wanted)).toContain(`${room}?from=postbag.w4`);
  // Whoever asks hears that somebody says yes first; after the last day nobody can ask.
  const ask = () =>
    fetch(`${room}?from=lectern`, { method: 'POST', body: new URLSearchParams({ name: 'A', mail: 'a@b.example' }) });
  expect(await (await ask()).text()).toContain('Somebody says yes or no');
  await rig.pass(24 * hourMs);
  expect((await ask()).status).toBe(404);
  expect(await pageAt(publicOf(id, 'vestibule'))).toContain('Registration has closed');
});

/** What is wrong with a page's JSON-LD: by what schema.org's Event and SocialMediaPosting need to be of use. */
function saidToPrograms(page: string): { things: number; wrong: string[] } {
  const scripts = [...page.matchAll(/<script type="application\/ld\+json">([\s\S]*?)<\/script>/g)];
  const things = scripts.flatMap(([, text = '']) => [JSON.parse(text) as unknown].flat()) as Record<string, unknown>[];
  const address = (value: unknown) => typeof value === 'string' && /^https?:\/\//.test(value);
  const moment = (value: unknown) =>
    typeof value === 'string' && /^\d{4}-\d\d-\d\dT[\d:.]+(Z|[+-]\d\d:\d\d)$/.test(value);
  const wrong = things.flatMap((thing) => {
    const found: [string, boolean][] = [
      ['@context', thing['@context'] === 'https://schema.org'],
      ['url', address(thing.url)],
      ['image', thing.image === undefined || address(thing.image)],
    ];
    if (thing['@type'] === 'SocialMediaPosting') found.push(['datePublished', moment(thing.datePublished)]);
    else {
      const where = thing.location as Record<string, unknown> | undefined;
      const offers = [thing.offers ?? []].flat() as Record<string, unknown>[];
      found.push(
        ['@type', thing['@type'] === 'Event'],
        ['name', typeof thing.name === 'string' && thing.name !== ''],
        ['startDate', moment(thing.startDate)],
        [
          'endDate',
          thing.endDate === undefined || (moment(thing.endDate) && String(thing.endDate) > String(thing.startDate)),
        ],
        ['location', where?.['@type'] === 'VirtualLocation' ? address(where.url) : typeof where?.address === 'string'],
        ['eventStatus', thing.eventStatus === 'https://schema.org/EventScheduled'],
        [
          'offers',
          offers.every(
            (offer) =>
              address(offer.url) && (offer.price === undefined || /^[A-Z]{3}$/.test(String(offer.priceCurrency))),
          ),
        ],
      );
    }
    return found.filter(([, right]) => !right).map(([name]) => name);
  });
  return { things: things.length, wrong };
}

test.each<[string, string, string]>([
  ['lectern', 'edited', 'drifted'],
  ['lectern', 'item removed', 'drifted'],
  ['gatefold', 'doubled', 'drifted'],
  ['hearthside', 'turned down', 'drifted'],
  ['concourse', 'deleted', 'drifted'],
  ['fernway', 'edited', 'drifted'],
  ['vestibule', 'edited', 'drifted'],
  ['murmurline', 'deleted', 'drifted'],
  ['postbag', 'doubled', 'instep'],
  ['marrowby-diary', 'turned down', 'refused'],
])('by hand there, made by the weather: %s %s', async (channel, what, standing) => {
  const id = rig.make({
    title: `By Hand ${channel} ${what}`.slice(0, 50),
    performances: [performance('p1', '2027-03-14'), performance('p2', '2027-03-15')].slice(
      0,
      what === 'item removed' ? 2 : 1,
    ),
    online: { keep: null, join: null },
    tickets: newTickets({
      levels: [newLevel('s', 'Standard', 2200)],
      outlets: [newOutlet('o1', 'G', { channel: 'gatefold' })],
    }),
    leftOff: names.filter((name) => name !== channel),
    notices: ['murmurline', 'postbag'].includes(channel)
      ? [newNotice('n1', channel, { words: 'By hand', segment: 'members' })]
      : [],
  });
  rig.send();
  await rig.settle();
  if (channel === 'marrowby-diary') await rig.pass(7 * hourMs);
  await rig.settle();
  const done = (await (await rig.weather(channel, { hand: { what } })).json()) as object;
  expect([channel, what, done]).toEqual([channel, what, { of: expect.any(String) as string }]);
  rig.readAll();
  await rig.settle();
  rig.readAll();
  await rig.settle();
  const found = rig.listings(id as never).find((listing) => listing.channel === channel);
  expect([found?.standing, found?.findings.map((finding) => findingWords(finding)).join(' ')]).toEqual([
    standing,
    expect.stringMatching(what === 'doubled' ? /twice|2 times/ : what === 'deleted' ? /deleted there/ : /^/),
  ]);
});

test('the artist’s page is linked to the wrong profile: late, with its cause; put right, it shows', async () => {
  const id = rig.make({
    title: 'Wrongly Linked',
    leftOff: names.filter((name) => name !== 'fernway' && name !== 'ostinato'),
  });
  const link = (to: string) =>
    fetch(`${rig.base}/ostinato/owner/link`, {
      method: 'POST',
      body: new URLSearchParams({ profile: 'os-ninefold', to }),
    });
  await link('fw-odalys');
  rig.send();
  await rig.settle();
  expect(rig.standings(id)['ostinato.0']).toBe('unread');
  await rig.pass(41 * hourMs);
  await rig.settle();
  const late = rig.listings(id as never).find((listing) => listing.channel === 'ostinato');
  expect([late?.standing, late?.findings.find((finding) => finding.code === 'channel-says')]).toEqual([
    'late',
    expect.objectContaining({ note: 'the artist’s page is linked to fw-odalys, not to fw-ninefold' }),
  ]);
  await link('fw-ninefold');
  await rig.pass(5 * hourMs);
  await rig.settle();
  expect(rig.standings(id)['ostinato.0']).toBe('instep');
  // Nobody ever wrote to it; a change goes by way of the register, and is late to nobody before its time.
  rig.save(
    id,
    1,
    rig.content({
      title: 'Rightly Linked',
      leftOff: names.filter((name) => name !== 'fernway' && name !== 'ostinato'),
    }),
  );
  rig.send();
  await rig.settle();
  expect([rig.standings(id)['fernway.0'], rig.standings(id)['ostinato.0']]).toEqual(['instep', 'unread']);
  await rig.pass(41 * hourMs);
  await rig.settle();
  expect(rig.standings(id)['ostinato.0']).toBe('instep');
});

test('a letter is looked at as it will be read: whole HTML with its picture in it, whatever is written in it', async () => {
  const words = 'Come & hear <script>alert(1)</script> {{ title }}.\n\nBring "a friend".';
  const id = rig.make({
    title: 'Seen Before',
    notices: [newNotice('n1', 'postbag', { words, subject: '<b>Soon</b>' })],
  });
  const shown = rig.listings(id as never).find((listing) => listing.channel === 'postbag')?.proof ?? {};
  const seen = await previewNotice(rig.house, keeper, { channel: 'postbag', shown });
  const html = seen.ok ? seen.value : seen.error;
  expect(html).toContain('src="data:image/jpeg;base64,/9j/');
  expect(html).toContain('Come &amp; hear &lt;script&gt;alert(1)&lt;/script&gt; Seen Before.');
  expect(wrongInLetter(html)).toEqual([]);
  // What names no picture of the house shows none; a channel that is none, and words that are none, are told.
  const { picture } = shown;
  if (picture?.kind !== 'picture' || picture.source === null) throw new Error('no picture');
  const elsewhere = { ...picture, source: { ...picture.source, pictureId: '../../../../etc/passwd' } };
  const none = await previewNotice(rig.house, keeper, { channel: 'postbag', shown: { ...shown, picture: elsewhere } });
  expect(none.ok && !none.value.includes('data:')).toBe(true);
  for (const input of [
    { channel: 'nowhere', shown },
    { channel: 'postbag', shown: {} },
    { channel: 'lectern', shown },
    null,
  ])
    expect((await previewNotice(rig.house, keeper, input)).ok).toBe(false);
});

/**
 * What is wrong with a letter's HTML: every element closed, a language and a title, pictures described, nothing that
 * mail programs drop.
 */
function wrongInLetter(html: string): string[] {
  const wrong: string[] = [];
  const open: string[] = [];
  const parser = new Parser({
    onopentag(name, attributes) {
      if (!['meta', 'img', 'br'].includes(name)) open.push(name);
      if (name === 'img' && (attributes.alt ?? '') === '') wrong.push('a picture without words');
      if (name === 'html' && attributes.lang !== 'en') wrong.push('no language');
      if (name === 'a' && !/^(https?:|#)/.test(attributes.href ?? '')) wrong.push('a link that leads nowhere');
      if (['style', 'script', 'link', 'iframe'].includes(name)) wrong.push(name);
      if (Object.keys(attributes).some((candidate) => candidate.startsWith('on') || candidate === 'class'))
        wrong.push('an attribute that mail drops');
    },
    onclosetag(name, implied) {
      if (implied) return;
      if (!['meta', 'img', 'br'].includes(name) && open.pop() !== name)
        wrong.push(`${name} is closed where it is not open`);
    },
  });
  parser.end(html);
  if (open.length > 0) wrong.push(`never closed: ${open.join(' ')}`);
  if (!html.startsWith('<!DOCTYPE html>') && !html.startsWith('<!doctype html>')) wrong.push('no document type');
  return wrong;
}

test('a kind that stands in none of their categories is stopped there; mapped, it goes; what is none of theirs is refused', () => {
  const id = rig.make({ title: 'Unmapped', leftOff: names.filter((name) => name !== 'marrowby-diary') });
  const map = (to: Record<string, string>) => mapCategories(rig.house, by('Maren'), 'marrowby-diary', to);
  const stopped = () =>
    rig
      .listings(id as never)
      .some((listing) => listing.findings.some((f) => f.code === 'category-unmapped' && f.weight === 'stops'));
  expect([map({ concert: '', talk: 'Talks' }).ok, stopped()]).toEqual([true, true]);
  expect([map({ concert: 'Music', talk: 'Talks' }).ok, stopped()]).toEqual([true, false]);
  expect(map({ concert: 'Jazz' })).toMatchObject({ ok: false, error: expect.stringContaining('Jazz') });
  expect(map({ opera: 'Music' }).ok).toBe(false);
});

test('a diary entry turned down with a word asks a person; changed and sent again it is looked at anew', async () => {
  const only = names.filter((name) => name !== 'marrowby-diary');
  const teaser = (words: string) => ({
    title: 'Scarf Night',
    leftOff: only,
    words: { line: '', teaser: words, short: '', full: '', access: '', age: '', drafted: [] },
  });
  const id = rig.make(teaser('A raffle for the first scarf.'));
  rig.send();
  await rig.settle();
  await rig.pass(31 * hourMs);
  await rig.settle();
  const down = rig.listings(id as never).find((listing) => listing.channel === 'marrowby-diary');
  expect([down?.standing, down?.findings.find((finding) => finding.code === 'turned-down')]).toEqual([
    'refused',
    expect.objectContaining({ note: 'no raffles in the Diary' }),
  ]);
  rig.save(id, 1, rig.content(teaser('A prize for the first scarf.')));
  rig.send();
  await rig.settle();
  await rig.pass(31 * hourMs);
  await rig.settle();
  expect(rig.standings(id)['marrowby-diary.0']).toBe('instep');
});

// The last, for it goes far into the year.
test('a highlight is renewed before it lapses, and holds', async () => {
  const id = rig.make({
    title: 'Long Foreseen',
    performances: [performance('p1', '2027-11-20')],
    leftOff: names.filter((name) => name !== 'fernway'),
    notices: [newNotice('n1', 'ostinato-highlights', { words: 'Next' })],
  });
  const of = () => rig.listings(id as never).find((listing) => listing.channel === 'ostinato-highlights');
  rig.send();
  await rig.settle();
  await rig.pass(26 * hourMs);
  await rig.settle();
  const until = of()?.state.lapsesAt ?? 0;
  expect([of()?.standing, until > rig.house.clock.now() + 110 * 24 * hourMs]).toEqual(['instep', true]);
  await rig.pass(117.5 * 24 * hourMs);
  await rig.settle();
  expect([of()?.standing, of()?.findings.map((finding) => finding.code)]).toEqual([
    'due',
    expect.arrayContaining(['lapsing']),
  ]);
  rig.send();
  await rig.settle();
  // The day on which it would have lapsed is over.
  await rig.pass(4 * 24 * hourMs);
  await rig.settle();
  expect([of()?.standing, (of()?.state.lapsesAt ?? 0) > until + 100 * 24 * hourMs]).toEqual(['instep', true]);
});
