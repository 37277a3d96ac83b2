import { sql } from 'drizzle-orm';
import type { Tx } from './database';

/** A text that changes whenever anything a screen shows was written: revisions, errands, receipts, readings. */
export function pulseMark(db: Tx): string {
  const [row] = db.all<{ mark: string }>(sql`SELECT
    (SELECT count(*) FROM revisions) || '.' || (SELECT ifnull(max(id), 0) FROM receipts) || '.' || (SELECT ifnull(max(id), 0) FROM readings) || '.' ||
    (SELECT ifnull(max(observed_at), 0) FROM listings) || '.' || (SELECT ifnull(max(id), 0) FROM errands) || '.' ||
    (SELECT count(*) FROM errands WHERE state = 'waiting') || '.' || (SELECT count(*) FROM errands WHERE state = 'running') || '.' ||
    (SELECT ifnull(max(at), 0) FROM connections) || '.' || (SELECT ifnull(max(id), 0) FROM sales) || '.' ||
    (SELECT ifnull(max(value), '') FROM settings WHERE name = 'directory') AS mark`);
  return row?.mark ?? '';
}
