import fc from 'fast-check';
import { fieldOf } from '@/core/findings/finding';
import { facts } from '@/core/facts/facts';
import { holdsSecret, withoutSecrets } from '@/core/facts/secrets';
import { organiserSchema } from '@/core/record/directory';
import { writeEventsCsv } from '@/core/formats/write-csv';
import { writeEventsIcs } from '@/core/formats/write-ics';
import { openLines, sheetLines, type SheetTick } from '@/core/listing/sale-sheet';
import { valueWords } from '@/core/listing/rich-words';
import { newLevel, newNotice, newPicture, newTickets, newWords } from '@/core/record/new-record';
import { afterSchema, type Audience, type RecordContent } from '@/core/record/record';
import { record } from '@/core/testing/any-record';
import { performance, sample, venues } from '@/core/testing/samples';
import type { SurveyInput } from './survey-shapes';
import { bareListing, codes, listingOf, morning as now, rows, shownOn, surveyOf } from './testing/fixture';

const level = newLevel('s', 'Standard', 2200);
const document = {
  id: 'd',
  fileId: 'ef'.repeat(32),
  name: 'Plan of the hall.pdf',
  type: 'application/pdf',
  bytes: 9,
  title: '',
  who: 'anyone' as const,
  from: null,
};

describe('for whom it is', () => {
  const members: Audience = { who: 'members' };
  const friends: Audience = { who: 'group', name: 'Friends of the Yard' };
  test.each<[string, Audience, Audience, boolean]>([
    ['everyone, everywhere', { who: 'everyone' }, { who: 'everyone' }, true],
    ['everyone, among members too', { who: 'everyone' }, members, true],
    ['members, seen by everyone', members, { who: 'everyone' }, false],
    ['members, among members', members, members, true],
    ['members, in one group alone', members, friends, false],
    ['a group, in that group', friends, { who: 'group', name: 'friends of the yard ' }, true],
    ['a group, among all members', friends, members, false],
    ['a group, in another', friends, { who: 'group', name: 'Press' }, false],
  ])('%s', (_, audience, seenBy, there) => {
    const channels = rows.map((row) => ({ ...row, audience: seenBy }));
    const listing = listingOf({ audience }, 'lectern', { channels });
    expect([listing.down, listing.findings.some((finding) => finding.code === 'not-for-them')]).toEqual([
      there ? null : 'not for them',
      !there,
    ]);
  });
  test('what stands there already is taken down when it becomes theirs alone', () => {
    const stood = bareListing('lectern', 0, {
      sent: listingOf({}, 'lectern').wanted,
      performanceIds: ['p1'],
      sentAt: 1,
    });
    expect(listingOf({ audience: members }, 'lectern', { listings: [stood] }).wanted).toEqual({
      listed: { kind: 'state', is: 'closed' },
    });
  });
});

test('narrower on one channel: found by its link alone there, seen by all elsewhere', () => {
  const part = { unlistedOn: ['gatefold', 'lectern'], tickets: newTickets({ levels: [level] }) };
  expect([
    listingOf(part, 'gatefold').proof.listed,
    listingOf(part, 'lectern').down,
    listingOf(part, 'hearthside').proof.listed,
  ]).toEqual([{ kind: 'state', is: 'unlisted' }, 'unlisted', { kind: 'state', is: 'public' }]);
});

