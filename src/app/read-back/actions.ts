'use server';

import { theDoer } from '@/app/who-asks';
import { fail, ok, type Result } from '@/core/base/result';
import { orRefused } from '@/desk/house/refusal';
import { listingIdSchema, recordIdSchema } from '@/core/base/ids';
import { revalidatePath } from 'next/cache';
import { z } from 'zod';
import { shownValueSchema } from '@/core/listing/shown-schema';
import { keepTheirs, letItGo, sendOursAgain, takeIntoRecord } from '@/desk/drift/decide-drift';
import { takeTwinDown } from '@/desk/drift/take-twin-down';
import { readNow } from '@/desk/drift/read-now';
import { theHouse } from '@/desk/house/the-house';

type Answer = { ok: true; value: string } | { ok: false; error: string };
const fieldSchema = z.object({ key: z.string().max(200), seen: shownValueSchema.nullable() });
const decisionSchema = z.tuple([recordIdSchema, listingIdSchema, z.array(fieldSchema).max(2000)]);
/** As a screen sends it: ids are texts until they were read here. */
type Decision = z.input<typeof decisionSchema>;

/** Sends ours again over what the channel shows. */
export async function sendOursAction(...input: Decision): Promise<Answer> {
  const doer = await theDoer();
  const answer = orRefused(() => sendOursAgain(theHouse(), doer, ...decisionSchema.parse(input)), fail);
  revalidatePath('/', 'layout');
  return answer.ok ? { ok: true, value: 'Ours is going out again.' } : answer;
}

/** Takes what the channel shows into the record. */
export async function takeTheirsAction(...input: Decision): Promise<Answer> {
  const doer = await theDoer();
  const answer = orRefused(() => takeIntoRecord(theHouse(), doer, ...decisionSchema.parse(input)), fail);
  revalidatePath('/', 'layout');
  return answer.ok
    ? { ok: true, value: `Taken: revision ${answer.value}. The other channels are now to send.` }
    : answer;
}

/** Keeps what the channel shows on this one channel, worded by hand. */
export async function keepTheirsAction(...input: Decision): Promise<Answer> {
  const doer = await theDoer();
  const answer = orRefused(() => keepTheirs(theHouse(), doer, ...decisionSchema.parse(input)), fail);
  revalidatePath('/', 'layout');
  return answer.ok ? { ok: true, value: 'Kept on this channel alone, worded by hand.' } : answer;
}

/** Lets go of a listing that was deleted there. */
export async function letGoAction(...input: Decision): Promise<Answer> {
  const doer = await theDoer();
  const [recordId, listing] = decisionSchema.parse(input);
  const answer = orRefused(() => letItGo(theHouse(), doer, recordId, listing), fail);
  revalidatePath('/', 'layout');
  return answer.ok ? { ok: true, value: 'Let go: the channel is left off for this event.' } : answer;
}

/** Takes one of the places down where a listing stands twice. */
export async function takeTwinDownAction(listing: string, place: string): Promise<Answer> {
  const doer = await theDoer();
  const [id, at] = [listingIdSchema.parse(listing), z.string().max(400).parse(place)];
  const answer = orRefused(() => takeTwinDown(theHouse(), doer, id, at), fail);
  revalidatePath('/', 'layout');
  return answer.ok ? { ok: true, value: 'It is being taken down there; the other one stays.' } : answer;
}

/** Reads every listing back now. */
export async function readNowAction(): Promise<Answer> {
  const doer = await theDoer();
  const answer = orRefused<Result<number, string>>(() => ok(readNow(theHouse(), doer)), fail);
  revalidatePath('/read-back');
  return answer.ok ? { ok: true, value: `${answer.value} listings are being read.` } : answer;
}
