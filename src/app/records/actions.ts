'use server';

import { theDoer } from '@/app/who-asks';
import { orRefused } from '@/desk/house/refusal';
import { channelIdSchema, recordIdSchema } from '@/core/base/ids';
import { revalidatePath } from 'next/cache';
import { redirect } from 'next/navigation';
import { z } from 'zod';
import type { Entry, Venue } from '@/core/record/directory';
import { findingWords } from '@/core/findings/finding-words';
import { fail, type Result } from '@/core/base/result';
import { bringBack, cutTie, deleteRecord, putAway } from '@/desk/records/endings';
import { copyEvent } from '@/desk/records/copy-event';
import { makeVenue } from '@/desk/directory/make-venue';
import { keepFollowWords, keepQuestions } from '@/desk/records/house-words';
import type { TrialCheck } from '@/core/listing/trial';
import { tryPurchase } from '@/desk/records/try-purchase';
import { tickSheet } from '@/desk/records/tick-sheet';
import { previewNotice } from '@/desk/records/preview-notice';
import { noteSales } from '@/desk/records/note-sales';
import { restoreRevision } from '@/desk/records/restore-revision';
import { revisionChanges, type RevisionChange } from '@/desk/records/revision-changes';
import { savePerson } from '@/desk/directory/save-directory';
import { changeView } from '@/desk/records/change-view';
import { saveAndSend } from '@/desk/records/save-and-send';
import { saveRecord, type Saved } from '@/desk/records/save-record';
import { tourFromRecord } from '@/desk/tours/save-tour';
import { theHouse } from '@/desk/house/the-house';
import type { SaveAnswer } from '@/ui/record';
import type { ChangeAnswer, SentAnswer } from '@/views/change';
import { waySchema } from '../dispatch/way-schema';

const saveSchema = z.object({
  id: recordIdSchema.nullable(),
  base: z.number().int().min(0),
  content: z.unknown(),
  reason: z.string().max(200).default(''),
});

/** Saves a record as its next revision. */
export async function saveRecordAction(input: unknown): Promise<SaveAnswer> {
  const doer = await theDoer();
  const { id, base, content, reason } = saveSchema.parse(input);
  return orRefused<SaveAnswer>(
    () => {
      const saved = saveRecord(theHouse(), doer, { id, base, content, reason: reason.trim() });
      return saved.kind === 'stopped' ? { kind: 'stopped', messages: saved.findings.map(findingWords) } : saved;
    },
    (words) => ({ kind: 'stopped', messages: [words] }),
  );
}

/** What a change does, before it is saved. */
export async function changeViewAction(id: string, content: unknown): Promise<ChangeAnswer> {
  const doer = await theDoer();
  return orRefused<ChangeAnswer>(
    () => changeView(theHouse(), doer, recordIdSchema.parse(id), content),
    (words) => ({ kind: 'stopped', messages: [words] }),
  );
}

const saveAndSendSchema = saveSchema.extend({
  id: recordIdSchema,
  listings: z.array(z.string().max(200)).max(5_000),
  ways: z.record(z.string(), waySchema),
  seen: z.array(z.string().max(200)).max(10_000),
  /** What quotes the old fact and is seen to by hand. */
  mended: z.array(z.string().max(100)).max(200),
});

/** Saves a change and sends what was chosen of it, as one. */
export async function saveAndSendAction(input: unknown): Promise<SentAnswer> {
  const doer = await theDoer();
  const { id, base, content, reason, listings, ...along } = saveAndSendSchema.parse(input);
  const sent = orRefused<SentAnswer>(
    () => saveAndSend(theHouse(), doer, { id, base, content, reason: reason.trim() }, new Set(listings), along),
    (words) => ({ kind: 'stopped', messages: [words] }),
  );
  if (sent.kind === 'sent') revalidatePath('/dispatch', 'layout');
  return sent;
}

/** Makes a venue while a record is edited. */
export async function makeVenueAction(
  input: unknown,
): Promise<Result<{ venue: Venue; roomId: string | null }, Record<string, string>>> {
  const doer = await theDoer();
  return orRefused(
    () => makeVenue(theHouse(), doer, input),
    (name) => fail({ name }),
  );
}

/** Puts an artist or organiser in the directory, or saves one that is there. */
export async function savePersonAction(
  sort: 'artist' | 'organiser',
  input: unknown,
): Promise<Result<Entry, Record<string, string>>> {
  const doer = await theDoer();
  const which = z.enum(['artist', 'organiser']).parse(sort);
  return orRefused(
    () => savePerson(theHouse(), doer, which, input),
    (name) => fail({ name }),
  );
}

