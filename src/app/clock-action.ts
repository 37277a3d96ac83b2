'use server';

import { theDoer } from '@/app/who-asks';
import { z } from 'zod';
import { moveClock } from '@/desk/house/move-clock';
import { theHouse } from '@/desk/house/the-house';

/** Moves the simulated clock on; does nothing on the real one. */
export async function moveClockAction(ms: number): Promise<void> {
  const doer = await theDoer();
  await moveClock(theHouse(), doer, z.number().int().positive().parse(ms));
}
