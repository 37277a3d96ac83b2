import { answered } from '@/app/who-asks';
import { z } from 'zod';
import { findTown } from '@/desk/directory/find-town';
import { theHouse } from '@/desk/house/the-house';

export const dynamic = 'force-dynamic';

const askedSchema = z.object({
  venue: z.string().max(300).default(''),
  town: z.string().max(300),
  country: z.string().max(300).default(''),
});

/**
 * The towns that are called so, each with its zone and coordinates; and the zone, where all that it may be lie in one.
 */
export const GET = answered((doer, request: Request) => {
  const asked = askedSchema.safeParse(Object.fromEntries(new URL(request.url).searchParams));
  if (!asked.success)
    return Response.json(
      { message: 'Ask for town=, with country= where it is known; at most 300 characters each.' },
      { status: 400 },
    );
  return Response.json(findTown(theHouse(), doer, asked.data));
});