describe('what a channel makes of it', () => {
  const rich: Partial<RecordContent> = {
    links: [
      { id: 'k1', use: 'watch', label: '', to: { kind: 'address', href: 'https://watch.example/' }, newWindow: true },
      { id: 'k2', use: 'buy', label: 'Tickets', to: { kind: 'tickets' }, newWindow: false },
    ],
    leadsAway: 'k1',
    documents: [
      document,
      { ...document, id: 'h', who: 'holders' },
      { ...document, id: 'l', from: { date: '2027-02-03', time: '10:00', zone: 'Europe/Dublin' } },
    ],
    programme: [
      {
        id: 'g',
        start: '20:15',
        end: '21:00',
        title: 'A talk',
        names: 'Wynn Adair',
        role: 'speaker',
        room: 'foyer',
        performanceId: null,
      },
    ],
    after: afterSchema.parse({
      recording: { href: 'https://watch.example/9', shown: true },
      pictures: {},
      setList: { text: 'All of it', shown: false },
    }),
    words: newWords({
      teaser: 'x',
      full: `<p>One.<br>Two.</p><figure data-picture="${'ab'.repeat(32)}" data-side="left" data-size="half"><figcaption>c</figcaption></figure>`,
    }),
    tickets: newTickets({
      levels: [{ ...level, words: 'unreserved', least: 2 }],
      extras: [{ id: 'x', name: 'Supper', price: 1400, quantity: 40, words: 'chowder' }],
      coupons: [
        {
          id: 'c',
          code: 'NEAR',
          off: { kind: 'amount', minor: 200 },
          uses: 5,
          from: '2027-02-03',
          until: '2027-02-10',
          levels: ['s'],
        },
      ],
      questions: [
        {
          id: 'q',
          ask: 'Photographs?',
          answer: 'consent',
          choices: [],
          needed: true,
          of: 'companion',
          consent: 'I agree.',
        },
      ],
    }),
  };
  test('the website shows links in their order, what anyone may see of documents, the programme, and what came after', () => {
    expect(shownOn(rich, 'lectern')).toMatchObject({
      'link-label@k1': 'Watch',
      'link-address@k1': 'https://watch.example/',
      'link-window@k1': 'yes',
      'link-address@k2': 'the ticket link that Gatefold will give',
      'leads-away': 'https://watch.example/',
      'document-title@d': 'Plan of the hall.pdf',
      'document@d': 'file efefefefefef-Plan-of-the-hall.pdf',
      'programme@g': 'A talk',
      'programme-names@g': 'Wynn Adair (speaker)',
      'programme-start@g': 'Sun 14 Mar 2027, 20:15 Dublin',
      recording: 'https://watch.example/9',
      body: 'One.\nTwo.\n\n[picture, half, left: c]',
    });
    const keys = Object.keys(shownOn(rich, 'lectern'));
    expect(keys.filter((key) => /@(h|l)$|set-list/.test(key))).toEqual([]);
  });
  test('the marketplace sells extras and coupons and asks its questions; a soft break begins a paragraph', () => {
    expect(shownOn(rich, 'gatefold')).toMatchObject({
      'level-words@s': 'unreserved',
      'least@s': '2',
      'extra@x': 'Supper €14',
      'extra-quantity@x': '40',
      'coupon@c': 'NEAR',
      'coupon-amount@c': 'off €2',
      'coupon-from@c': 'Wed 3 Feb 2027, 00:00 Dublin',
      'coupon-until@c': 'Thu 11 Feb 2027, 00:00 Dublin',
      'coupon-levels@c': 'Standard',
      'question@q': 'Photographs?',
      'question-of@q': 'companion',
      'question-consent@q': 'I agree.',
      'order-limit': '5',
      body: 'One.\n\nTwo.',
    });
  });
  test.each([
    ['lectern', [] as string[]],
    [
      'gatefold',
      [
        'labelled links',
        'pictures in the text',
        'documents',
        'the programme',
        'the recording',
        'whose the pictures are',
      ],
    ],
    [
      'hearthside',
      [
        'labelled links',
        'pictures in the text',
        'documents',
        'the programme',
        'the recording',
        'whose the pictures are',
      ],
    ],
  ])('what %s has no place for is said', (channel, what) => {
    const found = listingOf(rich, channel).findings.find((finding) => finding.code === 'left-out-here');
    expect(found?.code === 'left-out-here' ? found.what : []).toEqual(what);
  });
  test('a usual limit that the record does not name is told; a picture that is gone is, too', () => {
    expect(codes(rich, 'gatefold')).toContain('notes order-limit-usual');
    expect(codes({ ...rich, tickets: newTickets({ levels: [level], mostPerOrder: 8 }) }, 'gatefold')).not.toContain(
      'notes order-limit-usual',
    );
    expect(
      codes(
        {
          ...rich,
          pictures: [newPicture({ id: '12'.repeat(32), width: 3000, height: 2000 }, { alt: 'a', credit: 'b' })],
        },
        'lectern',
      ),
    ).toContain('warns figure-gone');
  });
  test('the organiser is shown as far as they want it', () => {
    const organiser = organiserSchema.parse({
      id: 'o',
      name: 'Finch',
      phone: '555 0142',
      bookings: '555 0143',
      mail: 'desk@finch.example',
      boilerplate: 'Finch sends quiet music.',
      shown: ['bookings', 'phone'],
    });
    const more = { organisers: new Map([['o', organiser]]) };
    expect(shownOn({ organiserId: 'o' }, 'lectern', more)).toMatchObject({
      organiser: 'Finch',
      'organiser-about': 'Finch sends quiet music.',
      'organiser-contact': '555 0142 · bookings 555 0143',
    });
  });
  test('a series is one line where that is chosen; a page that holds few dates shows the next', () => {
    const performances = ['02', '09', '16', '23', '30'].map((day) => performance(`p${day}`, `2027-03-${day}`));
    const part = { performances, oneLineOn: ['lectern', 'hearthside'] };
    const line = 'Tuesdays 19:30 from 2 March until 30 March';
    expect([shownOn(part, 'lectern').series, shownOn(part, 'hearthside').series]).toEqual([line, line]);
    expect(Object.keys(shownOn(part, 'hearthside')).filter((key) => key.startsWith('start'))).toEqual(['start@p02']);
    expect(
      surveyOf({ content: sample({ performances }) }).listings.filter((listing) => listing.channel === 'hearthside'),
    ).toHaveLength(2);
  });
  test('words for what is not known: the record’s before the house’s', () => {
    const open = {
      performances: [performance('p', '2027-03-14', { precision: 'day', start: null, doors: null, end: null })],
    };
    const more = { follow: { time: 'hour to come' } };
    expect([
      shownOn(open, 'lectern')['date-note'],
      shownOn(open, 'lectern', more)['date-note'],
      shownOn({ ...open, toFollow: { time: 'ask at the door' } }, 'lectern', more)['date-note'],
    ]).toEqual([
      'Sunday 14 March 2027, time to follow',
      'Sunday 14 March 2027, hour to come',
      'Sunday 14 March 2027, ask at the door',
    ]);
  });
});

