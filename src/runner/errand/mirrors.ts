import type { Channel } from '@/channels/channels';
import type { Remote } from '@/channels/kit/kind';
import { equalOrAbsent } from '@/core/listing/compare';
import { isOff, listedField, takenDown, type Shown } from '@/core/listing/shown';
import { channelsOf, type House } from '@/house/house';
import type { Tx } from '@/store/database';
import { listingById, noteSent, putListing } from '@/store/listings';
import type { ListingContext } from './walk';

const firstLookMs = 60_000;

/** True where a channel shows what stands on another: its kind, and of the same act where both say whose they are. */
function shows({ rules, row }: Channel, source: Channel): boolean {
  return rules.mirrors === source.kind.id && row.connected && actOf(row.settings) === actOf(source.row.settings);
}

const actOf = ({ act }: Record<string, unknown>) => (typeof act === 'string' ? act.trim().toLowerCase() : '');

/** What was sent to a channel counts as sent to those that show what stands there: in their own time they show it. */
export function sendOn(
  house: House,
  tx: Tx,
  { channel, record, surveyed }: ListingContext,
  remote: Remote,
  now: number,
): void {
  for (const mirror of channelsOf(house, tx).filter((candidate) => shows(candidate, channel))) {
    const mine = record.survey.listings.filter((listing) => listing.channel === mirror.row.id);
    for (const surveyedListing of mine.filter(
      (listing) => listing.performanceIds.join() === surveyed.performanceIds.join(),
    )) {
      const { id, channel: channelId, part, performanceIds } = surveyedListing;
      const before = listingById(tx, id);
      if (isOff(surveyedListing.wanted[listedField]) && !before?.sent) continue;
      putListing(tx, { id, recordId: record.record.id, channel: channelId, part, performanceIds });
      const listing = listingById(tx, id);
      if (!listing) continue;
      const sent: Shown = Object.fromEntries(
        Object.entries(surveyedListing.wanted).filter(([, value]) => value.kind !== 'awaited'),
      );
      const moved = Object.keys({ ...sent, ...listing.sent }).filter(
        (key) => listing.sent === null || !equalOrAbsent(sent[key], listing.sent[key]),
      );
      const stood = { ...listing.previous, ...pick(listing.observed ?? listing.sent ?? {}, moved) };
      noteSent(tx, listing, {
        sent,
        sentTimes: { ...listing.sentTimes, ...Object.fromEntries(moved.map((key) => [key, now])) },
        previous: listing.sent === null ? takenDown : stood,
        believed: listing.believed ?? {},
        remote: { id: remote.id, publicUrl: listing.remote?.publicUrl ?? null, etag: null, link: null, lapsesAt: null },
        revision: record.record.revision,
        at: now,
        readAt: now + firstLookMs,
      });
    }
  }
}

function pick(shown: Shown, keys: readonly string[]): Shown {
  return Object.fromEntries(
    keys.flatMap((key) => {
      const value = shown[key];
      return value === undefined ? [] : [[key, value] as const];
    }),
  );
}
