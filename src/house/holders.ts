import type { DispatchId, RecordId } from '@/core/base/ids';
import type { Operation } from '@/core/listing/operations';
import type { ShownValue } from '@/core/listing/shown';
import type { SurveyedListing } from '@/core/errands/surveyed';
import { tellsBuyers, tellsHolders, untoldOf } from '@/core/errands/untold';
import type { Tx } from '@/store/database';
import { errandsWhere, openStates } from '@/store/errands';
import { decideUntold, noteUntold } from '@/store/untold';
import type { House } from './house';
import type { SurveyedRecord } from './survey';

/** What was done at a listing, or stays as it is there: `op` is `null` where it stays. */
interface Happened {
  record: Pick<SurveyedRecord, 'record' | 'survey'>;
  listing: SurveyedListing;
  op: Operation | null;
  changes: readonly { key: string; after: ShownValue | null }[];
  /** The dispatch that it went in, or that went along; `null`: none. */
  dispatch: DispatchId | null;
  actor: string;
}

/**
 * Notes who bought by a listing and was told by nobody of what was written there, or of what stays as it is: it is open
 * until somebody decides. The channel's own step tells them, and so does a post or letter of which a person said that it
 * does: one that went in the same dispatch, one that is under way in it when it is done, and any later one. Give it
 * inside the transaction that notes what was written.
 */
export function noteHolders(house: House, tx: Tx, happened: Happened): void {
  const { record, listing, op, changes, dispatch, actor } = happened;
  const at = house.clock.now();
  if (op !== null && listing.rules.notice !== null) {
    const tells = tellsHolders(record.record.content.notices, listing.part);
    if (tells && (op === 'place' || op === 'correct'))
      decideUntold(tx, { record: record.record.id }, 'post', actor, at);
    return;
  }
  if (tellsBuyers(listing.rules, op)) decideUntold(tx, { listing: listing.id }, 'step', actor, at);
  const what = untoldOf(listing, op, changes);
  if (what.length === 0) return;
  const tells = dispatch === null ? null : postIn(tx, dispatch, record);
  if (tells === 'done') return;
  const { id: listingId, channel, lock } = listing;
  const of = { listingId, recordId: record.record.id, channel, sold: lock.sold, what, at, actor };
  noteUntold(tx, { ...of, tellsBy: tells });
}

/** The post or letter in a dispatch that tells a record's holders: done, the errand under way, or `null`, none that tells anybody. */
function postIn(tx: Tx, dispatchId: DispatchId, { record, survey }: Happened['record']): number | 'done' | null {
  const telling = new Set<string>(
    survey.listings
      .filter(({ rules, part }) => rules.notice !== null && tellsHolders(record.content.notices, part))
      .map(({ id }) => id),
  );
  const recordId: RecordId = record.id;
  const errands = errandsWhere(tx, { dispatchId, recordId }).filter(
    ({ listingId, op }) => telling.has(listingId) && (op === 'place' || op === 'correct'),
  );
  if (errands.some(({ state }) => state === 'done')) return 'done';
  return errands.find(({ state }) => openStates.includes(state))?.id ?? null;
}
