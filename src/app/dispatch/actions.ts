'use server';

import { theDoer } from '@/app/who-asks';
import { fail, type Result } from '@/core/base/result';
import { orRefused } from '@/desk/house/refusal';
import { revalidatePath } from 'next/cache';
import { z } from 'zod';
import { listingIdSchema, type RecordId } from '@/core/base/ids';
import { keepDraft } from '@/desk/records/keep-draft';
import { decideErrand } from '@/desk/dispatch/decide-errand';
import { holdersDraftSchema, postToHolders, sayHolders } from '@/desk/dispatch/holders';
import { makeDispatch } from '@/desk/dispatch/make-dispatch';
import { theHouse } from '@/desk/house/the-house';

import { waySchema } from './way-schema';

type Answer = { ok: true; value: string } | { ok: false; error: string };

const sendSchema = z.object({
  listings: z.array(z.string()).max(50_000),
  ways: z.record(z.string(), waySchema),
  seen: z.array(z.string().max(200)).max(100_000),
  effects: z.record(z.string(), z.array(z.string().max(40)).max(10)).default({}),
});

/**
 * Makes a dispatch of the listings named, with the ways that were picked; gives its id, or nothing where something only
 * stays as it is.
 */
export async function sendAction(input: unknown): Promise<Answer> {
  const doer = await theDoer();
  const parsed = sendSchema.safeParse(input);
  if (!parsed.success)
    return {
      ok: false,
      error: `What was chosen cannot be sent: ${parsed.error.issues[0]?.path.join(' › ') ?? ''}. Load the page anew.`,
    };
  const { listings, ways, seen, effects } = parsed.data;
  const made = orRefused(() => makeDispatch(theHouse(), doer, new Set(listings), { ways, seen, effects }), fail);
  if (made.ok) revalidatePath('/dispatch', 'layout');
  return made.ok ? { ok: true, value: made.value.dispatchId ?? '' } : made;
}

/** Says that those who bought were told by us, or that nobody needs to be. */
export async function sayHoldersAction(listing: unknown, how: unknown): Promise<Result<null, string>> {
  const doer = await theDoer();
  const [id, said] = z.tuple([listingIdSchema, z.enum(['told', 'nobody'])]).parse([listing, how]);
  const answer = orRefused(() => sayHolders(theHouse(), doer, id, said), fail);
  revalidatePath('/dispatch', 'layout');
  return answer;
}

/** Drafts a post or letter for those who bought. */
export async function postToHoldersAction(listing: unknown, draft: unknown): Promise<Result<null, string>> {
  const doer = await theDoer();
  const [id, wish] = z.tuple([listingIdSchema, holdersDraftSchema]).parse([listing, draft]);
  const answer = orRefused(() => postToHolders(theHouse(), doer, id, wish), fail);
  revalidatePath('/dispatch', 'layout');
  return answer.ok ? { ok: true, value: null } : answer;
}

/** Keeps an event a draft on a channel, or lets it be shown there again. Gives a word where that cannot be. */
export async function keepDraftAction(recordId: string, channel: string, on: boolean): Promise<string | null> {
  const doer = await theDoer();
  const [id, where, kept] = [
    z.string().max(40).parse(recordId),
    z.string().max(40).parse(channel),
    z.boolean().parse(on),
  ];
  const words = orRefused<string | null>(
    () => keepDraft(theHouse(), doer, id as RecordId, where, kept),
    (refused) => refused,
  );
  revalidatePath('/dispatch', 'layout');
  return words;
}

/**
 * Tries an errand again now, lets it go without the link that it waits for, or drops it. Gives a word where that cannot
 * be.
 */
export async function decideErrandAction(
  errandId: number,
  verdict: 'again' | 'drop' | 'without',
): Promise<string | null> {
  const doer = await theDoer();
  const [id, how] = [z.number().int().parse(errandId), z.enum(['again', 'drop', 'without']).parse(verdict)];
  const words = orRefused<string | null>(
    () => (decideErrand(theHouse(), doer, id, how) > 0 ? null : 'It has gone out, or was decided on meanwhile.'),
    (refused) => refused,
  );
  revalidatePath('/dispatch', 'layout');
  return words;
}
