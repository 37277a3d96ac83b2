import { and, desc, eq, lt } from 'drizzle-orm';
import type { ChannelId } from '@/core/base/ids';
import type { Instant } from '@/core/base/zones';
import type { Tx } from './database';
import { seenAfter } from './schema';

/** So many of a channel are kept: what it was like long ago says nothing of today. */
const kept = 200;

/** Notes that what was sent to a channel was seen there after `ms`. */
export function noteDelay(db: Tx, channel: ChannelId, ms: number, at: Instant): void {
  db.insert(seenAfter)
    .values({ channel, ms: Math.max(0, Math.round(ms)), at })
    .run();
  const [oldest] = db
    .select({ id: seenAfter.id })
    .from(seenAfter)
    .where(eq(seenAfter.channel, channel))
    .orderBy(desc(seenAfter.id))
    .limit(1)
    .offset(kept)
    .all();
  if (oldest)
    db.delete(seenAfter)
      .where(and(eq(seenAfter.channel, channel), lt(seenAfter.id, oldest.id + 1)))
      .run();
}

/** How long it took lately, by channel, in milliseconds: from short to long. */
export function delaysOf(db: Tx): Map<string, number[]> {
  const out = new Map<string, number[]>();
  for (const { channel, ms } of db.select().from(seenAfter).all()) {
    const mine = out.get(channel) ?? [];
    mine.push(ms);
    out.set(channel, mine);
  }
  for (const mine of out.values()) mine.sort((a, b) => a - b);
  return out;
}
