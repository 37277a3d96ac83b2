import { asks, asksFor, asksReach, NotAllowed } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import type { RecordId } from '@/core/base/ids';
import { checkRecord } from '@/core/record/check-record';
import { finding, type Finding } from '@/core/findings/finding';
import { settleCarried } from '@/core/record/copy-record';
import { cleanHtml } from '@/core/words/markup';
import { sameData } from '@/core/base/same-data';
import { slugOf } from '@/core/record/slug';
import { mayNotChange } from '@/core/record/may-change';
import type { RecordContent } from '@/core/record/record';
import { takeOffPlanned } from '@/core/record/turn-of';
import { noticePart } from '@/core/listing/parts';
import { transaction, type Tx } from '@/store/database';
import { addRevision, makeRecord, recordAt, type RecordAt } from '@/store/records';
import { listingsOf } from '@/store/listings';
import { learnPictures } from '@/store/pictures';
import { noteSlug } from '@/store/slugs';
import { allVenues } from '@/store/venues';
import type { House } from '@/house/house';
import { noteRoles } from './house-words';

export interface SaveRequest {
  /** `null`: a new record. */
  id: RecordId | null;
  /** The revision that was edited. */
  base: number;
  content: unknown;
  reason: string;
}

export type Saved =
  /** `content`: what was saved in place of what was given, where the house took something off it. */
  | { kind: 'saved'; id: RecordId; revision: number; content: RecordContent | null }
  /** Nothing differs from the newest revision. */
  | { kind: 'unchanged'; id: RecordId; revision: number }
  | { kind: 'stopped'; findings: Finding[] }
  /** Somebody else saved meanwhile: the common base and their version, for a merge. */
  | { kind: 'merge'; base: RecordContent; theirs: RecordContent; revision: number; actor: string; at: number }
  | { kind: 'missing' };

/**
 * Saves a record as its next revision, in one transaction. A save on an older revision than the newest writes
 * nothing and answers with what is needed for a merge.
 */
export function saveRecord(house: House, doer: Doer, request: SaveRequest): Saved {
  asks(doer, 'saveRecord');
  if (request.id === null) asksFor(doer, 'write');
  const { db, clock } = house;
  const checked = checkRecord(request.content, allVenues(db));
  if (!checked.ok) return { kind: 'stopped', findings: checked.error };
  const content = cleaned(checked.value);
  const { reason, base } = request;
  return transaction(db, (tx): Saved => {
    if (request.id === null) {
      const made = makeRecord(tx, content, doer, clock.now(), reason);
      noteSlug(tx, slugOf(content), made.id, clock.now());
      noteRoles(tx, content);
      learnPictures(tx, content.pictures);
      return { kind: 'saved', id: made.id, revision: 1, content: null };
    }
    const newest = recordAt(tx, request.id);
    if (!newest) return { kind: 'missing' };
    asksReach(doer, newest);
    if (newest.awayAt !== null)
      return { kind: 'stopped', findings: [finding(['title'], 'stops', { code: 'put-away' })] };
    if (sameData(newest.content, content)) return { kind: 'unchanged', id: newest.id, revision: newest.revision };
    if (newest.revision !== base) {
      const from = recordAt(tx, request.id, base) ?? newest;
      return {
        kind: 'merge',
        base: from.content,
        theirs: newest.content,
        revision: newest.revision,
        actor: newest.actor,
        at: newest.at,
      };
    }
    asksToChange(doer, newest.content, content);
    const { given, settled } = asSaved(tx, newest, content);
    addRevision(tx, newest.id, base + 1, settled, doer, clock.now(), reason);
    noteSlug(tx, slugOf(content), newest.id, clock.now());
    noteRoles(tx, content);
    learnPictures(tx, content.pictures);
    return { kind: 'saved', id: newest.id, revision: base + 1, content: settled === given ? null : settled };
  });
}

/** A checked content with its full text cleaned, as it is kept. */
export function cleaned(content: RecordContent): RecordContent {
  return { ...content, words: { ...content.words, full: cleanHtml(content.words.full) } };
}

/**
 * What a save makes of a checked content: what was carried over is settled, and posts that a turn overtakes are taken
 * off.
 */
export function asSaved(tx: Tx, newest: RecordAt, content: RecordContent) {
  const went = new Set(listingsOf(tx, newest.id).flatMap((listing) => (listing.sent === null ? [] : [listing.part])));
  const given = settleCarried(newest.content, content);
  return { given, settled: takeOffPlanned(newest.content, given, (id) => went.has(noticePart(id))) };
}

/** Asks whether a doer may change what differs. Throws `NotAllowed` with the first of it. */
function asksToChange(doer: Doer, before: RecordContent, after: RecordContent): void {
  const [first, ...more] = mayNotChange(doer, before, after);
  if (first === undefined) return;
  const name = first.split('.')[0] ?? first;
  throw new NotAllowed(
    `${doer.name} may not change ${name}${more.length === 0 ? '' : ` and ${more.length} more`}: ${
      doer.only === null ? 'the box office changes seats of outlets and holds' : 'that is for the house to say'
    }. Nothing was saved.`,
  );
}
