import { channelIdSchema } from '@/core/base/ids';
import { readdirSync } from 'node:fs';
import path from 'node:path';
import { compareListing, equalValues } from '@/core/listing/compare';
import { facts } from '@/core/facts/facts';
import { fieldOf } from '@/core/findings/finding';
import { findingWords } from '@/core/findings/finding-words';
import { readListing, writeListing } from '@/core/listing/listing-codec';
import { proof } from '@/core/listing/proof';
import { newNotice, newPicture, newWords } from '@/core/record/new-record';
import { countAs } from '@/core/words/fit';
import type { Wire } from '@/core/listing/channel-rules';
import type { Shown } from '@/core/listing/shown';
import { codedVenues, performance, sample, suited, venues } from '@/core/testing/samples';
import { overlayPage } from './kit/public-page';
import { readAny } from './kit/read';
import { channelOf, partWords, plainRow, type Channel } from './channels';
import { bareListing, channels, onlyConnected, surveyOf } from './testing/fixture';
import { doors } from './kinds-doors';
import { kinds } from './kinds-rules';

const link = { href: 'https://tickets.example/e/1' };
const now = Date.parse('2027-02-02T10:20Z');
const itemsIn = (shown: Shown) =>
  new Set(Object.keys(shown).flatMap((key) => (key.includes('@') ? [key.slice(key.indexOf('@') + 1)] : [])));
const proofOf = (channel: Channel, part: Parameters<typeof sample>[0] = {}) => {
  const content = sample(part);
  return proof(
    channel.rules,
    { ...facts(content, { code: 'OQ-0001', venues, now }), link: { kind: 'known', href: link.href } },
    content.performances.map((performance) => performance.id),
    now,
  );
};

test('every folder of a kind is in both lists, and has its files', () => {
  const folders = readdirSync(__dirname, { withFileTypes: true })
    .filter((file) => file.isDirectory() && !['kit', 'testing', '__snapshots__'].includes(file.name))
    .map((file) => file.name)
    .sort();
  expect(kinds.map((kind) => kind.id).sort()).toEqual(folders);
  expect(Object.keys(doors).sort()).toEqual(folders);
  for (const folder of folders)
    expect(readdirSync(path.join(__dirname, folder))).toEqual(
      expect.arrayContaining(['door.ts', 'index.ts', 'rules.ts']),
    );
});

test('no kind knows the id of a channel: two of one kind are read and written alike, each under its own', () => {
  for (const kind of kinds) {
    const [item, other] = ['a-1', 'b-2'].map((id) =>
      channelOf({ ...plainRow(kind.id), id: channelIdSchema.parse(id) }),
    );
    const shown = (channel: typeof item) =>
      channel && JSON.stringify(proofOf(channel).shown).replaceAll(channel.row.id, 'x');
    expect(shown(item)).toBe(shown(other));
  }
});

