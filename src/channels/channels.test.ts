import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { compareListing } from '@/core/listing/compare';
import { facts } from '@/core/facts/facts';
import { findingWords } from '@/core/findings/finding-words';
import { readListing, writeListing } from '@/core/listing/listing-codec';
import { proof } from '@/core/listing/proof';
import { newPicture, newWords } from '@/core/record/new-record';
import { performance, sample, venues } from '@/core/testing/samples';
import { surveyRecord } from './survey';
import { overlayPage } from './kit/public-page';
import { channels } from './registry';

const link = { href: 'https://tickets.example/e/1' };
const now = Date.parse('2027-02-02T10:20Z');
const proofOf = (channel: (typeof channels)[number], part: Parameters<typeof sample>[0] = {}) => {
  const content = sample(part);
  return proof(
    channel.rules,
    { ...facts(content, { code: 'OQ-0001', venues, now }), link: { kind: 'known', href: link.href } },
    content.performances.map((one) => one.id),
    now,
  );
};

test('every channel folder is in the registry, and every channel has its four files', () => {
  const folders = readdirSync(__dirname, { withFileTypes: true })
    .filter((one) => one.isDirectory())
    .map((one) => one.name)
    .sort();
  expect(channels.map(({ rules }) => rules.id).sort()).toEqual(folders);
  for (const folder of folders)
    expect(readdirSync(path.join(__dirname, folder))).toEqual(
      expect.arrayContaining(['client.ts', 'index.ts', 'read.ts', 'rules.ts']),
    );
  const lines = readFileSync(path.join(__dirname, 'registry.ts'), 'utf8');
  for (const folder of folders) expect(lines).toContain(`./${folder}`);
});

describe.each(
  channels.filter(({ rules }) => rules.notice === null).map((channel) => [channel.rules.name, channel] as const),
)('%s', (_, channel) => {
  const clockChange = {
    performances: [
      performance('p1', '2027-10-31', { start: '01:30', doors: null, end: null, repeat: 'second' }),
      performance('p2', '2027-11-01'),
    ],
  };

  test.each([
    ['an evening', {}],
    ['the hour that comes twice', clockChange],
    ['no end, no doors', { performances: [performance('p1', '2027-03-14', { end: null, doors: null })] }],
  ])('what is written is read back the same: %s', (_name, part) => {
    const { shown } = proofOf(channel, part);
    const back = readListing(
      channel.rules,
      JSON.parse(JSON.stringify(writeListing(channel.rules, shown))) as Record<string, unknown>,
    );
    const state = { sent: shown, previous: null, observed: back, sentAt: 1, observedAt: 1, lapsesAt: null };
    expect(
      compareListing(shown, state, { now: 2, delayMs: 0, dropped: new Set(), lapse: null }).filter(
        (one) => one.outcome !== 'same',
      ),
    ).toEqual([]);
  });

  test('an amendment writes the touched keys and nothing else', () => {
    const { shown } = proofOf(channel, clockChange);
    const wire = writeListing(channel.rules, shown, ['start@p1']);
    expect(Object.keys(wire)).toEqual([channel.rules.lists.performance]);
    expect(Object.values(wire)[0]).toHaveLength(2);
    const { title: _title, ...without } = shown;
    expect(Object.values(writeListing(channel.rules, without, ['title']))).toEqual([null]);
  });

  test('every limit is kept, and said', () => {
    const { shown, findings } = proofOf(channel, {
      title: 'Letters that were never posted '.repeat(8).trim(),
      words: newWords({ teaser: 'word '.repeat(110) }),
    });
    for (const row of channel.rules.rows) {
      const value = shown[row.field];
      if (row.limit !== undefined && value?.kind === 'text') expect(value.text.length).toBeLessThanOrEqual(row.limit);
    }
    expect(findings.map((one) => `${one.field} ${one.code}`)).toContain('title shown-shorter');
  });

  test('what is missing is a finding with a way out', () => {
    const { findings } = proofOf(channel, {
      pictures: [],
      words: newWords(),
      performances: [performance('p1', '2027-03-14', { venueId: null, roomId: null })],
      tickets: { ...sample().tickets, levels: [] },
    });
    expect(findings.map((one) => one.code)).toEqual(
      expect.arrayContaining(['picture-none', 'venue-none', 'price-none', 'needed-empty']),
    );
    for (const one of findings) expect(findingWords(one)).toMatch(/\.$/);
  });

  test('a portrait in a landscape place is told, and a small picture', () => {
    const portrait = newPicture({ id: 'cd'.repeat(32), width: 900, height: 1600 }, { focal: { x: 0.5, y: 0.1 } });
    expect(proofOf(channel, { pictures: [portrait] }).findings.map((one) => one.code)).toEqual(
      expect.arrayContaining(['picture-small', 'picture-portrait', 'alt-empty', 'credit-empty']),
    );
  });

  test('an answer in another shape is kept as it was found, never emptied', () => {
    const { shown } = proofOf(channel);
    const wire = writeListing(channel.rules, shown);
    const [list] = wire[channel.rules.lists.performance] as Record<string, unknown>[];
    for (const key of Object.keys(list ?? {})) if (key !== channel.rules.lists.ref && list) list[key] = { odd: true };
    const back = readListing(channel.rules, wire);
    expect(back['start@p1']).toEqual({ kind: 'text', text: '{"odd":true}' });
  });
});

