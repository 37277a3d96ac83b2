import type { PartOfHouse } from '@/views/feeds';
import { feedAddress } from '@/house/feeds';
import { isSubscribed, partsOfHouse } from './calendar-feeds';
import { asks } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import type { ChannelNames } from '@/views/channel-names';
import { longTroubleMs } from '@/core/errands/retry';
import { groupBy } from '@/core/base/group-by';
import { quantile } from '@/core/base/quantile';
import { lockWords, operationWords, type LockRow } from '@/core/listing/operations';
import { eventTypes } from '@/core/record/choices';
import { houseOwn } from '@/house/house-own';
import { momentWords, spanWords } from '@/core/dates/date-words';
import { standings, standingWords, type Standing } from '@/core/listing/standing';
import type { KindRules } from '@/core/listing/channel-rules';
import { nameOf } from '@/channels/channels';
import { tradeGroups, type Kind } from '@/channels/kit/kind';
import { allowedHost, foreignHost } from '@/house/clients';
import { channelsOf, type House } from '@/house/house';
import { surveyAll } from '@/house/survey';
import { accountOf, allKeptAt, connectionOf } from '@/store/channels';
import { delaysOf } from '@/store/delays';
import { openByChannel } from '@/store/errands';
import { houseZone } from '../house/pulse';

const undoWords = (undo: { how: string; stays?: string }) =>
  undo.how === 'wholly'
    ? 'can be undone'
    : undo.how === 'never'
      ? 'for ever'
      : `can be undone in part: ${undo.stays ?? ''}`;

const labelsOf = (rules: KindRules, fields: readonly string[]) =>
  fields.map((field) => rules.rows.find((row) => row.field === field)?.label ?? field).join(', ');

/** A lock in plain words: `start, end: locked after the first sale`. */
function lockSays(rules: KindRules, row: LockRow): string {
  const when =
    'after' in row.when
      ? 'after the first sale'
      : 'state' in row.when
        ? lockWords(row, { sold: 0, starts: new Map(), state: 'public', sentAt: null, now: 0 })
        : 'hoursBefore' in row.when
          ? row.when.hoursBefore === 0
            ? 'once it has begun'
            : `in the last ${row.when.hoursBefore} hours`
          : `${row.when.minutesAfterSending} minutes after sending`;
  const how = row.lets === 'only up' ? 'only up' : row.lets === 'only away' ? 'not moved, only taken out' : 'locked';
  return `${labelsOf(rules, row.fields)}: ${how} ${when}`;
}

/** `4.5 % and 0.60, at most 9.00, of whatever it sells in`. */
function feeWords({ basisPoints, fixed, cap }: NonNullable<KindRules['fee']>): string {
  const amount = (hundredths: number) => (hundredths / 100).toFixed(2);
  return `${basisPoints / 100} % and ${amount(fixed)}${cap === null ? '' : `, at most ${amount(cap)}`}, in the currency that it sells in`;
}

function aboutKind(
  kind: Kind,
  types: readonly string[],
  parts: readonly PartOfHouse[],
  settings: Record<string, unknown> = {},
) {
  const rules = kind.rules(settings);
  const { budget, gives, picture, fee } = rules;
  return {
    kind: kind.id,
    kindName: kind.name,
    group: kind.group,
    trade: rules.trade,
    steps: kind.steps ?? [],
    habits: rules.habits,
    off: rules.off ?? [],
    oursOnly: rules.oursOnly ?? [],
    unties: rules.unties ?? [],
    lateCauses: rules.lateCauses ?? [],
    locks: rules.locks.map((row) => lockSays(rules, row)),
    gives: gives.join(', '),
    picture: picture === null ? 'none' : `${picture.ratio.join(':')}, at least ${picture.minWidth} px wide`,
    fee: fee === null ? '' : feeWords(fee),
    pace:
      kind.ours === true
        ? ''
        : `${budget.requests} ${budget.requests === 1 ? 'request' : 'requests'} in ${spanWords(budget.perMs)}, ${budget.atOnce} at once`,
    expected: spanWords(rules.delayMs),
    categories: rules.categories
      ? {
          theirs: rules.categories.theirs,
          chosen: rules.categories.chosen,
          most: rules.categories.most,
          map: types.map((kind) => ({ kind, name: rules.categories?.map[kind] ?? '' })),
        }
      : null,
    credentials: kind.credentials,
    ours: kind.ours === true,
    settingFields: (kind.settingFields ?? []).map(({ choices, ...field }) => ({
      ...field,
      choices: choices === 'parts of the house' ? parts : [],
    })),
    fields: rules.rows.map((row) => ({
      label: row.label,
      limit: row.limit === undefined ? '' : `up to ${row.limit} ${row.limitIn === 'words' ? 'words' : 'characters'}`,
      need: row.need === 'must' ? 'needed' : row.need === 'should' ? 'better with it' : '',
    })),
    operations: rules.operations.map(({ op, called, does, tells, undo }) => ({
      name: called ?? operationWords[op],
      does,
      tells: tells === 'nobody' ? '' : `tells ${tells}`,
      undo: undoWords(undo),
    })),
  };
}

