'use server';

import { revalidatePath } from 'next/cache';
import { z } from 'zod';
import { sendOursAgain, takeIntoRecord } from '@/desk/drift/decide-drift';
import { readNow } from '@/desk/drift/read-now';
import { actor, theHouse } from '@/desk/house/the-house';

type Answer = { ok: true; value: string } | { ok: false; error: string };
const decisionSchema = z.tuple([z.string(), z.string(), z.array(z.string()).min(1).max(2000)]);

/** Sends ours again over what the channel shows. */
export async function sendOursAction(...input: [string, string, string[]]): Promise<Answer> {
  const answer = sendOursAgain(theHouse(), ...decisionSchema.parse(input), actor());
  return answer.ok ? { ok: true, value: 'Ours is going out again.' } : answer;
}

/** Takes what the channel shows into the record. */
export async function takeTheirsAction(...input: [string, string, string[]]): Promise<Answer> {
  const answer = takeIntoRecord(theHouse(), ...decisionSchema.parse(input), actor());
  return answer.ok
    ? { ok: true, value: `Taken: revision ${answer.value}. The other channels are now to send.` }
    : answer;
}

/** Reads every listing back now. */
export async function readNowAction(): Promise<void> {
  readNow(theHouse());
  revalidatePath('/read-back');
}