describe('what a link leads to', () => {
  const choose = (...to: [string, RecordContent['linkChoices'][number]['to'], string?][]) =>
    to.map(([channel, target, noticeId], i) => ({
      id: `w${i}`,
      channel,
      noticeId: noticeId ?? null,
      to: target,
      reason: 'so',
    }));
  const stood = (channel: string, publicUrl: string) =>
    bareListing(channel, 0, {
      publicUrl,
      sent: {},
      performanceIds: ['p1'],
      link: 'https://t.example/1',
      gifts: { 'ticket link': 'https://t.example/1' },
    });
  const listings = [stood('lectern', 'https://yard.example/e'), stood('gatefold', 'https://t.example/1')];
  const linkOn = (part: Partial<RecordContent>, channel: string, notice = false) => {
    const { listings: all } = surveyOf({
      content: sample({ tickets: newTickets({ levels: [level] }), ...part }),
      listings,
    });
    const found = all.find((listing) => listing.channel === channel);
    return [
      valueWords(found?.proof.link),
      found?.findings.filter((finding) => fieldOf(finding) === 'link').map((finding) => finding.code),
      notice,
    ].slice(0, 2);
  };
  test.each<[string, Partial<RecordContent>, string, unknown[]]>([
    ['nothing chosen: where tickets are', {}, 'hearthside', ['https://t.example/1?via=hearthside', []]],
    [
      'our own page',
      { linkChoices: choose(['hearthside', { kind: 'page', channel: 'lectern' }]) },
      'hearthside',
      ['https://yard.example/e?via=hearthside', []],
    ],
    [
      'an address',
      { linkChoices: choose(['hearthside', { kind: 'address', href: 'https://a.example/' }]) },
      'hearthside',
      ['https://a.example/', []],
    ],
    [
      'a page that has no address: tickets, and it is told',
      { linkChoices: choose(['hearthside', { kind: 'page', channel: 'nowhere' }]) },
      'hearthside',
      ['https://t.example/1?via=hearthside', ['link-unmet']],
    ],
    [
      'a venue without a site',
      { linkChoices: choose(['hearthside', { kind: 'venue' }]) },
      'hearthside',
      ['https://t.example/1?via=hearthside', ['link-unmet']],
    ],
    [
      'a page on a channel that shows it to nobody',
      { unlistedOn: ['lectern'], linkChoices: choose(['hearthside', { kind: 'page', channel: 'lectern' }]) },
      'hearthside',
      ['https://t.example/1?via=hearthside', ['link-unmet']],
    ],
    [
      'never to itself',
      { linkChoices: choose(['lectern', { kind: 'page', channel: 'lectern' }]) },
      'lectern',
      ['https://t.example/1?via=lectern', ['link-unmet']],
    ],
    [
      'a notice goes its own way, else that of its channel',
      {
        notices: [newNotice('n', 'hearthside-posts', { words: 'Come' })],
        linkChoices: choose(
          ['hearthside-posts', { kind: 'tickets' }],
          ['hearthside-posts', { kind: 'page', channel: 'lectern' }, 'n'],
        ),
      },
      'hearthside-posts',
      ['https://yard.example/e?via=hearthside-posts.n', []],
    ],
  ])('%s', (_, part, channel, expected) => expect(linkOn(part, channel)).toEqual(expected));

  test('two that wait for each other are stopped, and say so', () => {
    const part = {
      linkChoices: choose(
        ['lectern', { kind: 'page', channel: 'hearthside' }],
        ['hearthside', { kind: 'page', channel: 'lectern' }],
      ),
    };
    for (const channel of ['lectern', 'hearthside']) expect(codes(part, channel)).toContain('stops link-circle');
    // Once one of them stands, nobody waits.
    const listing = listingOf(part, 'hearthside', { listings: [stood('lectern', 'https://yard.example/e')] });
    expect(listing.findings.map((found) => found.code)).not.toContain('link-circle');
  });
});

