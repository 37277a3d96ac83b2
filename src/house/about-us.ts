import type { AboutUs } from '@/core/facts/facts';
import { newPicture } from '@/core/record/new-record';
import type { Tx } from '@/store/database';
import { pictureById } from '@/store/pictures';
import { houseOwn } from './house-own';

/** What this house says of itself: where one writes to it, how its places are shown on a map, its logo. */
export function aboutUs(db: Tx): AboutUs {
  const { mail, map, logoId } = houseOwn.of(db);
  const kept = logoId === null ? null : pictureById(db, logoId);
  return { mail, map, logo: kept && newPicture(kept, { alt: kept.alt || kept.name || 'logo' }) };
}