test('what a kind says it can do fits together', () => {
  for (const kind of kinds) {
    const { rules } = channelOf(plainRow(kind.id));
    const ops = new Set<string>(rules.operations.map((row) => row.op));
    // What only mirrors another is written to by nobody; what cannot be changed any more is put right by saying it
    // anew.
    expect([kind.id, ops.has('place'), ops.has('amend') || ops.has('correct')]).toEqual(
      rules.mirrors === null ? [kind.id, true, true] : [kind.id, false, false],
    );
    if (rules.mirrors !== null) {
      expect(kinds.map((kind) => kind.id)).toContain(rules.mirrors);
      continue;
    }
    expect(ops.size).toBe(rules.operations.length);
    // What lapses can be renewed, and every state that may be wanted has a way to it.
    expect([kind.id, rules.lapse === null || ops.has('renew')]).toEqual([kind.id, true]);
    // What was sent by mail is sent: only what can be unsaid has a way to it.
    for (const state of rules.states.filter((state) => state !== 'draft' && (state !== 'public' || ops.has('publish'))))
      expect([kind.id, state, rules.operations.some((row) => row.leadsTo?.includes(state))]).toEqual([
        kind.id,
        state,
        true,
      ]);
    // Every field that a lock or an operation names is one of its rows.
    const fields = new Set(rules.rows.map((row) => row.field));
    for (const field of [
      ...rules.locks.flatMap((row) => row.fields),
      ...rules.operations.flatMap((row) => (Array.isArray(row.fields) ? row.fields : [])),
    ])
      expect([kind.id, field, fields.has(field)]).toEqual([kind.id, field, true]);
    for (const row of rules.page?.rows ?? []) expect([kind.id, fields.has(row.field)]).toEqual([kind.id, true]);
    // Whatever a person reads of it on its page is there to be read.
    expect([
      kind.id,
      rules.habits.length > 1,
      kind.ours === true || kind.connectsAs !== undefined || kind.credentials.length > 0,
    ]).toEqual([kind.id, true, true]);
  }
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
      itemsIn(shown),
    );
    const state = bareListing(channel.row.id, 0, { sent: shown, observed: back, sentAt: 1, observedAt: 1 });
    expect(
      compareListing(shown, state, { now: 2, delayMs: 0, dropped: new Set(), lapse: null }).filter(
        (field) => field.outcome !== 'same',
      ),
    ).toEqual([]);
  });

  test('an amendment writes the touched keys and nothing else', () => {
    const { shown } = proofOf(channel, clockChange);
    const wire = writeListing(channel.rules, shown, ['start@p1']);
    expect(Object.keys(wire)).toEqual([channel.rules.lists?.performance]);
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
    expect(findings.map((finding) => `${fieldOf(finding)} ${finding.code}`)).toContain('title shown-shorter');
  });

  test('what is missing is a finding with a way out', () => {
    const { findings } = proofOf(channel, {
      pictures: [],
      words: newWords(),
      performances: [performance('p1', '2027-03-14', { venueId: null, roomId: null })],
      tickets: { ...sample().tickets, levels: [] },
    });
    expect(findings.map((finding) => finding.code)).toEqual(
      expect.arrayContaining(['picture-none', 'venue-none', 'price-none', 'needed-empty']),
    );
    for (const finding of findings) expect(findingWords(finding)).toMatch(/\.$/);
  });

  test('a portrait in a landscape place is told, and a small picture', () => {
    const portrait = newPicture({ id: 'cd'.repeat(32), width: 900, height: 1600 }, { focal: { x: 0.5, y: 0.1 } });
    expect(proofOf(channel, { pictures: [portrait] }).findings.map((finding) => finding.code)).toEqual(
      expect.arrayContaining(['picture-small', 'picture-portrait', 'alt-empty', 'credit-empty']),
    );
  });

  test('an answer in another shape is kept as it was found, never emptied', () => {
    const { shown } = proofOf(channel);
    const wire = writeListing(channel.rules, shown);
    const { performance: group = '', ref = '' } = channel.rules.lists ?? {};
    const [list] = wire[group] as Record<string, unknown>[];
    for (const key of Object.keys(list ?? {})) if (key !== ref && list) list[key] = { odd: true };
    const back = readListing(channel.rules, wire, new Set(['p1', 's']));
    expect(back['start@p1']).toEqual({ kind: 'text', text: '{"odd":true}' });
  });
});

describe.each(kinds.filter((kind) => kind.rules({}).mirrors === null).map((kind) => kind.id))('%s', (id) => {
  const channel = channelOf(plainRow(id));
  const notice = newNotice('n1', id, { words: 'word '.repeat(2000), subject: 's'.repeat(120), segment: 'members' });
  const long = suited(id, {
    ...sample({
      title: 'Letters that were never posted 🎻 '.repeat(8).trim(),
      words: newWords({ teaser: 'word '.repeat(110), short: 'word '.repeat(2000) }),
    }),
    notices: channel.rules.notice === null ? [] : [notice],
  });
  const said = facts(long, { code: 'X', venues: codedVenues, now });
  const told = { ...said, notice: long.notices[0] ?? null, link: { kind: 'known' as const, href: link.href } };
  const { shown, findings } = proof(channel.rules, told, ['p1'], now);

  test('every limit is met at its edge, as the channel counts, and what was cut is told', () => {
    for (const row of channel.rules.rows) {
      const value = shown[row.field];
      if (row.limit === undefined || value?.kind !== 'text') continue;
      expect([
        row.field,
        countAs(value.text, row.linkLength ?? null, row.limitIn ?? 'characters') <= row.limit,
      ]).toEqual([row.field, true]);
    }
    expect(findings.some((finding) => finding.code === 'shown-shorter' || finding.code === 'shown-fitted')).toBe(true);
  });
  test('what is shown is written, and read back the same', () => {
    const wire = JSON.parse(JSON.stringify(writeListing(channel.rules, shown))) as Wire;
    const back = readListing(channel.rules, wire, itemsIn(shown));
    const other = Object.keys(shown).filter((key) => {
      const [was, is] = [shown[key], back[key]];
      return !was || !is || !equalValues(was, is);
    });
    expect(other).toEqual([]);
  });
});

test('the public page has the last word: a hidden ticket link is no link', () => {
  const lectern = channelOf(plainRow('lectern')).rules;
  const page = (offer: string) =>
    `<main itemscope itemtype="https://schema.org/Event"><h1 itemprop="name">Seen</h1><time itemprop="startDate" datetime="2027-03-14T20:00:00Z">x</time>${offer}</main>`;
  const told = {
    title: { kind: 'text', text: 'Told' },
    link: { kind: 'url', href: link.href },
    'start@p1': { kind: 'instant', at: 0, zone: 'UTC' },
  } as const;
  const hidden = overlayPage(lectern, told, page(''));
  expect([hidden.title, hidden.link, hidden['start@p1']]).toEqual([
    { kind: 'text', text: 'Seen' },
    undefined,
    { kind: 'instant', at: Date.parse('2027-03-14T20:00:00Z'), zone: 'UTC' },
  ]);
  expect(
    overlayPage(lectern, told, page(`<p itemprop="offers"><a itemprop="url" href="${link.href}">Tickets</a></p>`)).link,
  ).toEqual(told.link);
  expect(overlayPage(lectern, told, '<p>Not found</p>').listed).toEqual({ kind: 'state', is: 'draft' });
});

