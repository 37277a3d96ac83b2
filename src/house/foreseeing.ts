import { groupBy } from '@/core/base/group-by';
import { channelOf } from '@/channels/channels';
import { shownFrom } from '@/channels/survey';
import { foresee, foreseeMirrors, type Foreseen, type ForeseeingGround } from '@/core/errands/foreseen';
import type { PlannedErrand } from '@/core/errands/plan';
import type { ChannelRow } from '@/core/listing/channel-row';
import type { Tx } from '@/store/database';
import { usualDelays } from '@/store/foretold';
import type { House } from './house';
import type { SurveyedRecord } from './survey';

/** What foretelling goes by in this house: now, and how long it takes as measured. */
export function foreseeingGround(house: House, db: Tx): ForeseeingGround {
  return { now: house.clock.now(), usual: usualDelays(db) };
}

/** The channel whose word another shows, by the id of that other. */
export function mirrorSources(rows: readonly ChannelRow[], kinds: House['kinds']): Map<string, string> {
  const channels = rows.map((row) => channelOf(row, kinds));
  return new Map(
    channels.flatMap((channel) =>
      channel.rules.mirrors === null ? [] : [[channel.rules.id, shownFrom(channel, channels)] as const],
    ),
  );
}

/**
 * What is foretold of errands that go: of each, and of what shows another channel's word. `ways`: listings that go by a
 * step that a person picked; the event's others go behind it.
 */
export function foretell(
  house: House,
  tx: Tx,
  surveyed: readonly SurveyedRecord[],
  errands: readonly PlannedErrand[],
  ways: ReadonlySet<string>,
): Foreseen[] {
  const ground = foreseeingGround(house, tx);
  const byRecord = groupBy(errands, (errand) => errand.record);
  return surveyed.flatMap(({ record, survey: { listings }, channels }) => {
    const mine = byRecord.get(record.id);
    if (mine === undefined) return [];
    const steps = mine.some(({ listing }) => ways.has(listing));
    const told = mine.flatMap((errand) => {
      const listing = listings.find(({ id }) => id === errand.listing);
      const behind = steps && !ways.has(errand.listing);
      return listing ? [foresee(listing, errand, ground, behind)] : [];
    });
    return [...told, ...foreseeMirrors(listings, mirrorSources(channels, house.kinds), told)];
  });
}
