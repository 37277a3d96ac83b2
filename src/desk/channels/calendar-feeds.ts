import { eventTypes } from '@/core/record/choices';
import type { Doer } from '@/core/people/doer';
import { placesOf } from '@/core/record/places';
import { fail, ok, type Result } from '@/core/base/result';
import type { Kind } from '@/channels/kit/kind';
import { feedAddress, feedKey } from '@/house/feeds';
import { houseOwn } from '@/house/house-own';
import { channelsOf, type House } from '@/house/house';
import { accountOf, forgetAt } from '@/store/channels';
import { transaction } from '@/store/database';
import { allArtists } from '@/store/people';
import { noteDoing } from '@/store/persons';
import { allTours } from '@/store/tours';
import { allVenues } from '@/store/venues';
import type { CalendarFeed, PartOfHouse } from '@/views/feeds';
import { asks } from '../people/rights-of-verbs';
import { connectChannel } from './connect-channel';

const kindOfFeeds = 'calendar-feed';

/** True for a kind that people subscribe to by an address of ours. */
export const isSubscribed = ({ id }: Pick<Kind, 'id'>): boolean => id === kindOfFeeds;

/** Every part of the house that a calendar can be of, each with its name. */
export function partsOfHouse(house: House): PartOfHouse[] {
  const venues = allVenues(house.db);
  const { types, closedTypes } = houseOwn.of(house.db);
  const rooms = placesOf(venues).filter(({ value }) => value.includes('|'));
  const open = [...new Set([...eventTypes, ...types])].filter((type) => !closedTypes.includes(type));
  return [
    { value: 'house', label: 'The whole house' },
    ...[...venues.values()].map(({ id, name }) => ({ value: `venue:${id}`, label: name })),
    ...rooms.map(({ value, label }) => ({ value: `room:${value}`, label })),
    ...[...allArtists(house.db).values()].map(({ name }) => ({ value: `act:${name}`, label: name })),
    ...allTours(house.db).map(({ id, name }) => ({ value: `tour:${id}`, label: `Tour: ${name}` })),
    ...open.map((type) => ({ value: `type:${type}`, label: `Kind of event: ${type}` })),
  ];
}

/** The calendars that can be subscribed to, with their addresses. */
export function calendarFeeds(house: House, doer: Doer): CalendarFeed[] {
  asks(doer, 'calendarFeeds');
  return channelsOf(house, house.db)
    .filter(({ row, kind }) => isSubscribed(kind) && row.connected)
    .map(({ row }) => ({
      id: row.id,
      name: row.name,
      holds: String(row.settings.holds ?? 'house'),
      address: feedAddress(house, accountOf(row)),
      forAll: row.audience.who === 'everyone',
    }));
}

/** Makes a calendar of a part of the house. Gives its channel; the error is in words. */
export async function makeCalendarFeed(house: House, doer: Doer, holds: string): Promise<Result<string, string>> {
  asks(doer, 'makeCalendarFeed');
  const part = partsOfHouse(house).find(({ value }) => value === holds);
  if (!part) return fail('That part of the house is not there any more. Look again.');
  const label = part.label.replace(/^(Tour|Kind of event): /, '');
  const name = holds === 'house' ? 'Calendar of the house' : `Calendar: ${label}`.slice(0, 60).trim();
  const made = await connectChannel(
    house,
    doer,
    { kind: kindOfFeeds },
    {
      ...{ address: '', credentials: {}, settings: { holds } },
      ...{ name, shortName: (holds === 'house' ? 'Calendar' : label).slice(0, 20).trim() },
    },
  );
  return made.ok ? ok(made.value.id) : fail(Object.values(made.error).join(' '));
}

/** Gives a calendar another address: whoever has the old one gets nothing any more. */
export function renewFeedAddress(house: House, doer: Doer, id: string): Result<null, string> {
  asks(doer, 'renewFeedAddress');
  return transaction(house.db, (tx) => {
    const feed = channelsOf(house, tx).find(({ row, kind }) => row.id === id && isSubscribed(kind) && row.connected);
    if (!feed) return fail('There is no such calendar any more.');
    forgetAt(tx, accountOf(feed.row), feedKey, 'key');
    feedAddress({ ...house, db: tx as House['db'] }, accountOf(feed.row));
    noteDoing(tx, doer, {
      at: house.clock.now(),
      sort: 'channel',
      words: `gave ${feed.row.name} another address: the old one leads nowhere`,
    });
    return ok(null);
  });
}