/** The span within which such a share showed what was sent, in words; empty where too few were seen. */
function within(sorted: readonly number[], share: number): string {
  const ms = quantile(sorted, share, 3);
  return ms === null ? '' : spanWords(ms);
}

/** How many listings stand how, the most pressing first: `2 late · 31 in step`. */
function countsOf(all: readonly (Standing | null)[]): { standing: Standing; words: string; count: number }[] {
  return standings.flatMap((standing) => {
    const count = all.filter((candidate) => candidate === standing).length;
    return count === 0 ? [] : [{ standing, words: standingWords[standing].name.toLowerCase(), count }];
  });
}

/**
 * Every channel with its rules in plain words, how it is connected and how it does, and every kind that can be
 * connected. Secrets stay in the store.
 */
/** Kinds of event that may be public, the house's own among them. */
function publicTypes(house: House): string[] {
  const { types, closedTypes } = houseOwn.of(house.db);
  return [...new Set([...eventTypes, ...types])].filter((type) => !closedTypes.includes(type));
}

export function channelsView(house: House, doer: Doer) {
  asks(doer, 'channelsView');
  const zone = houseZone(house);
  const types = publicTypes(house);
  const parts = partsOfHouse(house);
  const channels = channelsOf(house, house.db);
  const delays = delaysOf(house.db);
  const waiting = openByChannel(house.db);
  const listings = groupBy(
    surveyAll(house).flatMap((record) => record.survey.listings),
    (listing) => listing.channel,
  );
  return {
    groups: tradeGroups,
    channels: channels.map(({ row, kind }) => {
      const item = connectionOf(house.db, row.id);
      const account = accountOf(row);
      const { failures, failingSince, blockedUntil } = house.outside.state(account);
      const mine = listings.get(row.id) ?? [];
      const seen = mine.reduce((last, listing) => Math.max(last, listing.state.observedAt ?? 0), 0);
      const measured = delays.get(row.id) ?? [];
      const allowed = allKeptAt(house.db, account, allowedHost);
      return {
        ...aboutKind(kind, types, parts, row.settings),
        /** Where it lies, for whoever subscribes to it. */
        feed: isSubscribed(kind) && row.connected ? feedAddress(house, account) : null,
        id: row.id,
        name: row.name,
        shortName: row.shortName,
        settings: row.settings,
        audience: row.audience,
        standingLeave: row.standingLeave,
        /** The channel whose connection it uses. */
        through: row.through === null ? null : nameOf(channels, row.through),
        connection: item ? { address: item.address, knownAs: item.knownAs, since: momentWords(item.at, zone) } : null,
        counts: countsOf(mine.map((listing) => listing.standing)),
        health: {
          lastRead: seen === 0 ? '' : momentWords(house.clock.now() - (house.monotonic() - seen), zone),
          median: within(measured, 0.5),
          nineInTen: within(measured, 0.9),
          waiting: waiting.get(row.id) ?? 0,
          pausedFor: blockedUntil > house.monotonic() ? spanWords(blockedUntil - house.monotonic()) : '',
        },
        /** Hosts on which it gave addresses that are not its own, and were passed on to nobody. */
        foreign: [...allKeptAt(house.db, account, foreignHost)]
          .filter(([host]) => !allowed.has(host))
          .map(([host, address]) => ({ host, address })),
        failing:
          failures > 0 && failingSince !== null
            ? { since: momentWords(failingSince, zone), long: house.monotonic() - failingSince > longTroubleMs }
            : null,
      };
    }),
    kinds: house.kinds.filter((kind) => kind.connectsAs === undefined).map((kind) => aboutKind(kind, types, parts)),
  };
}

/** Every channel of the house, with its rules. */
export function channelList(house: House, doer: Doer) {
  asks(doer, 'channelList');
  return channelsOf(house, house.db);
}

/** What channels, their operations and their fields are called, for screens that need nothing else of them. */
export function channelNames(house: House, doer: Doer): ChannelNames[] {
  asks(doer, 'channelNames');
  return channelList(house, doer).map(({ row, rules }) => ({
    id: row.id,
    name: rules.name,
    does: Object.fromEntries(
      rules.operations.flatMap(({ op, called }) => (called === undefined ? [] : [[op, called]])),
    ),
    labels: Object.fromEntries(rules.rows.map(({ field, label }) => [field, label])),
    notices: rules.notice !== null,
  }));
}
