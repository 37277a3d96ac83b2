import { answered } from '@/app/who-asks';
import { pulse } from '@/desk/house/pulse';
import { theHouse } from '@/desk/house/the-house';

export const dynamic = 'force-dynamic';

/** The house's state in a few numbers, for the frame of every screen. */
export const GET = answered(async (doer) => {
  return Response.json(await pulse(theHouse(), doer));
});
