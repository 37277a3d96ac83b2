import type { ChannelId, DispatchId, RecordId } from '@/core/base/ids';
import { groupBy } from '@/core/base/group-by';
import type { Standing } from '@/core/listing/standing';
import { nameOf } from '@/channels/channels';
import { channelsOf, type House } from '@/house/house';
import { surveyGround, surveyOne } from '@/house/survey';
import { accountOf } from '@/store/channels';
import { dispatchById, errandsWhere, newestDispatches, receiptsOf, type Errand } from '@/store/errands';
import { recordAt } from '@/store/records';
import { receiptWords, type ReceiptLine } from './receipt-words';

/** What an errand still waits for. */
export type WaitsFor =
  | { for: 'link'; channel: string; giver: 'coming' | 'refused' | 'not sent' }
  | { for: 'moment'; at: number }
  | { for: 'channel'; since: number }
  | { for: 'try'; at: number }
  | { for: 'turn' };

export interface ErrandView {
  id: number;
  recordId: RecordId;
  code: string;
  title: string;
  channel: ChannelId;
  channelName: string;
  op: Errand['op'];
  /** It is about a second place where the listing stood. */
  twin: boolean;
  state: Errand['state'];
  tries: number;
  changes: Errand['changes'];
  error: Errand['lastError'];
  waits: WaitsFor | null;
  publicUrl: string | null;
  /** How the listing stands now, once the errand is done. */
  standing: Standing | null;
  receipts: ReceiptLine[];
}

export interface DispatchView {
  id: DispatchId;
  actor: string;
  at: number;
  now: number;
  errands: ErrandView[];
  /** No errand waits or runs any more. */
  ended: boolean;
}

/** A dispatch with its errands and their receipts. `null` where there is none. */
export function dispatchView(house: House, id: DispatchId): DispatchView | null {
  const { db, clock } = house;
  const dispatch = dispatchById(db, id);
  if (!dispatch) return null;
  const errands = errandsWhere(db, { dispatchId: id });
  const receipts = groupBy(receiptsOf(db, id), (one) => one.errandId);
  const records = new Map(
    [...new Set(errands.map((one) => one.recordId))].map((recordId) => [recordId, recordAt(db, recordId)]),
  );
  const channels = channelsOf(house, db);
  const ground = surveyGround(house);
  const surveys = [...records.values()].flatMap((record) => (record ? [surveyOne(record, ground, house.kinds)] : []));
  const listings = new Map(surveys.flatMap((one) => one.survey.listings).map((one) => [one.id, one]));
  const marks = new Map(surveys.flatMap((one) => [...one.errands].map(([listing, mark]) => [listing, mark] as const)));
  const waitsOf = (one: Errand): WaitsFor | null => {
    if (one.state !== 'waiting') return null;
    if (one.notBefore !== null && !one.ready) return { for: 'moment', at: one.notBefore };
    if (one.awaits !== null) {
      const givers = [...listings.values()].filter(
        (each) => each.channel === one.awaits && each.id.startsWith(`${one.recordId}.`),
      );
      const mark = givers.map((each) => marks.get(each.id)).find((each) => each !== undefined);
      return {
        for: 'link',
        channel: nameOf(channels, one.awaits),
        giver: mark === 'open' ? 'coming' : mark === 'refused' ? 'refused' : 'not sent',
      };
    }
    const row = channels.find((each) => each.row.id === one.channel)?.row;
    const state = row ? house.outside.state(accountOf(row)) : null;
    if (state && state.failures > 0) return { for: 'channel', since: state.failingSince ?? clock.now() };
    return one.tries > 0 && one.nextTryAt > house.steady() + 1_000
      ? { for: 'try', at: one.nextTryAt }
      : { for: 'turn' };
  };
  return {
    id: dispatch.id,
    actor: dispatch.actor,
    at: dispatch.at,
    now: clock.now(),
    ended: errands.every((one) => one.state !== 'waiting' && one.state !== 'running' && one.state !== 'lodged'),
    errands: errands.map((one) => ({
      id: one.id,
      recordId: one.recordId,
      code: records.get(one.recordId)?.code ?? '',
      title: records.get(one.recordId)?.content.title ?? '',
      channel: one.channel,
      channelName: nameOf(channels, one.channel),
      op: one.op,
      twin: one.twin !== null,
      state: one.state,
      tries: one.tries,
      changes: one.changes,
      error: one.lastError,
      waits: waitsOf(one),
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
