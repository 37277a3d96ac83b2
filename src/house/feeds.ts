import { randomBytes } from 'node:crypto';
import { feedShelf, feedText, readEntry } from '@/channels/kit/feed';
import type { SurveyedListing } from '@/core/errands/surveyed';
import { isOff, listedField, listedState } from '@/core/listing/shown';
import { accountOf, allChannels, allKeptAt, keepAt, keptAt } from '@/store/channels';
import { whole } from '@/store/database';
import type { House } from './house';
import { surveyAll } from './survey';

/** What is kept of an account: the part of its feed's address that nobody can guess. */
export const feedKey = 'feed key';

/** Where this house is reached from outside. */
export function ownOrigin(): string {
  const own = process.env.NUNTIAX_ORIGIN?.replace(/\/+$/, '');
  return own ?? `http://127.0.0.1:${process.env.PORT ?? 4310}`;
}

/** The address of the feed that an account reads; made at first use. */
export function feedAddress(house: Pick<House, 'db'>, account: string): string {
  let key = keptAt(house.db, account, feedKey, 'key');
  if (key === null) {
    const made = randomBytes(18).toString('base64url');
    whole(house.db, (tx) => keepAt(tx, account, feedKey, 'key', made), { quiet: true });
    key = made;
  }
  return `${ownOrigin()}/feeds/${key}.ics`;
}

/**
 * The calendar feed under a key. `null`: there is none. The same gates are asked as at sending: what must not be seen by now is not
 * in it, whatever was put there before.
 */
export function feedUnder(house: House, key: string): string | null {
  const row = allChannels(house.db).find((one) => keptAt(house.db, accountOf(one), feedKey, 'key') === key);
  if (!row?.connected) return null;
  const kept = allKeptAt(house.db, accountOf(row), feedShelf);
  const surveyed = surveyAll(house).flatMap((one) => one.survey.listings.filter((each) => each.channel === row.id));
  const seen = new Set(surveyed.filter(maySee).map((one): string => one.id));
  const entries = [...kept].flatMap(([id, value]) => {
    const entry = readEntry(value);
    return entry === null || entry.wire.status === 'ABSENT' || !seen.has(id) ? [] : [{ ...entry, id }];
  });
  return feedText(row.name, entries);
}

/** True where a listing may be seen now; what was put there and has changed since is still what was put there. */
function maySee({ down, embargoUntil, wanted }: SurveyedListing): boolean {
  const state = listedState(wanted);
  return down === null && embargoUntil === null && (state === 'cancelled' || !isOff(wanted[listedField]));
}
