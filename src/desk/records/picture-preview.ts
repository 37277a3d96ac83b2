import { asks } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import { pictureById } from '@/store/pictures';
import type { House } from '@/house/house';
import { makePreview } from '@/house/renditions';

/** A picture drawn `width` pixels wide (rounded up to a hundred, so that few sizes are drawn). `null`: not ours. */
export async function picturePreview(
  house: House,
  doer: Doer,
  id: string,
  width: number,
): Promise<Uint8Array<ArrayBuffer> | null> {
  asks(doer, 'picturePreview');
  return pictureById(house.db, id) === null ? null : makePreview(house.folder, id, Math.ceil(width / 100) * 100);
}
