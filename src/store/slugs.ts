import { desc, eq } from 'drizzle-orm';
import type { Instant } from '@/core/zones';
import type { Tx } from './database';
import { slugs } from './schema';

/** Gives a record this address; where another record has it, one with a number behind it. Its older addresses go on leading to it. */
export function noteSlug(db: Tx, stem: string, recordId: string, at: Instant): string {
  for (let n = 1; ; n += 1) {
    const slug = n === 1 ? stem : `${stem}-${n}`;
    const known = db.select().from(slugs).where(eq(slugs.slug, slug)).get();
    if (known && known.recordId !== recordId) continue;
    if (known) db.update(slugs).set({ at }).where(eq(slugs.slug, slug)).run();
    else db.insert(slugs).values({ slug, recordId, at }).run();
    return slug;
  }
}

/** The record that an address leads to, whether it is its newest or an older one. */
export function recordOfSlug(db: Tx, slug: string): string | null {
  return db.select().from(slugs).where(eq(slugs.slug, slug)).get()?.recordId ?? null;
}

/** A record's addresses, the newest first. */
export function slugsOf(db: Tx, recordId: string): string[] {
  return db.select().from(slugs).where(eq(slugs.recordId, recordId)).orderBy(desc(slugs.at)).all().map((row) => row.slug);
}
