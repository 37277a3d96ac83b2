import { eq } from 'drizzle-orm';
import type { Tx } from './database';
import { pictures } from './schema';

export type Picture = typeof pictures.$inferSelect;

/** Notes a picture; the same file twice is one picture. */
export function putPicture(db: Tx, picture: Picture): void {
  db.insert(pictures).values(picture).onConflictDoNothing().run();
}

export function pictureById(db: Tx, id: string): Picture | null {
  return db.select().from(pictures).where(eq(pictures.id, id)).get() ?? null;
}
