import type { DispatchId } from '@/core/base/ids';
import { groupBy } from '@/core/base/group-by';
import { findingWords } from '@/core/findings/finding-words';
import { nameOf, type Channel } from '@/channels/channels';
import { channelsOf, type House } from '@/house/house';
import { surveysOf } from '@/house/survey';
import { accountOf } from '@/store/channels';
import {
  decidedElsewhere,
  dispatchById,
  errandsWhere,
  newestDispatches,
  receiptsOf,
  type Errand,
} from '@/store/errands';
import { recordAt } from '@/store/records';
import type { DispatchView, WaitsFor } from '@/views/dispatch';
import { receiptWords } from './receipt-words';

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
  const surveys = [...surveysOf(house, [...records.keys()])];
  const listings = new Map(surveys.flatMap((one) => one.survey.listings).map((one) => [one.id, one]));
  const waitsOf = (one: Errand): WaitsFor | null => {
    if (one.state !== 'waiting') return null;
    if (one.notBefore !== null && !one.ready) return { for: 'moment', at: one.notBefore };
    if (one.awaits === decidedElsewhere) return { for: 'decision' };
    if (one.awaits !== null) {
      const givers = [...listings.values()].filter(
        (each) => each.channel === one.awaits && each.id.startsWith(`${one.recordId}.`),
      );
      const mark = givers.map((each) => each.errand).find((each) => each !== 'none');
      return {
        for: 'link',
        channel: nameOf(channels, one.awaits),
        giver: mark === 'open' ? 'coming' : mark === 'refused' ? 'refused' : 'not sent',
      };
    }
    const row = channels.find((each) => each.row.id === one.channel)?.row;
    if (!row?.connected) return { for: 'off' };
    const state = house.outside.state(accountOf(row));
    if (state.failures > 0) return { for: 'channel', since: state.failingSince ?? clock.now() };
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
    stays: surveys.flatMap(({ record, survey }) =>
      survey.listings.flatMap((one) =>
        one.findings.flatMap((f) =>
          f.code === 'left-there' ? [{ recordId: record.id, channelName: one.rules.name, why: findingWords(f) }] : [],
        ),
      ),
    ),
    errands: errands.map((one) => ({
      id: one.id,
      recordId: one.recordId,
      code: records.get(one.recordId)?.code ?? '',
      title: records.get(one.recordId)?.content.title ?? '',
      channel: one.channel,
      channelName: nameOf(channels, one.channel),
      op: one.op,
      twin: one.twin !== null,
      narrows: one.narrows,
      canDrop: canDrop(one, channels),
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

/** What waits or was refused can be dropped; what was handed over, where nobody can be asked for its answer any more. */
function canDrop({ state, channel }: Errand, channels: readonly Channel[]): boolean {
  const off = channels.find((one) => one.row.id === channel)?.row.connected !== true;
  return state === 'waiting' || state === 'refused' || (state === 'lodged' && off);
}

/** The newest dispatches with their errands counted by state. */
export function recentDispatches(house: House) {
  return newestDispatches(house.db, 12);
}
