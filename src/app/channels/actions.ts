'use server';

import { revalidatePath } from 'next/cache';
import { z } from 'zod';
import type { Result } from '@/core/base/result';
import { connectChannel } from '@/desk/channels/connect-channel';
import { actor, theHouse } from '@/desk/house/the-house';

const inputSchema = z.object({
  address: z.string().max(2000),
  credentials: z.record(z.string(), z.string().max(4000)),
});

/** Tries a channel's credentials and keeps them where they work. */
export async function connectAction(channel: string, input: unknown): Promise<Result<string, Record<string, string>>> {
  const answer = await connectChannel(theHouse(), z.string().parse(channel), inputSchema.parse(input), actor());
  if (answer.ok) revalidatePath('/', 'layout');
  return answer;
}
