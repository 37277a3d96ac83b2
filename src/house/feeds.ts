import { randomBytes } from 'node:crypto';
import { z } from 'zod';
import type { Instant } from '@/core/base/zones';
import type { ChannelRow } from '@/core/listing/channel-row';
import { recordIdSchema } from '@/core/base/ids';
import { feedShelf, feedText, readEntry, type FeedEntry } from '@/channels/kit/feed';
import { newsText } from '@/channels/kit/news';
import type { SurveyedListing } from '@/core/errands/surveyed';
import { isOff, listedField, listedState, splitKey } from '@/core/listing/shown';
import { accountOf, allChannels, allKeptAt, keepAt, keptAt } from '@/store/channels';
import { transaction } from '@/store/database';
import type { House } from './house';
import { surveysOf } from './survey';

/** What is kept of an account: the part of its feed's address that nobody can guess. */
export const feedKey = 'feed key';

/** Where this house is reached from outside. */
export function ownOrigin(): string {
  const own = process.env.NUNTIAX_ORIGIN?.replace(/\/+$/, '');
  return own ?? `http://127.0.0.1:${process.env.PORT ?? 4310}`;
}

/** In what form whoever comes for a feed gets it: as a calendar (RFC 5545), or as news (RFC 4287). */
export type FeedForm = 'ics' | 'atom';

const addressUnder = (key: string, form: FeedForm) => `${ownOrigin()}/feeds/${key}.${form}`;

/** The address of the feed that an account reads; made at first use. */
export function feedAddress(house: Pick<House, 'db'>, account: string): string {
  let key = keptAt(house.db, account, feedKey, 'key');
  if (key === null) {
    const made = randomBytes(18).toString('base64url');
    transaction(house.db, (tx) => keepAt(tx, account, feedKey, 'key', made), { quiet: true });
    key = made;
  }
  return addressUnder(key, 'ics');
}

/**
 * The feed under a key, in a form. `null`: there is none. The same gates are asked as at sending: what must not be seen
 * by now is not in it, whatever was put there before; nor what was over long ago.
 */
export function feedUnder(house: House, key: string, form: FeedForm = 'ics'): string | null {
  const row = allChannels(house.db).find((channel) => keptAt(house.db, accountOf(channel), feedKey, 'key') === key);
  if (!row?.connected) return null;
  const entries = entriesOf(house, row, null, house.clock.now());
  return form === 'ics'
    ? feedText(row.name, entries)
    : newsText({ id: accountOf(row), name: row.name, address: addressUnder(key, form) }, entries);
}

/**
 * What whoever comes for the feed of an account gets of one listing: what is left out only because it was over long ago
 * is in it. `null`: there is no such feed.
 */
export function servedOf(house: House, account: string, listing: string): string | null {
  const row = allChannels(house.db).find((channel) => accountOf(channel) === account);
  return row?.connected ? feedText(row.name, entriesOf(house, row, listing, null)) : null;
}

/** How long dates stand in a feed after they were over, and cancelled ones after that was said, in milliseconds. */
const pastMs = 90 * 86_400_000;
const cancelledMs = 30 * 86_400_000;

/** What a feed says: of all, or of one listing. `now`: what was over long before that is left out; `null`: nothing is. */
function entriesOf(house: House, row: ChannelRow, only: string | null, now: Instant | null) {
  const kept = allKeptAt(house.db, accountOf(row), feedShelf);
  const ids = only === null ? [...kept.keys()] : [only].filter((id) => kept.has(id));
  // A listing's id begins with its record's.
  const records = [...new Set(ids.map((id) => recordIdSchema.parse(id.split('.')[0])))];
  const listings = new Map<string, SurveyedListing>();
  for (const { survey } of surveysOf(house, records))
    for (const listing of survey.listings) listings.set(listing.id, listing);
  return ids.flatMap((id) => {
    const [entry, listing] = [readEntry(kept.get(id)), listings.get(id)];
    if (entry === null || entry.wire.status === 'ABSENT' || !listing || !maySee(listing)) return [];
    const dates = datesOf(entry.wire, listing).filter((date) => now === null || isFresh(entry, date, now));
    return dates.length === 0 ? [] : [{ ...entry, id, wire: { ...entry.wire, dates } }];
  });
}

const dateSchema = z.looseObject({ dtstart: z.string(), dtend: z.string().nullish(), standing: z.string().nullish() });

/** True for a date that was not over long ago, and was not cancelled long ago. */
function isFresh({ at, wire }: FeedEntry, date: unknown, now: Instant): boolean {
  const read = dateSchema.safeParse(date);
  if (!read.success) return true;
  const { dtstart, dtend, standing } = read.data;
  const over = Date.parse((dtend ?? dtstart).replace(/\[.*$/, ''));
  const off = wire.status === 'CANCELLED' || standing === 'CANCELLED';
  return !(over < now - pastMs) && !(off && at < now - cancelledMs);
}

/**
 * The dates of an entry, without those that the record tells nobody of by now. What is told to be cancelled keeps its
 * dates.
 */
function datesOf({ dates }: FeedEntry['wire'], { wanted }: SurveyedListing): unknown[] {
  const list = Array.isArray(dates) ? (dates as unknown[]) : [];
  if (isOff(wanted[listedField])) return list;
  const told = new Set(Object.keys(wanted).flatMap((key) => splitKey(key).item ?? []));
  return list.filter((candidate) => told.has(String((candidate as { tag?: unknown }).tag)));
}

/** True where a listing may be seen now; what was put there and has changed since is still what was put there. */
function maySee({ down, embargoUntil, wanted }: SurveyedListing): boolean {
  const state = listedState(wanted);
  return down === null && embargoUntil === null && (state === 'cancelled' || !isOff(wanted[listedField]));
}
