'use server';

import { revalidatePath } from 'next/cache';
import { z } from 'zod';
import { decideErrand } from '@/desk/dispatch/decide-errand';
import { makeDispatch } from '@/desk/dispatch/make-dispatch';
import { actor, theHouse } from '@/desk/house/the-house';

type Answer = { ok: true; value: string } | { ok: false; error: string };

/** Makes a dispatch of the listings named; gives its id. */
export async function sendAction(listings: string[]): Promise<Answer> {
  const only = new Set(z.array(z.string()).max(50_000).parse(listings));
  const made = makeDispatch(theHouse(), only, actor());
  return made.ok ? { ok: true, value: made.value.dispatchId } : made;
}

/** Tries an errand again now, or drops it. */
export async function decideErrandAction(errandId: number, verdict: 'again' | 'drop'): Promise<void> {
  decideErrand(theHouse(), z.number().int().parse(errandId), z.enum(['again', 'drop']).parse(verdict));
  revalidatePath('/dispatch', 'layout');
}
