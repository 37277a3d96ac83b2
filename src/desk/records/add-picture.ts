import { cleanPicture, type NotTaken } from '@/house/drawing';
import { asks, asksAgain } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import { createHash } from 'node:crypto';
import { existsSync } from 'node:fs';
import { mkdir, rename, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { fail, ok, type Result } from '@/core/base/result';
import { pictureById, putPicture, type Picture } from '@/store/pictures';
import type { House } from '@/house/house';
import { picturePath } from '@/house/renditions';

/** Largest picture file, in bytes. */
export const mostPictureBytes = 20 * 1024 * 1024;

/** Takes a picture in: checks that it is one, keeps the file under its content's hash. The error is for the user. */
export async function addPicture(
  house: House,
  doer: Doer,
  fileName: string,
  bytes: Buffer,
): Promise<Result<Picture, string>> {
  asks(doer, 'addPicture');
  if (bytes.length > mostPictureBytes)
    return fail(
      `“${fileName}” is ${(bytes.length / 1_048_576).toFixed(1)} MB; at most 20 MB are taken. Make it smaller and add it again.`,
    );
  if (bytes.length === 0) return fail(`“${fileName}” is empty. Add a JPEG, PNG, WebP, AVIF, TIFF or GIF.`);
  const clean = await cleanPicture(bytes);
  if (!clean.ok) return fail(notTakenWords(fileName, clean.error));
  const picture = clean.value;
  // It is known by what is kept of it: added twice it is one.
  const id = createHash('sha256').update(picture.bytes).digest('hex');
  const target = picturePath(house.folder, id);
  if (!existsSync(target)) {
    await mkdir(path.dirname(target), { recursive: true });
    await writeFile(`${target}.half`, picture.bytes);
    await rename(`${target}.half`, target);
  }
  asksAgain(house.db, doer, 'addPicture');
  putPicture(house.db, {
    id,
    fileName: fileName.slice(0, 200),
    format: picture.format,
    width: picture.width,
    height: picture.height,
    bytes: picture.bytes.length,
    addedBy: doer.name,
    addedAt: house.clock.now(),
  });
  const kept = pictureById(house.db, id);
  return kept ? ok(kept) : fail('The picture could not be kept. Add it again.');
}

function notTakenWords(fileName: string, error: NotTaken): string {
  switch (error.why) {
    case 'unreadable':
      return `“${fileName}” is no picture that can be read. Add a JPEG, PNG, WebP, AVIF, TIFF or GIF.`;
    case 'damaged':
      return `“${fileName}” is damaged: not all of the picture can be read. Export it anew and add it again.`;
    case 'too-large':
      return `“${fileName}” is ${error.width} × ${error.height} pixels; at most 80 million pixels are taken.`;
  }
}
