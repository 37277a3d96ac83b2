import { groupBy } from '@/core/base/group-by';
import { channelById } from '@/channels/registry';
import { receiptWords, type ReceiptLine } from './receipt-words';
import { dispatchById, errandsWhere, newestDispatches, receiptsOf, type Errand } from '@/store/errands';
import type { Standing } from '@/core/listing/standing';
import { allRecords } from '@/store/records';
import type { House } from '@/house/house';
import { surveyGround, surveyOne } from '../survey/survey';

export interface ErrandView {
  id: number;
  recordId: string;
  code: string;
  title: string;
  channel: string;
  channelName: string;
  op: Errand['op'];
  state: Errand['state'];
  tries: number;
  nextTryAt: number;
  changes: Errand['changes'];
  error: Errand['lastError'];
  /** Channels whose errands it still waits for. */
  waitsFor: { channel: string; state: Errand['state'] }[];
  publicUrl: string | null;
  /** How the listing stands now, once the errand is done. */
  standing: Standing | null;
  receipts: ReceiptLine[];
}

export interface DispatchView {
  id: string;
  actor: string;
  at: number;
  now: number;
  errands: ErrandView[];
  /** No errand waits or runs any more. */
  ended: boolean;
}

/** A dispatch with its errands and their receipts. `null` where there is none. */
export function dispatchView(house: House, id: string): DispatchView | null {
  const { db, clock } = house;
  const dispatch = dispatchById(db, id);
  if (!dispatch) return null;
  const errands = errandsWhere(db, { dispatchId: id });
  const byId = new Map(errands.map((one) => [one.id, one]));
  const receipts = groupBy(receiptsOf(db, id), (one) => one.errandId);
  const wanted = new Set(errands.map((one) => one.recordId));
  const records = new Map(
    allRecords(db)
      .filter((one) => wanted.has(one.id))
      .map((one) => [one.id, one]),
  );
  const ground = surveyGround(house);
  const listings = new Map(
    [...records.values()].flatMap((record) => surveyOne(record, ground).survey.listings).map((one) => [one.id, one]),
  );
  return {
    ...dispatch,
    now: clock.now(),
    ended: errands.every((one) => one.state !== 'waiting' && one.state !== 'running'),
    errands: errands.map((one) => ({
      id: one.id,
      recordId: one.recordId,
      code: records.get(one.recordId)?.code ?? '',
      title: records.get(one.recordId)?.content.title ?? '',
      channel: one.channel,
      channelName: channelById(one.channel).rules.name,
      op: one.op,
      state: one.state,
      tries: one.tries,
      nextTryAt: one.nextTryAt,
      changes: one.changes,
      error: one.lastError,
      waitsFor: one.needs.flatMap((need) => {
        const other = byId.get(need);
        return other && other.state !== 'done'
          ? [{ channel: channelById(other.channel).rules.name, state: other.state }]
          : [];
      }),
      publicUrl: listings.get(one.listingId)?.publicUrl ?? null,
      standing: listings.get(one.listingId)?.standing ?? null,
      receipts: (receipts.get(one.id) ?? []).map(receiptWords),
    })),
  };
}

/** The newest dispatches with their errands counted by state. */
export function recentDispatches(house: House) {
  return newestDispatches(house.db, 12);
}