describe('the sheet before a sale opens', () => {
  const paid = { tickets: newTickets({ levels: [level] }) };
  const linesOf = (part: Partial<RecordContent>) => sheetLines(surveyOf({ content: sample(part) }).facts);
  const ticked = (part: Partial<RecordContent>): SheetTick[] =>
    linesOf(part).map(({ id, value }) => ({ line: id, value, by: 'Maren', at: now }));
  test('says what a person must have seen', () => {
    expect(linesOf(paid).map((line) => [line.label, line.value])).toEqual([
      ['Weekday', 'Sunday'],
      ['Date', '14 March 2027'],
      ['Doors', '19:00'],
      ['Start', '19:30'],
      ['End', '22:00'],
      ['Zone', 'Europe/Dublin'],
      ['Address', 'The Vat, Tallow Yard, 9 Wicker Lane, Marrowby'],
      ['Price', 'Standard €22'],
      ['Quantity', 'Standard 420'],
      ['The buyer pays', 'Standard €22'],
      ['Link', 'what Gatefold will give'],
    ]);
  });
  test.each<[string, Partial<RecordContent>, Partial<SurveyInput>, string, string[]]>([
    ['nothing ticked', paid, { ticks: [] }, 'gatefold', ['sheet-open']],
    ['all of it ticked', paid, { ticks: ticked(paid) }, 'gatefold', []],
    ['free of charge', { tickets: newTickets({ levels: [newLevel('f', 'F', 0)] }) }, { ticks: [] }, 'gatefold', []],
    ['a place that does not sell', paid, { ticks: [] }, 'lectern', []],
    [
      'it was open before',
      paid,
      { ticks: [], listings: [bareListing('gatefold', 0, { sent: {}, performanceIds: ['p1'] })] },
      'gatefold',
      [],
    ],
    ['private', { ...paid, publicity: { visibility: 'private', announce: null } }, { ticks: [] }, 'gatefold', []],
  ])('%s', (_, part, more, channel, expected) =>
    expect(
      listingOf(part, channel, more)
        .findings.filter((finding) => finding.code === 'sheet-open')
        .map((finding) => finding.code),
    ).toEqual(expected),
  );
  test('a fact that moves takes back its own ticks, and no other', () => {
    const later = { ...paid, performances: [performance('p1', '2027-03-14', { start: '20:00' })] };
    expect(openLines(linesOf(later), ticked(paid)).map((line) => line.id)).toEqual(['start']);
  });
});

