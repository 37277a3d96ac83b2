'use server';

import { theDoer } from '@/app/who-asks';
import { orRefused } from '@/desk/house/refusal';
import { recordIdSchema } from '@/core/base/ids';
import { z } from 'zod';
import type { TourShared } from '@/core/record/tour';
import { fail, type Result } from '@/core/base/result';
import { importTourDates } from '@/desk/files/import-events';
import { saveTour } from '@/desk/tours/save-tour';
import { theHouse } from '@/desk/house/the-house';
import { sharedOfDate } from '@/desk/tours/tours';
import type { SaveTourAnswer } from '@/ui/tours/TourScreen';

const saveSchema = z.object({ name: z.string(), shared: z.unknown(), base: z.number().int(), dry: z.boolean() });

/** Saves what a tour's dates share, or only says what it would change. */
export async function saveTourAction(id: string, input: unknown): Promise<SaveTourAnswer> {
  const doer = await theDoer();
  const { name, shared, base, dry } = saveSchema.parse(input);
  return orRefused<SaveTourAnswer>(
    () => saveTour(theHouse(), doer, z.string().parse(id), base, { name, shared }, dry),
    (message) => fail([{ field: '', message }]),
  );
}

/** Adds pasted dates to a tour. */
export async function addTourDatesAction(
  id: string,
  text: string,
): Promise<
  Result<
    { made: number; known: number; notes: string[]; broken: { line: number; field: string; text: string }[] },
    string
  >
> {
  const doer = await theDoer();
  const house = theHouse();
  const read = orRefused(() => importTourDates(house, doer, z.string().parse(id), z.string().parse(text), null), fail);
  return read.ok
    ? {
        ok: true,
        value: {
          made: read.value.made.length,
          known: read.value.known.length,
          notes: [
            ...new Set([...read.value.notes.map((note) => note.text), ...read.value.made.flatMap((row) => row.notes)]),
          ],
          broken: [...read.value.broken, ...read.value.asked].map(({ line, field, text: why }) => ({
            line,
            field,
            text: why,
          })),
        },
      }
    : read;
}

/** What a date says of the shared facts. */
export async function sharedOfDateAction(recordId: string): Promise<TourShared | null> {
  const doer = await theDoer();
  return sharedOfDate(theHouse(), doer, recordIdSchema.parse(recordId));
}