/** Copies an event and opens the copy; gives a message where it cannot be. */
export async function copyEventAction(id: string): Promise<string | null> {
  const doer = await theDoer();
  const made = orRefused(() => copyEvent(theHouse(), doer, recordIdSchema.parse(id)), fail);
  if (!made.ok) return made.error;
  redirect(`/records/${made.value}`);
}

/** Deletes a record of which nothing was ever outside, and leads to the season; gives a message where it cannot be. */
export async function deleteRecordAction(id: string, code: string): Promise<string | null> {
  const doer = await theDoer();
  const done = orRefused(() => deleteRecord(theHouse(), doer, recordIdSchema.parse(id), z.string().parse(code)), fail);
  if (!done.ok) return done.error;
  redirect('/season');
}

/** Puts a record away, or brings it back; gives a message where it cannot be. */
export async function putAwayAction(id: string, away: boolean): Promise<string | null> {
  const doer = await theDoer();
  const which = recordIdSchema.parse(id);
  const done = orRefused(() => (away ? putAway : bringBack)(theHouse(), doer, which), fail);
  return done.ok ? null : done.error;
}

/** Cuts the tie to what stands on a channel; gives a message where it cannot be. */
export async function cutTieAction(id: string, channel: string): Promise<string | null> {
  const doer = await theDoer();
  const done = orRefused(
    () => cutTie(theHouse(), doer, recordIdSchema.parse(id), channelIdSchema.parse(channel)),
    fail,
  );
  return done.ok ? null : done.error;
}

/** Makes a tour of a record and opens it; gives a message where it cannot be. */
export async function makeTourAction(id: string, name: string): Promise<string | null> {
  const doer = await theDoer();
  const made = orRefused(
    () => tourFromRecord(theHouse(), doer, recordIdSchema.parse(id), z.string().parse(name)),
    fail,
  );
  if (!made.ok) return made.error;
  redirect(`/tours/${made.value}`);
}

/** What a revision changed. */
export async function revisionChangesAction(id: string, number: number): Promise<RevisionChange[] | null> {
  const doer = await theDoer();
  return revisionChanges(theHouse(), doer, recordIdSchema.parse(id), z.number().int().parse(number));
}

/** Brings an earlier revision back; gives a message where it cannot be. */
export async function restoreRevisionAction(id: string, base: number, number: number): Promise<string | null> {
  const doer = await theDoer();
  return orRefused<string | null>(
    () =>
      restoredWords(
        restoreRevision(
          theHouse(),
          doer,
          recordIdSchema.parse(id),
          z.number().int().parse(number),
          z.number().int().parse(base),
        ),
      ),
    (words) => words,
  );
}

function restoredWords(saved: Saved): string | null {
  switch (saved.kind) {
    case 'saved':
      return null;
    case 'unchanged':
      return 'That revision says the same as the newest one.';
    case 'stopped':
      return saved.findings.map(findingWords).join(' ');
    case 'merge':
      return `${saved.actor} saved meanwhile. Look at the newest revision first.`;
    case 'missing':
      return 'That revision is not there any more.';
  }
}

/** Keeps a set of questions, to be asked again; gives a message where it cannot be. */
export async function keepQuestionsAction(input: unknown): Promise<string | null> {
  const doer = await theDoer();
  const kept = orRefused(() => keepQuestions(theHouse(), doer, input), fail);
  return kept.ok ? null : kept.error;
}

/** Says what this house tells in place of what is to follow; gives a message where it cannot be. */
export async function keepFollowWordsAction(input: unknown): Promise<string | null> {
  const doer = await theDoer();
  const kept = orRefused(() => keepFollowWords(theHouse(), doer, input), fail);
  return kept.ok ? null : kept.error;
}

/** Ticks a line of the sheet before a sale, or takes the tick back; gives a message where it cannot be. */
export async function tickSheetAction(input: unknown): Promise<string | null> {
  const doer = await theDoer();
  const ticked = orRefused(() => tickSheet(theHouse(), doer, input), fail);
  return ticked.ok ? null : ticked.error;
}

/** Tries a purchase where it is sold; gives what it was held against. */
export async function tryPurchaseAction(input: unknown): Promise<Result<TrialCheck[], string>> {
  const doer = await theDoer();
  return tryPurchase(theHouse(), doer, input);
}

/** A notice as its readers will read it, as HTML. */
export async function previewNoticeAction(input: unknown): Promise<Result<string, string>> {
  const doer = await theDoer();
  return previewNotice(theHouse(), doer, input);
}

/** Notes what an outlet has sold, as a person counted it. */
export async function noteSalesAction(input: unknown): Promise<string | null> {
  const doer = await theDoer();
  const noted = orRefused(() => noteSales(theHouse(), doer, input), fail);
  return noted.ok ? null : noted.error;
}
