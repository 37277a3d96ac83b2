'use server';

import { theDoer } from '@/app/who-asks';
import { orRefused } from '@/desk/house/refusal';
import { revalidatePath } from 'next/cache';
import { z } from 'zod';
import { fail, type Result } from '@/core/base/result';
import {
  allowHost,
  reconnectChannel,
  connectChannel,
  disconnectChannel,
  mapCategories,
  renameChannel,
  sayAudience,
  type Connected,
} from '@/desk/channels/connect-channel';
import { makeCalendarFeed, renewFeedAddress } from '@/desk/channels/calendar-feeds';
import { giveLeave, leaveRead } from '@/desk/channels/standing-leave';
import { setHandRules } from '@/desk/dispatch/by-hand';
import { theHouse } from '@/desk/house/the-house';

const whichSchema = z.union([z.object({ kind: z.string().max(40) }), z.object({ id: z.string().max(40) })]);
const inputSchema = z.object({
  address: z.string().max(2000),
  credentials: z.record(z.string(), z.string().max(4000)),
  name: z.string().max(200).optional(),
  shortName: z.string().max(200).optional(),
  settings: z.record(z.string(), z.string().max(400)).optional(),
});

/** Tries a channel's credentials and keeps them where they work: of a new one of a kind, or of one that is there. */
export async function connectAction(
  which: unknown,
  input: unknown,
): Promise<Result<Connected, Record<string, string>>> {
  const doer = await theDoer();
  const { name, shortName, settings, ...rest } = inputSchema.parse(input);
  const names = {
    ...(name === undefined ? {} : { name }),
    ...(shortName === undefined ? {} : { shortName }),
    ...(settings === undefined ? {} : { settings }),
  };
  const answer = await connectChannel(theHouse(), doer, whichSchema.parse(which), { ...rest, ...names });
  if (answer.ok) revalidatePath('/', 'layout');
  return answer;
}

/** Takes a channel off; its listings and its history stay. */
export async function disconnectAction(id: unknown): Promise<Result<null, string>> {
  const doer = await theDoer();
  const answer = orRefused(() => disconnectChannel(theHouse(), doer, z.string().max(40).parse(id)), fail);
  if (answer.ok) revalidatePath('/', 'layout');
  return answer;
}

/** Says who sees what stands on a channel. */
export async function audienceAction(id: unknown, audience: unknown): Promise<Result<null, string>> {
  const doer = await theDoer();
  const answer = orRefused(() => sayAudience(theHouse(), doer, z.string().max(40).parse(id), audience), fail);
  if (answer.ok) revalidatePath('/', 'layout');
  return answer;
}

/** Says whether what the clock alone changes goes to a channel without asking. */
export async function leaveAction(id: unknown, given: unknown): Promise<Result<null, string>> {
  const doer = await theDoer();
  const [channel, said] = z.tuple([z.string().max(40), z.boolean()]).parse([id, given]);
  const answer = orRefused(() => giveLeave(theHouse(), doer, channel, said), fail);
  if (answer.ok) revalidatePath('/', 'layout');
  return answer;
}

/** Somebody read of what goes under standing leave. */
export async function leaveReadAction(): Promise<void> {
  const doer = await theDoer();
  leaveRead(theHouse(), doer);
  revalidatePath('/', 'layout');
}

/** Brings a channel back by the connection that it had. */
export async function bringBackAction(id: unknown): Promise<Result<Connected, string>> {
  const doer = await theDoer();
  const answer = await reconnectChannel(theHouse(), doer, z.string().max(40).parse(id));
  if (answer.ok) revalidatePath('/', 'layout');
  return answer;
}

/** Says in which of a channel's categories each kind of event stands there. */
export async function categoriesAction(id: unknown, map: unknown): Promise<Result<null, string>> {
  const doer = await theDoer();
  const answer = orRefused(() => mapCategories(theHouse(), doer, z.string().max(40).parse(id), map), fail);
  if (answer.ok) revalidatePath('/', 'layout');
  return answer;
}

/** Allows a channel to give addresses on a further host. */
export async function allowHostAction(id: unknown, host: unknown): Promise<Result<null, string>> {
  const doer = await theDoer();
  const parsed = z.tuple([z.string().max(40), z.string().max(300)]).parse([id, host]);
  const answer = orRefused(() => allowHost(theHouse(), doer, ...parsed), fail);
  if (answer.ok) revalidatePath('/', 'layout');
  return answer;
}

/** Gives a channel other names. */
export async function renameAction(id: unknown, names: unknown): Promise<Result<null, Record<string, string>>> {
  const doer = await theDoer();
  const answer = orRefused(
    () => renameChannel(theHouse(), doer, z.string().max(40).parse(id), names),
    (name) => fail({ name }),
  );
  if (answer.ok) revalidatePath('/', 'layout');
  return answer;
}

/** Makes a calendar of a part of the house, to be subscribed to. */
export async function makeFeedAction(holds: unknown): Promise<Result<string, string>> {
  const doer = await theDoer();
  const answer = await makeCalendarFeed(theHouse(), doer, z.string().max(240).parse(holds));
  if (answer.ok) revalidatePath('/', 'layout');
  return answer;
}

/** Gives a calendar another address. */
export async function renewFeedAction(id: unknown): Promise<Result<null, string>> {
  const doer = await theDoer();
  const answer = orRefused(() => renewFeedAddress(theHouse(), doer, z.string().max(40).parse(id)), fail);
  if (answer.ok) revalidatePath('/', 'layout');
  return answer;
}

/** Says what a place that is filled in by hand asks for. */
export async function handRulesAction(id: unknown, rules: unknown): Promise<Result<null, Record<string, string>>> {
  const doer = await theDoer();
  const answer = setHandRules(theHouse(), doer, z.string().max(40).parse(id), rules);
  if (answer.ok) revalidatePath('/', 'layout');
  return answer;
}
