import { parseDocument, parseFeed, DomUtils } from 'htmlparser2';
import fc from 'fast-check';
import { putOff } from '@/core/facts/facts';
import { changedEntry, emptiedEntry, readEntry, type FeedEntry } from './feed';
import { mostNews, newsText } from './news';

/* News of what lies in a feed, read by the feed reader of a package and by the rules of the standard. */

const at = Date.parse('2027-02-02T10:00Z');
const feed = { id: 'account', name: 'House', address: 'http://house.example/feeds/k3y.atom' };
const night = (day: string, part: object = {}) => ({
  ...{ tag: `p${day}`, dtstart: `2027-03-${day}T19:30:00Z[Europe/Dublin]` },
  ...part,
});
const placed = (wire: object, when = at) => changedEntry(null, { status: 'CONFIRMED', ...wire } as never, when);
const said = (entries: Record<string, FeedEntry>) =>
  parseFeed(
    newsText(
      feed,
      Object.entries(entries).map(([id, entry]) => ({ ...entry, id })),
    ),
    { xmlMode: true },
  );
const only = (entry: FeedEntry) => said({ a: entry })?.items[0];

const first = placed({
  summary: 'One',
  location: 'The Vat',
  dates: [night('14')],
  url: 'https://gate.example/one?a=1&b=2',
});
const cases: [string, FeedEntry, { title: string; words: RegExp; date: number }][] = [
  ['announced', first, { title: 'One', words: /^<p>Announced\.<\/p>/, date: at }],
  [
    'changed',
    changedEntry(first, { location: 'The Loft', summary: 'One' }, at + 5_000),
    { title: 'One', words: /^<p>Changed: place\.<\/p>.*<p>The Loft<\/p>/s, date: at + 5_000 },
  ],
  [
    'written anew as it was: what changed before is still what changed',
    changedEntry(changedEntry(first, { location: 'The Loft' }, at + 5_000), { location: 'The Loft' }, at + 9_000),
    { title: 'One', words: /Changed: place\./, date: at + 9_000 },
  ],
  [
    'cancelled',
    changedEntry(first, { status: 'CANCELLED' }, at + 5_000),
    { title: 'Cancelled: One', words: /<strong>Cancelled\.<\/strong>.*, cancelled<\/li>/s, date: at + 5_000 },
  ],
  [
    'cancelled after it was put off',
    changedEntry(changedEntry(first, { summary: `${putOff}One` }, at), { status: 'CANCELLED' }, at + 5_000),
    { title: 'Cancelled: One', words: /Cancelled\./, date: at + 5_000 },
  ],
  [
    'one of two postponed',
    changedEntry(first, { dates: [night('14', { standing: 'TENTATIVE' }), night('15')] }, at + 5_000),
    { title: 'One', words: /14 March 2027, 19:30<\/time>, postponed<\/li><li>/, date: at + 5_000 },
  ],
  [
    'taken out and laid there again',
    changedEntry(
      emptiedEntry(first, at + 5_000),
      { summary: 'One', status: 'CONFIRMED', dates: [night('14')] },
      at + 9_000,
    ),
    { title: 'One', words: /^<p>Announced again\./, date: at + 9_000 },
  ],
];
test.each(cases)('%s', (_, entry, { title, words, date }) => {
  // As it is kept.
  const item = only(readEntry(JSON.stringify(entry)) ?? entry);
  expect([item?.title, Date.parse(String(item?.pubDate))]).toEqual([title, date]);
  expect(item?.description).toMatch(words);
});

test('when it was announced stays while it changes, and begins anew where it was taken out', () => {
  const changed = changedEntry(first, { summary: 'Other' }, at + 5_000);
  const again = changedEntry(emptiedEntry(changed, at + 6_000), { summary: 'Back' }, at + 7_000);
  expect([first.first, changed.first, again.first, again.sequence]).toEqual([at, at, at + 7_000, 3]);
  expect(emptiedEntry(changed, at + 6_000)).not.toHaveProperty('first');
  // What was kept before that was noted has no first moment, and none is made up.
  const { first: _, ...older } = first;
  expect(changedEntry(older, { summary: 'Other' }, at + 5_000)).not.toHaveProperty('first');
  expect(newsText(feed, [{ ...older, id: 'a' }])).not.toContain('<published>');
});

test('the newest come first, no more than so many, and the feed is as old as the newest of them', () => {
  const many = Array.from({ length: mostNews + 1 }, (_, n): [string, FeedEntry] => [
    `r${n}`,
    placed({ summary: `N${n}`, dates: [] }, at + n * 1_000),
  ]);
  const read = said(Object.fromEntries(many));
  expect(read?.items.map(({ title }) => title)).toEqual(
    many
      .slice(1)
      .map(([, { wire }]) => wire.summary)
      .reverse(),
  );
  expect(read?.updated).toEqual(new Date(at + mostNews * 1_000));
  expect(said({})).toMatchObject({ title: 'House', updated: new Date(0), items: [] });
});

test('whatever the words hold, it is well formed, has what RFC 4287 asks for, and says them', () => {
  const word = fc.string({ unit: 'binary', minLength: 1, maxLength: 30 });
  fc.assert(
    fc.property(fc.uniqueArray(word, { minLength: 1, maxLength: 4 }), word, (titles, type) => {
      const entries = titles.map((summary, n) => ({
        ...placed({ summary, categories: type, description: summary, dates: [night('14')] }, at + n),
        id: summary,
      }));
      const text = newsText(feed, entries);
      const root = parseDocument(text, { xmlMode: true });
      // Strictly: every mark of markup is one of ours, and no character is beyond XML.
      expect(
        text.replace(
          /<(\/?)(feed|entry|id|title|name|author|updated|published|link|category|content)\b[^<>]*>|<\?xml[^<>]*\?>/g,
          '',
        ),
      ).not.toMatch(/[<>]/);

      expect(text).not.toMatch(/[\u0000-\u0008\u000B\u000C\u000E-\u001F\uFFFE\uFFFF]/);
      const found = DomUtils.getElementsByTagName('entry', root);
      expect(found).toHaveLength(entries.length);
      for (const entry of found)
        for (const name of ['id', 'title', 'updated', 'content'])
          expect(DomUtils.getElementsByTagName(name, entry)).toHaveLength(1);
      const ids = DomUtils.getElementsByTagName('id', root).map((id) => DomUtils.textContent(id));
      expect(new Set(ids).size).toBe(ids.length);
      expect(
        ids.filter((id) => !/^urn:uuid:[\da-f]{8}-[\da-f]{4}-8[\da-f]{3}-[89ab][\da-f]{3}-[\da-f]{12}$/.test(id)),
      ).toEqual([]);
    }),
  );
});
