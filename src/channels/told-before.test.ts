import { fingerprint } from '@/core/base/hash';
import { byWay, deletion, overwrite, plan } from '@/core/errands/plan';
import { narrowing, standsBeyond } from '@/core/errands/narrowing';
import { findingWords } from '@/core/findings/finding-words';
import { readListing, theirItems, writeListing } from '@/core/listing/listing-codec';
import { neverSent } from '@/core/listing/compare';
import { pressing } from '@/core/listing/pressing';
import { needsSheet, openLines, sheetLines } from '@/core/listing/sale-sheet';
import { listedField, type Shown, type ShownValue } from '@/core/listing/shown';
import { trialWish } from '@/core/listing/trial';
import { manyArtists as artists, manyOrganisers, manyVenues, told, variedRecords } from '@/core/testing/varied';
import { channelOf, plainRow } from './channels';
import { kinds } from './kinds-rules';
import { holdsUntil } from './next-change';
import { surveyRecord, type Survey } from './survey';
import { inputOf } from './testing/fixture';
import type { KnownListing } from './survey-shapes';

const channels = kinds.map((kind) =>
  plainRow(kind.id, kind.id === 'postbag' ? { settings: { segment: 'everyone' } } : {}),
);
const places = channels.map((row) => channelOf(row));
const moments = ['2027-01-10T09:00Z', '2027-02-02T10:20Z', '2028-02-01T20:00Z'].map((text) => Date.parse(text));
const base = { channels, venues: manyVenues, organisers: manyOrganisers, artists, houseZone: 'Europe/Dublin' };

/** Another value than this one, of the same sort. */
function otherwise(value: ShownValue): ShownValue {
  switch (value.kind) {
    case 'text':
      return { ...value, text: `${value.text} by hand` };
    case 'instant':
      return { ...value, at: value.at + 900_000 };
    case 'count':
      return { ...value, n: value.n + 1 };
    case 'flag':
      return { ...value, on: !value.on };
    case 'state':
      return { kind: 'state', is: value.is === 'public' ? 'closed' : 'public' };
    default:
      return value;
  }
}

/** What is known of each listing, by a number: as it was sent, changed there, gone, asked about, sold from. */
function known(survey: Survey, n: number, monotonic: number): KnownListing[] {
  return survey.listings.flatMap((listing, i): KnownListing[] => {
    const sort = (n + i) % 8;
    if (sort === 0) return [];
    const sent: Shown = listing.proof;
    const keys = Object.keys(sent);
    const key = keys[(n * 3 + i) % Math.max(1, keys.length)] ?? listedField;
    const value = sent[key];
    const observed = value && sort >= 3 ? { ...sent, [key]: otherwise(value) } : sent;
    const sentAt = monotonic - (sort + 1) * 3_000_000;
    return [
      {
        ...neverSent,
        id: listing.id,
        channel: listing.channel,
        part: listing.part,
        performanceIds: listing.performanceIds,
        sent,
        sentAt,
        previous: sort === 4 ? observed : null,
        observed: sort === 1 ? null : observed,
        observedAt: sort === 1 ? null : sort === 5 ? sentAt - 1 : sentAt + 60_000,
        lapsesAt: sort === 6 ? monotonic + 86_400_000 : null,
        gone: sort === 7 && n % 3 === 0,
        pendingOutcome: sort === 2 && n % 4 === 0 ? { since: sentAt } : null,
        publicUrl: `https://${listing.channel}.example/${i}`,
        link: listing.rules.gives.includes('ticket link') ? `https://tickets.example/${i}` : null,
        gifts: Object.fromEntries(listing.rules.gives.map((gift) => [gift, `https://gift.example/${i}`])),
        sold: sort === 3 ? n % 30 : 0,
        twins: sort === 6 ? [{ id: 'twin', publicUrl: null }] : [],
        note: sort === 5 ? 'a person looks at it' : '',
        turnedDown: sort === 5 && n % 2 === 0,
        cut: null,
      },
    ];
  });
}

/** All that is told of a survey to anybody. */
function all({ listings, links, facts }: Survey) {
  return [
    listings.map((listing) => [
      listing.id,
      listing.standing,
      listing.down,
      listing.embargoUntil,
      listing.wanted,
      listing.proof,
      listing.beneath,
      listing.findings.map((finding) => [finding, findingWords(finding)]),
      listing.comparison,
      listing.steps,
      narrowing(listing),
      standsBeyond(listing),
      listing.state.sent === null
        ? null
        : [deletion(listing), overwrite(listing, Object.keys(listing.wanted).slice(0, 3))],
      listing.steps.ways.flatMap(({ id }) => (id === 'leave' ? [] : [byWay(listing, id)])),
    ]),
    links,
    plan(listings),
    pressing(listings.map((listing) => listing.standing)),
    [sheetLines(facts), openLines(sheetLines(facts), []), needsSheet(facts), trialWish(facts, 'gatefold')],
  ];
}

test('what every channel is told of a hundred records, and what is to be done about it, is what it was', () => {
  const records = variedRecords(100);
  expect(
    told(records, (content, n) => {
      const now = moments[n % moments.length] ?? 0;
      const sold = new Map(
        content.performances.map(({ id }, k) => [
          id,
          new Map(content.tickets.levels.map((level, j) => [level.id, (n + k + j) % 40])),
        ]),
      );
      const input = inputOf({ ...base, content, now, monotonic: now + 5_000_000, sold });
      const fresh = surveyRecord(input);
      const listings = known(fresh, n, input.monotonic);
      const next = records[(n + 1) % records.length] ?? content;
      const changed = {
        ...content,
        title: `${content.title} II`,
        performances: content.performances.map((performance) => ({ ...performance, start: '21:15' })),
        words: next.words,
        publicity: n % 5 === 0 ? next.publicity : content.publicity,
        leftOff: n % 7 === 0 ? ['lectern'] : [],
      };
      const errands = new Map(
        fresh.listings
          .filter((_, i) => (n + i) % 9 === 0)
          .map(({ id }, i) => [id, i % 2 === 0 ? ('open' as const) : ('refused' as const)]),
      );
      const after = surveyRecord({ ...input, content: changed, listings, errands, ticks: [] });
      return [all(fresh), all(after), holdsUntil(after, changed, places, now, input.monotonic, [now + 1000])];
    }),
  ).toMatchSnapshot();
});

test('what goes over the wire, and is read out of it, is what it was', () => {
  expect(
    told(variedRecords(60), (content, n) => {
      const now = moments[n % 2] ?? 0;
      const { listings } = surveyRecord(inputOf({ ...base, content, now, monotonic: now }));
      return listings.map(({ rules, proof }) => {
        const shown = Object.fromEntries(Object.entries(proof).filter(([, value]) => value.kind !== 'awaited'));
        const wire = JSON.parse(JSON.stringify(writeListing(rules, shown))) as Record<string, unknown>;
        const items = new Set(
          Object.keys(shown)
            .flatMap((key) => key.split('@')[1] ?? [])
            .filter((_, i) => i % 3 !== 2),
        );
        return [
          wire,
          readListing(rules, wire, items),
          theirItems(rules, wire, items),
          writeListing(rules, shown, Object.keys(shown).slice(0, 2)),
        ];
      });
    }),
  ).toMatchSnapshot();
});

test('the rules of every kind are what they were', () => {
  expect(
    kinds.flatMap((kind) =>
      Object.entries(kind.rules({})).map(([name, rule]) => `${kind.id} ${name} ${fingerprint(rule)}`),
    ),
  ).toMatchSnapshot();
});
