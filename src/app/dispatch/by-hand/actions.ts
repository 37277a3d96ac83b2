'use server';

import { revalidatePath } from 'next/cache';
import { z } from 'zod';
import { theDoer } from '@/app/who-asks';
import type { Result } from '@/core/base/result';
import { sayHandDone, sayHandFailed } from '@/desk/dispatch/by-hand';
import { theHouse } from '@/desk/house/the-house';

type Answer = Result<null, Record<string, string>>;
const errandSchema = z.number().int().min(1);

/** Says that a task was done by hand. */
export async function handDoneAction(errand: unknown, input: unknown): Promise<Answer> {
  const doer = await theDoer();
  const answer = sayHandDone(theHouse(), doer, errandSchema.parse(errand), input);
  if (answer.ok) revalidatePath('/', 'layout');
  return answer;
}

/** Says that a task could not be done. */
export async function handFailedAction(errand: unknown, word: unknown): Promise<Answer> {
  const doer = await theDoer();
  const answer = sayHandFailed(theHouse(), doer, errandSchema.parse(errand), word);
  if (answer.ok) revalidatePath('/', 'layout');
  return answer;
}
