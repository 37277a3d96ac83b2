import type { ChannelId, ListingId, RecordId } from '../base/ids';
import { groupBy } from '../base/group-by';
import type { Finding } from '../findings/finding';
import type { ByWhen } from '../listing/shows';
import type { Standing } from '../listing/standing';
import type { Consequences } from './consequences';
import type { Way } from './steps';

/** What an edit of many does to one of them. */
export interface OfRecord {
  record: RecordId;
  made: Consequences;
}

/** So many listings of a channel, and by when the last of them is right. */
interface SumOfChannel {
  channel: ChannelId;
  count: number;
  by: ByWhen;
}

/** Listings that are locked on one channel and have the same ways: one word decides them all. */
interface LockedTogether {
  /** What a decision names them by. */
  key: string;
  channel: ChannelId;
  listings: ListingId[];
  records: RecordId[];
  sold: number;
  /** What stays as it is there otherwise, by name. */
  fields: string[];
  ways: Way[];
}

/** What an edit of many events does, summed. */
export interface ManySum {
  atOnce: SumOfChannel[];
  /** `goes`: something is sent there; else it shows what another channel was told. */
  later: (SumOfChannel & { afterDoors: number; goes: boolean })[];
  locked: LockedTogether[];
  apart: { channel: ChannelId; count: number; tells: string }[];
  asks: { channel: ChannelId; standing: Standing; count: number }[];
  held: { channel: ChannelId; count: number; reasons: Finding[] }[];
  /** Of which an errand is under way. */
  busy: number;
  said: { channel: ChannelId; mending: Consequences['said'][number]['mending']; count: number }[];
  /** Moments of a sale that move along. */
  moments: number;
  sentences: { record: RecordId; where: string; text: string }[];
  arises: { finding: Finding; count: number }[];
  holders: { channel: ChannelId; sold: number; events: number; told: Consequences['holders'][number]['told'] }[];
  /** Who shows the old fact, until when, the shortest first. */
  wrong: { channels: ChannelId[]; until: ByWhen }[];
}

/** The longer of two spans in each of their moments. */
function longest(spans: readonly ByWhen[]): ByWhen {
  const most = (of: (by: ByWhen) => number) => spans.reduce((at, by) => Math.max(at, of(by)), -Infinity);
  return { earliest: most((by) => by.earliest), asRule: most((by) => by.asRule), atLatest: most((by) => by.atLatest) };
}

function byChannel<T extends { channel: ChannelId }>(items: readonly T[]): [ChannelId, T[]][] {
  return [...groupBy(items, ({ channel }) => channel)];
}

/** Sums what an edit does to each of many events: by channel, in the order in which a person reads it. */
export function sumOfMany(all: readonly OfRecord[]): ManySum {
  const every = <T>(of: (made: Consequences) => readonly T[]) => all.flatMap(({ made }) => of(made));
  const summed = (items: readonly { channel: ChannelId; by: ByWhen }[]) =>
    byChannel(items).map(([channel, mine]) => ({ channel, count: mine.length, by: longest(mine.map(({ by }) => by)) }));
  const later = every(({ later }) => later);
  return {
    atOnce: summed(every(({ atOnce }) => atOnce)),
    later: summed(later).map((sum) => ({
      ...sum,
      afterDoors: later.filter((item) => item.channel === sum.channel && item.afterDoors).length,
      goes: later.some((item) => item.channel === sum.channel && item.op !== null),
    })),
    locked: lockedTogether(all),
    apart: [
      ...groupBy(
        every(({ apart }) => apart),
        ({ channel, tells }) => `${channel} ${tells}`,
      ).values(),
    ].flatMap(([first, ...more]) =>
      first ? [{ channel: first.channel, tells: first.tells, count: 1 + more.length }] : [],
    ),
    asks: counted(
      every(({ asks }) => asks),
      ({ channel, standing }) => ({ channel, standing }),
    ),
    held: [
      ...groupBy(
        every(({ held }) => held),
        ({ channel, reasons }) => `${channel} ${codesOf(reasons)}`,
      ).values(),
    ].flatMap(([first, ...more]) =>
      first ? [{ channel: first.channel, reasons: first.reasons, count: 1 + more.length }] : [],
    ),
    busy: every(({ busy }) => busy).length,
    said: counted(
      every(({ said }) => said),
      ({ channel, mending }) => ({ channel, mending }),
    ),
    moments: every(({ moments }) => moments).length,
    sentences: all.flatMap(({ record, made }) =>
      made.sentences.map(({ where, mention }) => ({ record, where, text: mention.text })),
    ),
    arises: [
      ...groupBy(
        every(({ arises }) => arises),
        ({ code }) => code,
      ).values(),
    ].flatMap(([finding, ...more]) => (finding ? [{ finding, count: 1 + more.length }] : [])),
    holders: [
      ...groupBy(
        every(({ holders }) => holders),
        ({ channel, told }) => `${channel} ${told}`,
      ).values(),
    ].flatMap((mine) =>
      mine[0]
        ? [
            {
              ...{ channel: mine[0].channel, told: mine[0].told, events: mine.length },
              sold: mine.reduce((sum, { sold }) => sum + sold, 0),
            },
          ]
        : [],
    ),
    wrong: wrongOf(every(({ wrong }) => wrong)),
  };
}

const codesOf = (reasons: readonly Finding[]) => reasons.map(({ code }) => code).join(' ');

/** How many there are of each that is the same by what it is named by. */
function counted<T, K extends object>(items: readonly T[], name: (item: T) => K): (K & { count: number })[] {
  return [...groupBy(items, (item) => JSON.stringify(name(item))).values()].flatMap(([first, ...more]) =>
    first === undefined ? [] : [{ ...name(first), count: 1 + more.length }],
  );
}

function lockedTogether(all: readonly OfRecord[]): LockedTogether[] {
  const items = all.flatMap(({ record, made }) => made.locked.map((item) => ({ ...item, record })));
  const keyOf = ({ channel, ways }: (typeof items)[number]) => `${channel}: ${ways.map(({ id }) => id).join(' ')}`;
  return [...groupBy(items, keyOf)].flatMap(([key, mine]) =>
    mine[0]
      ? [
          {
            ...{ key, channel: mine[0].channel, ways: mine[0].ways },
            listings: mine.map(({ listing }) => listing),
            records: [...new Set(mine.map(({ record }) => record))],
            sold: mine.reduce((sum, { sold }) => sum + sold, 0),
            fields: [...new Set(mine.flatMap(({ locked }) => locked.map(({ label }) => label)))],
          },
        ]
      : [],
  );
}

/** Of each channel how long it is at most; channels that are wrong until the same moment stand together. */
function wrongOf(spans: Consequences['wrong']): ManySum['wrong'] {
  const until = new Map<ChannelId, ByWhen>();
  for (const span of spans)
    for (const channel of span.channels)
      until.set(channel, longest([...(until.has(channel) ? [until.get(channel) ?? span.until] : []), span.until]));
  return [...groupBy(until, ([, by]) => `${by.asRule} ${by.atLatest}`).values()]
    .flatMap((mine) => (mine[0] ? [{ channels: mine.map(([channel]) => channel), until: mine[0][1] }] : []))
    .sort((a, b) => a.until.atLatest - b.until.atLatest);
}
