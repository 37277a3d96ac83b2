import type { RecordId } from '@/core/base/ids';
import { and, eq, gte, lt, or, sql } from 'drizzle-orm';
import type { Instant } from '@/core/base/zones';
import type { Tx } from './database';
import { slugs } from './schema';

/** Addresses that are `stem`, or `stem` with something behind a hyphen: a range of the index (`.` comes after `-`). */
const family = (stem: string) => or(eq(slugs.slug, stem), and(gte(slugs.slug, `${stem}-`), lt(slugs.slug, `${stem}.`)));

/**
 * Gives a record this address; where another record has it, one with a number behind it. Its older addresses go on
 * leading to it. Of many events with one title the next number is tried first, so that the search does not grow with
 * them.
 * `isNew`: the record has no address yet.
 */
export function noteSlug(db: Tx, stem: string, recordId: RecordId, at: Instant, isNew = false): string {
  const mine = isNew
    ? undefined
    : db
        .select()
        .from(slugs)
        .where(and(eq(slugs.recordId, recordId), family(stem)))
        .all()
        .find((row) => /^(-\d+)?$/.test(row.slug.slice(stem.length)));
  if (mine) {
    db.update(slugs).set({ at }).where(eq(slugs.slug, mine.slug)).run();
    return mine.slug;
  }
  const used =
    db
      .select({ n: sql<number>`count(*)` })
      .from(slugs)
      .where(family(stem))
      .get()?.n ?? 0;
  for (let n = used + 1; ; n += 1) {
    const slug = n === 1 ? stem : `${stem}-${n}`;
    if (used > 0 && db.select().from(slugs).where(eq(slugs.slug, slug)).get()) continue;
    db.insert(slugs).values({ slug, recordId, at }).run();
    return slug;
  }
}

/** The record that an address leads to, whether it is its newest or an older one. */
export function recordOfSlug(db: Tx, slug: string): RecordId | null {
  return db.select().from(slugs).where(eq(slugs.slug, slug)).get()?.recordId ?? null;
}
