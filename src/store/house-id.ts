import { putSetting, setting } from './settings';
import type { Tx } from './database';
import { freshId } from './ids';

/** A name for the house in what it writes for others: made once, and kept, so that its events are known again. */
export function houseId(db: Tx): string {
  const known = setting(db, 'house-id');
  if (known !== null) return known;
  const made = freshId('h');
  putSetting(db, 'house-id', made);
  return made;
}
