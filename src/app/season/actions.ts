'use server';

import { revalidatePath } from 'next/cache';
import { z } from 'zod';
import { theDoer } from '@/app/who-asks';
import { issueWords } from '@/core/base/issue-words';
import { orRefused } from '@/desk/house/refusal';
import { theHouse } from '@/desk/house/the-house';
import { manyChoices } from '@/desk/records/many-choices';
import { manyWishSchema, saveMany, undoMany } from '@/desk/records/many';
import type { ManyChoices, ManySaved, ManyUndone } from '@/views/many';
import { waySchema } from '../dispatch/way-schema';

const channels = z.array(z.string().max(40)).max(200);
const saveSchema = manyWishSchema.extend({
  seal: z.string().max(40),
  picks: z
    .object({
      out: channels,
      asked: channels,
      corrected: channels,
      ways: z.record(z.string(), waySchema),
      seen: z.boolean(),
    })
    .nullable(),
});

/** Saves an edit of many events as one, and sends what was chosen of it. */
export async function saveManyAction(input: unknown): Promise<ManySaved> {
  const doer = await theDoer();
  const wish = saveSchema.safeParse(input);
  if (!wish.success) return { kind: 'stopped', messages: wish.error.issues.map(issueWords) };
  const { picks, ...rest } = wish.data;
  const saved = orRefused<ManySaved>(
    () => saveMany(theHouse(), doer, rest, picks),
    (words) => ({ kind: 'stopped', messages: [words] }),
  );
  if (saved.kind === 'done') revalidatePath('/', 'layout');
  return saved;
}

/** Takes an edit of many events back as one. */
export async function undoManyAction(id: unknown): Promise<ManyUndone> {
  const doer = await theDoer();
  const undone = orRefused<ManyUndone>(
    () => undoMany(theHouse(), doer, z.string().max(120).parse(id)),
    (words) => ({ kind: 'stopped', messages: [words] }),
  );
  if (undone.kind === 'done') revalidatePath('/', 'layout');
  return undone;
}

/** What can be chosen for an edit of many. */
export async function manyChoicesAction(): Promise<ManyChoices> {
  const doer = await theDoer();
  return manyChoices(theHouse(), doer);
}