test.each(kinds.filter((kind) => channelOf(plainRow(kind.id)).rules.page !== null).map((kind) => kind.id))(
  '%s: hidden with a delay is not taken down before the public page is gone',
  (id) => {
    const { rules } = channelOf(plainRow(id));
    const { type = '', whileSeen } = rules.page ?? {};
    const page = `<main itemscope itemtype="https://schema.org/${type}"></main>`;
    const wire = Object.assign(
      {},
      ...rules.rows.filter((row) => row.kind === 'state').map((row) => row.put({ kind: 'state', is: 'closed' })),
    ) as Wire;
    const state = (seen: string) => {
      const { listed } = readAny(rules, { wire, page: seen }, { items: new Set() });
      return listed?.kind === 'state' ? listed.is : null;
    };
    expect([['closed', 'draft'].includes(String(state(''))), state(page) === 'public']).toEqual([true, whileSeen]);
  },
);

describe('the survey', () => {
  const three = ['lectern', 'gatefold', 'hearthside'];
  const survey = (part: Parameters<typeof sample>[0], connected = three) =>
    surveyOf({ content: sample(part), channels: onlyConnected(connected).filter((row) => three.includes(row.id)) });
  const standings = (part: Parameters<typeof sample>[0], connected?: string[]) =>
    survey(part, connected).listings.map((listing) => listing.standing);
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
      survey({}, connected).listings.find((listing) => listing.channel === 'lectern')?.wanted.link;
    expect([linkOf(), linkOf(['lectern'])]).toEqual([
      {
        kind: 'awaited',
        from: 'gatefold',
        name: 'Gatefold',
        gift: 'ticket link',
        track: { name: 'via', value: 'lectern' },
      },
      undefined,
    ]);
  });

  test('nine dates make three listings where four fit', () => {
    const nine = Array.from({ length: 9 }, (_, i) => performance(`p${i}`, `2027-03-${10 + i}`));
    const parts = survey({ performances: nine }).listings.filter((listing) => listing.channel === 'hearthside');
    expect(parts.map((listing) => listing.performanceIds.length)).toEqual([4, 4, 1]);
    expect(Object.keys(parts[2]?.wanted ?? {}).filter((key) => key.startsWith('start@'))).toEqual(['start@p8']);
  });
});

test('of several listings of an event on a channel each is told apart; what says nothing by its number is not', () => {
  const [page, post] = [channelOf(plainRow('lectern')), channelOf(plainRow('hearthside-posts'))];
  expect([
    partWords(page, 0),
    partWords(page, 1),
    partWords(page, 2),
    partWords(post, 1),
    partWords(undefined, 1),
  ]).toEqual(['', 'part 2', 'part 3', '', '']);
});

test('what has as many characters as fit is shown whole, however many units they are; one more is cut, and told', () => {
  const { rules, ...rest } = channelOf(plainRow('lectern'));
  const rows = rules.rows.map((row) => (row.field === 'subtitle' ? { ...row, limitIn: 'graphemes' as const } : row));
  const lectern = { ...rest, rules: { ...rules, rows } };
  const most = rows.find((row) => row.field === 'subtitle')?.limit ?? 0;
  const shownAt = (subtitle: string) => {
    const { shown, findings } = proofOf(lectern, { subtitle });
    return [shown.subtitle, findings.filter(({ code }) => code === 'shown-shorter').length];
  };
  for (const character of ['x', 'e\u0301', '👩‍👩‍👧‍👦']) {
    const full = character.repeat(most);
    expect([most > 0, ...shownAt(full)]).toEqual([true, { kind: 'text', text: full }, 0]);
    expect(shownAt(full + character)).toEqual([{ kind: 'text', text: expect.stringMatching(/^.*…$/u) }, 1]);
  }
});

test.each(channels.map((channel) => [channel.row.id, channel] as const))(
  '%s: that nobody gives a link yet, since the seller keeps a draft, is told where a link is shown or quoted',
  (_, channel) => {
    const content = sample();
    const { findings } = proof(
      channel.rules,
      {
        ...facts(content, { code: 'OQ-0001', venues, now }),
        ...{ link: { kind: 'none' }, giverDraft: 'Gatefold' },
      },
      content.performances.map((performance) => performance.id),
      now,
    );
    const shows = channel.rules.notice !== null || channel.rules.rows.some((row) => row.field === 'link');
    expect(findings.filter(({ code }) => code === 'giver-draft').length).toBe(shows ? 1 : 0);
  },
);
