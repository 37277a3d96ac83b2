import { z } from 'zod';
import { registrationCount } from '@/core/facts/tickets/registering';
import type { Answer } from '../kit/kind';

const roomSchema = z.looseObject({
  registered: z.number().int().min(0).max(10_000_000),
  sessions: z.array(z.looseObject({ tag: z.string().max(80) })).max(500),
});

/** How many are registered: for the room, and so for each of its sessions. */
export function sales({ wire }: Pick<Answer, 'wire'>) {
  const read = roomSchema.safeParse(wire);
  if (!read.success) return [];
  const { registered, sessions } = read.data;
  return sessions.map(({ tag }) => ({ performanceId: tag, levelId: registrationCount, sold: registered }));
}