test('the public page has the last word: a hidden ticket link is no link', () => {
  const page = (offer: string) =>
    `<main itemscope itemtype="https://schema.org/Event"><h1 itemprop="name">Seen</h1><time itemprop="startDate" datetime="2027-03-14T20:00:00Z">x</time>${offer}</main>`;
  const told = {
    title: { kind: 'text', text: 'Told' },
    link: { kind: 'url', href: link.href },
    'start@p1': { kind: 'instant', at: 0, zone: 'UTC' },
  } as const;
  const hidden = overlayPage(told, page(''));
  expect([hidden.title, hidden.link, hidden['start@p1']]).toEqual([
    { kind: 'text', text: 'Seen' },
    undefined,
    { kind: 'instant', at: Date.parse('2027-03-14T20:00:00Z'), zone: 'UTC' },
  ]);
  expect(
    overlayPage(told, page(`<p itemprop="offers"><a itemprop="url" href="${link.href}">Tickets</a></p>`)).link,
  ).toEqual(told.link);
  expect(overlayPage(told, '<p>Not found</p>').listed).toEqual({ kind: 'flag', on: false });
});

describe('the survey', () => {
  const survey = (part: Parameters<typeof sample>[0], connected = ['lectern', 'gatefold', 'hearthside']) =>
    surveyRecord({
      recordId: 'r',
      code: 'X',
      content: sample(part),
      venues,
      organisers: new Map(),
      sold: new Map(),
      listings: [],
      errands: new Map(),
      connected: new Set(connected),
      now,
    });
  const standings = (part: Parameters<typeof sample>[0], connected?: string[]) =>
    survey(part, connected).listings.map((one) => one.standing);
  const announce = { date: '2027-02-04', time: '09:00', zone: 'Europe/Dublin' };

  test.each([
    ['public', {}, ['unplaced', 'unplaced', 'unplaced']],
    [
      'private: nowhere, whatever else is on',
      { publicity: { visibility: 'private' as const, announce: null } },
      [null, null, null],
    ],
    [
      'under embargo',
      { publicity: { visibility: 'public' as const, announce } },
      ['embargoed', 'embargoed', 'embargoed'],
    ],
    [
      'free entry needs no marketplace',
      { tickets: { ...sample().tickets, mode: 'free entry' as const } },
      ['unplaced', null, 'unplaced'],
    ],
    ['left off one', { leftOff: ['hearthside'] }, ['unplaced', 'unplaced', null]],
    ['over already', { performances: [performance('p1', '2027-01-14')] }, [null, null, null]],
  ])('%s', (_, part, expected) => expect(standings(part)).toEqual(expected));

  test('the link is awaited where the marketplace is connected, and not where it is not', () => {
    const linkOf = (connected?: string[]) =>
      survey({}, connected).listings.find((one) => one.channel === 'lectern')?.wanted.link;
    expect([linkOf(), linkOf(['lectern'])]).toEqual([
      { kind: 'awaited', from: 'gatefold', track: { name: 'via', value: 'lectern' } },
      undefined,
    ]);
  });

  test('nine dates make three listings where four fit', () => {
    const nine = Array.from({ length: 9 }, (_, i) => performance(`p${i}`, `2027-03-${10 + i}`));
    const parts = survey({ performances: nine }).listings.filter((one) => one.channel === 'hearthside');
    expect(parts.map((one) => one.performanceIds.length)).toEqual([4, 4, 1]);
    expect(Object.keys(parts[2]?.wanted ?? {}).filter((key) => key.startsWith('start@'))).toEqual(['start@p8']);
  });
});
