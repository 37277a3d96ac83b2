import { and, asc, desc, eq, isNotNull, sql } from 'drizzle-orm';
import type { PictureUse } from '@/core/record/record';
import type { Tx } from './database';
import { pictures } from './schema';

export type Picture = typeof pictures.$inferSelect;

/** Notes a picture; the same file twice is one picture. */
export function putPicture(db: Tx, picture: typeof pictures.$inferInsert): void {
  db.insert(pictures).values(picture).onConflictDoNothing().run();
}

export function pictureById(db: Tx, id: string): Picture | null {
  return db.select().from(pictures).where(eq(pictures.id, id)).get() ?? null;
}

/** The pictures that are kept, the newest first: at most `most`, those whose name, credit or description holds `find`. */
export function somePictures(db: Tx, find: string, most: number): Picture[] {
  const words = sql`lower(${pictures.name} || ' ' || ${pictures.fileName} || ' ' || ${pictures.credit} || ' ' || ${pictures.alt})`;
  return db
    .select()
    .from(pictures)
    .where(sql`instr(${words}, ${find.trim().toLowerCase()}) > 0`)
    .orderBy(desc(pictures.addedAt), asc(pictures.id))
    .limit(most)
    .all();
}

/** Says what a picture is called, whose it is, what it shows, and until when it may be used. */
export function describePicture(
  db: Tx,
  id: string,
  part: Partial<Pick<Picture, 'name' | 'credit' | 'alt' | 'until'>>,
): void {
  db.update(pictures).set(part).where(eq(pictures.id, id)).run();
}

/** What was said of pictures where they are used, kept for those of which nothing was said yet. */
export function learnPictures(db: Tx, uses: readonly Pick<PictureUse, 'pictureId' | 'alt' | 'credit'>[]): void {
  for (const { pictureId, alt, credit } of uses) {
    if (alt !== '')
      db.update(pictures)
        .set({ alt })
        .where(and(eq(pictures.id, pictureId), eq(pictures.alt, '')))
        .run();
    if (credit !== '')
      db.update(pictures)
        .set({ credit })
        .where(and(eq(pictures.id, pictureId), eq(pictures.credit, '')))
        .run();
  }
}

/** A picture that may be used until a day only. */
export interface PictureEnd {
  name: string;
  until: string;
}

/** Pictures that may be used until a day only, by id. */
export function pictureEnds(db: Tx): Map<string, PictureEnd> {
  const { id, name, fileName, until } = pictures;
  const rows = db.select({ id, name, fileName, until }).from(pictures).where(isNotNull(until)).all();
  return new Map(rows.map((row) => [row.id, { name: row.name || row.fileName, until: row.until ?? '' }]));
}