describe('where one joins', () => {
  const join = 'https://room.example/j/8f3?k=a&n=1';
  const leavesOf = (value: unknown, path: (string | number)[] = []): (string | number)[][] =>
    typeof value === 'string'
      ? [path]
      : value !== null && typeof value === 'object'
        ? Object.entries(value).flatMap(([key, item]) =>
            leavesOf(item, [...path, Array.isArray(value) ? Number(key) : key]),
          )
        : [];
  const put = (value: unknown, [key, ...rest]: (string | number)[], text: string): unknown => {
    if (key === undefined) return text;
    if (Array.isArray(value)) return value.map((item: unknown, i) => (i === key ? put(item, rest, text) : item));
    return { ...(value as object), [key]: put((value as Record<string, unknown>)[key], rest, text) };
  };
  /** Ids and choices are none of a person's words. */
  const written =
    /(?:title|shortTitle|subtitle|tags\.\d+|note|lineUpExtra|name|words|names|room|label|ask|consent|refunds|contact|membersProof|line|teaser|short|full|access|age|alt|href|keep|text|toFollow\.\w+|performances\.\d+\.link)$/;
  const rich = record.map((content): RecordContent => ({
    ...content,
    online: { keep: 'https://keep.example/', join },
    stage: 'confirmed',
    words: { ...content.words, access: 'By the yard', age: 'All', short: 'Short' },
    notices: [newNotice('n', 'hearthside-posts', { words: 'Come along' })],
  }));

  test('in whatever field it is written: no listing shows it unless it is stopped, and no file for others holds it', () => {
    let found = 0;
    fc.assert(
      fc.property(
        rich,
        fc.nat(),
        fc.constantFrom(join, join.toUpperCase(), 'room.example/j/8f3?k=a&amp;n=1', `at ${join}/.`),
        (content, n, text) => {
          const paths = leavesOf(content).filter(
            // The seller's letter is for those who hold a place.
            (path) => written.test(path.join('.')) && !/^online\.join$|^tickets\.letter/.test(path.join('.')),
          );
          const path = paths[n % Math.max(1, paths.length)] ?? ['title'];
          const leaky = put(content, path, text) as RecordContent;
          for (const listing of surveyOf({ content: leaky }).listings) {
            const held = Object.values(listing.proof).some((value) =>
              holdsSecret(JSON.stringify(value), { what: 'join', text: join }),
            );
            if (held) found += 1;
            const stopped = listing.findings.some(
              (finding) => finding.code === 'join-public' && finding.weight === 'stops',
            );
            expect([path.join('.'), listing.channel, !held || stopped]).toEqual([
              path.join('.'),
              listing.channel,
              true,
            ]);
          }
          const said = facts(leaky, { code: 'X', venues, now });
          const ics = writeEventsIcs([{ facts: said, revision: 1, savedAt: now, page: null }], {
            name: 'S',
            now,
            domain: 'x',
          }).replace(/\r\n[ \t]/g, '');
          const csv = writeEventsCsv([{ code: 'X', writtenFrom: 'h/r', content: leaky, facts: said }]);
          for (const file of [ics, csv])
            expect([path.join('.'), /room\.example\/j\/8f3/i.test(file)]).toEqual([path.join('.'), false]);
        },
      ),
      { numRuns: 300 },
    );
    expect(found).toBeGreaterThan(40);
  });

  test('a recording that is not set to be shown is kept back like it; one that is set is not', () => {
    const after = (shown: boolean) =>
      afterSchema.parse({ recording: { href: 'https://watch.example/9', shown }, pictures: {}, setList: {} });
    const words = newWords({ teaser: 'See watch.example/9' });
    expect(codes({ after: after(false), words }, 'lectern')).toContain('stops recording-public');
    expect(codes({ after: after(true), words }, 'lectern')).not.toContain('stops recording-public');
  });

  test('freed of it, a text says that something is missing', () =>
    expect(withoutSecrets({ a: [`Join: ${join}`, 'b'] }, [{ what: 'join', text: join }])).toEqual({
      a: ['Join: (for those who hold a place)', 'b'],
    }));
});
