'use server';

import { theDoer } from '@/app/who-asks';
import { revalidatePath } from 'next/cache';
import { fail } from '@/core/base/result';
import { takeFileBack } from '@/desk/files/take-back';
import { orRefused } from '@/desk/house/refusal';
import { theHouse } from '@/desk/house/the-house';

/** Deletes every event that a file made; gives what came of it in words. */
export async function takeFileBackAction(input: unknown): Promise<{ ok: boolean; words: string }> {
  const doer = await theDoer();
  const done = orRefused(() => takeFileBack(theHouse(), doer, input), fail);
  revalidatePath('/import');
  return done.ok
    ? { ok: true, words: done.value === 1 ? 'Its one event is deleted.' : `Its ${done.value} events are deleted.` }
    : { ok: false, words: done.error };
}
