import { asks } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import type { RecordId } from '@/core/base/ids';
import { applyTour, sharedFacts, sharedOf, tourSchema, type TourShared } from '@/core/record/tour';
import { checkRecord } from '@/core/record/check-record';
import { fieldOf } from '@/core/findings/finding';
import { findingWords } from '@/core/findings/finding-words';
import { cleanHtml } from '@/core/words/markup';
import { fail, ok, type Result } from '@/core/base/result';
import type { House } from '@/house/house';
import { transaction, type Tx } from '@/store/database';
import { addRevision, allRecords, recordAt, type RecordAt } from '@/store/records';
import { slugOf } from '@/core/record/slug';
import { noteSlug } from '@/store/slugs';
import { makeTour, tourById, writeTour } from '@/store/tours';
import { allVenues } from '@/store/venues';

/** What a change of the shared facts means for one date. */
interface StopChange {
  id: string;
  code: string;
  takes: string[];
  keeps: string[];
}

type Answer = Result<{ revision: number; stops: StopChange[] }, { message: string; field: string }[]>;

/**
 * Saves what a tour's dates share. Every date takes over what changed, as a revision of its own, but for the facts that
 * it has its own; all in one transaction. With `dry`, nothing is written and the same answer comes back.
 */
export function saveTour(house: House, doer: Doer, id: string, base: number, input: unknown, dry: boolean): Answer {
  asks(doer, 'saveTour');
  const parsed = tourSchema.omit({ id: true }).safeParse(input);
  if (!parsed.success)
    return fail(parsed.error.issues.map((issue) => ({ field: issue.path.join('.'), message: issue.message })));
  const { name } = parsed.data;
  const shared: TourShared = {
    ...parsed.data.shared,
    words: { ...parsed.data.shared.words, full: cleanHtml(parsed.data.shared.words.full) },
  };
  return transaction(house.db, (tx): Answer => {
    const tour = tourById(tx, id);
    if (!tour) return fail([{ field: 'name', message: 'This tour is not there any more.' }]);
    if (tour.revision !== base)
      return fail([
        {
          field: 'name',
          message: `${tour.actor} saved this tour meanwhile. Open it again; what you typed is kept here.`,
        },
      ]);
    const changes = datesOf(tx, id).map((record) => ({
      record,
      change: applyTour(record.content, tour.shared, shared),
    }));
    const venues = allVenues(tx);
    for (const { record, change } of changes) {
      const checked = checkRecord(change.content, venues);
      if (!checked.ok)
        return fail(
          checked.error.map((finding) => ({
            field: fieldOf(finding),
            message: `${record.code}: ${findingWords(finding)}`,
          })),
        );
    }
    const stops = changes
      .filter(({ change }) => change.takes.length + change.keeps.length > 0)
      .map(({ record, change }) => stopChange(record, change));
    if (dry) return ok({ revision: base, stops });
    const at = house.clock.now();
    for (const { record, change } of changes) {
      if (change.takes.length === 0) continue;
      const reason = `${name}: ${stopChange(record, change).takes.join(', ')}`;
      addRevision(tx, record.id, record.revision + 1, change.content, doer, at, reason);
      // A date that is renamed keeps its old address beside the new one.
      noteSlug(tx, slugOf(change.content), record.id, at);
    }
    writeTour(tx, id, base + 1, name, shared, doer.name, at);
    return ok({ revision: base + 1, stops });
  });
}

function datesOf(tx: Tx, id: string): RecordAt[] {
  // What was put away is as it was.
  return allRecords(tx).filter((record) => record.content.tourId === id && record.awayAt === null);
}

function stopChange({ id, code }: RecordAt, { takes, keeps }: { takes: string[]; keeps: string[] }): StopChange {
  const named = (keys: string[]) => keys.map((key) => sharedFacts[key]?.name ?? key);
  return { id, code, takes: named(takes), keeps: named(keeps) };
}

/** Makes a tour of a record: what the record says is what its dates will share. Gives the tour's id. */
export function tourFromRecord(house: House, doer: Doer, recordId: RecordId, name: string): Result<string, string> {
  asks(doer, 'tourFromRecord');
  if (name.trim() === '') return fail('Give the tour a name.');
  return transaction(house.db, (tx) => {
    const record = recordAt(tx, recordId);
    if (!record) return fail('This record is not there any more.');
    const id = makeTour(tx, name.trim().slice(0, 160), sharedOf(record.content), doer.name, house.clock.now());
    addRevision(
      tx,
      recordId,
      record.revision + 1,
      { ...record.content, tourId: id },
      doer,
      house.clock.now(),
      `a date of ${name.trim()}`,
    );
    return ok(id);
  });
}
