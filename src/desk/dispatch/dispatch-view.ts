import { asks } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
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
import { foretoldOf, type Foretold } from '@/store/foretold';
import type { DispatchView, ErrandView, WaitsFor } from '@/views/dispatch';
import { receiptWords } from './receipt-words';
import { plainChange } from '@/core/listing/rich-words';

/** A dispatch with its errands and their receipts. `null` where there is none. */
export function dispatchView(house: House, doer: Doer, id: DispatchId): DispatchView | null {
  asks(doer, 'dispatchView');
  const { db, clock } = house;
  const dispatch = dispatchById(db, id);
  if (!dispatch) return null;
  const errands = errandsWhere(db, { dispatchId: id });
  const receipts = groupBy(receiptsOf(db, id), (receipt) => receipt.errandId);
  const records = new Map(
    [...new Set(errands.map((errand) => errand.recordId))].map((recordId) => [recordId, recordAt(db, recordId)]),
  );
  const channels = channelsOf(house, db);
  const surveys = [...surveysOf(house, [...records.keys()])];
  const listings = new Map(surveys.flatMap((survey) => survey.survey.listings).map((listing) => [listing.id, listing]));
  const foretold = new Map(foretoldOf(db, id).map((item) => [item.listingId, item]));
  const waitsOf = (errand: Errand): WaitsFor | null => {
    if (errand.state !== 'waiting') return null;
    if (errand.notBefore !== null && !errand.ready) return { for: 'moment', at: errand.notBefore };
    if (errand.awaits === decidedElsewhere) return { for: 'decision' };
    if (errand.awaits !== null) {
      const givers = [...listings.values()].filter(
        (listing) => listing.channel === errand.awaits && listing.id.startsWith(`${errand.recordId}.`),
      );
      const mark = givers.map((giver) => giver.errand).find((candidate) => candidate !== 'none');
      return {
        for: 'link',
        channel: nameOf(channels, errand.awaits),
        giver: mark === 'open' ? 'coming' : mark === 'refused' ? 'refused' : 'not sent',
      };
    }
    const row = channels.find((channel) => channel.row.id === errand.channel)?.row;
    if (!row?.connected) return { for: 'off' };
    const state = house.outside.state(accountOf(row));
    if (state.failures > 0) return { for: 'channel', since: state.failingSince ?? clock.now() };
    return errand.tries > 0 && errand.nextTryAt > house.monotonic() + 1_000
      ? { for: 'try', at: errand.nextTryAt }
      : { for: 'turn' };
  };
  return {
    id: dispatch.id,
    actor: dispatch.actor,
    at: dispatch.at,
    now: clock.now(),
    ended: errands.every(
      (errand) => errand.state !== 'waiting' && errand.state !== 'running' && errand.state !== 'lodged',
    ),
    stays: surveys.flatMap(({ record, survey }) =>
      survey.listings.flatMap((listing) =>
        listing.findings.flatMap((f) =>
          f.code === 'left-there'
            ? [{ recordId: record.id, channelName: listing.rules.name, why: findingWords(f) }]
            : [],
        ),
      ),
    ),
    errands: errands.map((errand) => ({
      id: errand.id,
      recordId: errand.recordId,
      code: records.get(errand.recordId)?.code ?? '',
      title: records.get(errand.recordId)?.content.title ?? '',
      channel: errand.channel,
      channelName: nameOf(channels, errand.channel),
      op: errand.op,
      twin: errand.twin !== null,
      narrows: errand.narrows,
      canDrop: canDrop(errand, channels),
      state: errand.state,
      tries: errand.tries,
      changes: errand.changes.map(plainChange),
      error: errand.lastError,
      waits: waitsOf(errand),
      foretold: foretoldFor(foretold.get(errand.listingId)),
      publicUrl: listings.get(errand.listingId)?.publicUrl ?? null,
      standing: listings.get(errand.listingId)?.standing ?? null,
      receipts: (receipts.get(errand.id) ?? []).map(receiptWords),
    })),
  };
}

function foretoldFor(item: Foretold | undefined): ErrandView['foretold'] {
  if (item === undefined) return null;
  const { asRule, atLatest, seenAt, unseenAt, passedOver } = item;
  return { asRule, atLatest, seenAt, unseenAt, passedOver };
}

/**
 * What waits or was refused can be dropped; what was handed over, where nobody can be asked for its answer any more.
 */
function canDrop({ state, channel }: Errand, channels: readonly Channel[]): boolean {
  const off = channels.find((candidate) => candidate.row.id === channel)?.row.connected !== true;
  return state === 'waiting' || state === 'refused' || (state === 'lodged' && off);
}

/** The newest dispatches with their errands counted by state. */
export function recentDispatches(house: House, doer: Doer) {
  asks(doer, 'recentDispatches');
  return newestDispatches(house.db, 12);
}
