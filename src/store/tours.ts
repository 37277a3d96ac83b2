import { eq } from 'drizzle-orm';
import type { TourShared } from '@/core/record/tour';
import type { Instant } from '@/core/base/zones';
import type { Tx } from './database';
import { markDirectory } from './directory-mark';
import { freshId } from './ids';
import { tours } from './schema';

/** A tour at its newest revision. */
export interface TourAt {
  id: string;
  name: string;
  revision: number;
  shared: TourShared;
  actor: string;
  at: Instant;
}

export function allTours(db: Tx): TourAt[] {
  return db.select().from(tours).orderBy(tours.name).all();
}

export function tourById(db: Tx, id: string): TourAt | null {
  return db.select().from(tours).where(eq(tours.id, id)).get() ?? null;
}

/** Makes a tour. */
export function makeTour(db: Tx, name: string, shared: TourShared, actor: string, at: Instant): string {
  const id = freshId('t');
  db.insert(tours).values({ id, name, revision: 1, shared, actor, at }).run();
  markDirectory(db);
  return id;
}

/** Writes a tour's next revision. */
export function writeTour(
  db: Tx,
  id: string,
  revision: number,
  name: string,
  shared: TourShared,
  actor: string,
  at: Instant,
): void {
  db.update(tours).set({ name, revision, shared, actor, at }).where(eq(tours.id, id)).run();
  markDirectory(db);
}
