import type { DispatchId } from '@/core/base/ids';
import type { PlannedErrand } from '@/core/errands/plan';
import { sells } from '@/core/listing/channel-rules';
import { effectsOf, operations } from '@/core/listing/operations';
import { channelOf } from '@/channels/channels';
import type { Tx } from '@/store/database';
import { decideErrands, errandsWhere, makeDispatch as writeDispatch, type Wish } from '@/store/errands';
import { keepForetold } from '@/store/foretold';
import { putListing } from '@/store/listings';
import { foretell } from './foreseeing';
import type { House } from './house';
import type { SurveyedRecord } from './survey';

/** The way that a person picked for what is locked there, with what it needs of them. */
export interface PickedWay {
  way: string;
  /** Why: in public words where the step says them, for ourselves where it stays as it is there. */
  reason: string;
  /** The event's code, typed, where it cannot be taken back. */
  code: string;
  /** Of what stays as it is there: until which day (`2027-03-14`), in the event's zone. */
  until?: string;
}

/** What a person decided about single errands, beside the plan. */
interface Decided {
  ways?: Readonly<Record<string, PickedWay>>;
  effects?: Readonly<Record<string, readonly string[]>>;
  seen?: readonly string[] | 'all';
  /** It goes under the standing leave. */
  byClock?: boolean;
  /** Keys that go over what stands there, by listing. */
  over?: Readonly<Record<string, readonly string[]>>;
}

/** Writes planned errands with the listings they are for. */
export function writeErrands(
  house: House,
  tx: Tx,
  planned: readonly PlannedErrand[],
  surveyed: readonly SurveyedRecord[],
  actor: string,
  decided: Decided = {},
): DispatchId {
  const byRecord = new Map(surveyed.map((record) => [record.record.id, record]));
  const ids = [...new Set(planned.map((errand) => errand.record))];
  const refused = new Map(
    ids
      .flatMap((recordId) => errandsWhere(tx, { states: ['refused'], recordId }))
      .map((errand) => [errand.listingId, errand.id]),
  );
  const now = house.monotonic();
  const put = new Set<string>();
  const wishes = planned.map((errand): Wish => {
    const record = byRecord.get(errand.record);
    const listing = record?.survey.listings.find((l) => l.id === errand.listing);
    const row = record?.channels.find((channel) => channel.id === errand.channel);
    if (!record || !listing || !row)
      throw new Error(`the plan names listing ${errand.listing}, which was not surveyed`);
    // How a run was shared out is kept, for the parts that do not go yet too.
    if (!put.has(`${errand.record} ${errand.channel}`)) {
      put.add(`${errand.record} ${errand.channel}`);
      for (const { id, channel, part, performanceIds } of record.survey.listings)
        if (channel === errand.channel) putListing(tx, { id, recordId: errand.record, channel, part, performanceIds });
    }
    const old = refused.get(errand.listing);
    if (old !== undefined) decideErrands(tx, [old], 'drop', now);
    const { facts } = record.survey;
    const next = facts.performances.find((performance) => performance.over >= house.clock.now());
    const picked = decided.ways?.[errand.listing];
    const { rules } = channelOf(row, house.kinds);
    return {
      ...errand,
      revision: record.record.revision,
      byClock: decided.byClock ?? false,
      deadline: next?.at ?? Infinity,
      gives: sells(rules),
      over: decided.over?.[errand.listing] ?? null,
      way: operations.find((operation) => operation === picked?.way) ?? null,
      reason: picked?.reason.trim() ?? '',
      effects: effectsOf(rules.operations, errand.op, decided.effects?.[errand.listing] ?? []).map(
        (effect) => effect.id,
      ),
    };
  });
  const id = writeDispatch(tx, wishes, actor, house.clock.now(), now, decided.seen === 'all' ? [] : decided.seen);
  const ways = new Set(wishes.flatMap(({ listing, way }) => (way ? [listing] : [])));
  keepForetold(tx, id, foretell(house, tx, surveyed, planned, ways), house.clock.now(), now);
  return id;
}
