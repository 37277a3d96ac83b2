import { createHash } from 'node:crypto';
import { existsSync } from 'node:fs';
import { mkdir, rename, writeFile } from 'node:fs/promises';
import path from 'node:path';
import sharp from 'sharp';
import { fail, ok, type Result } from '@/core/base/result';
import { pictureById, putPicture, type Picture } from '@/store/pictures';
import type { House } from '@/house/house';
import { mostPixels, picturePath } from '@/house/renditions';

/** Largest picture file, in bytes. */
export const mostPictureBytes = 20 * 1024 * 1024;
const formats = new Set(['jpeg', 'png', 'webp', 'avif', 'tiff', 'gif']);

/** Takes a picture in: checks that it is one, keeps the file under its content's hash. The error is for the user. */
export async function addPicture(
  house: House,
  fileName: string,
  bytes: Buffer,
  actor: string,
): Promise<Result<Picture, string>> {
  if (bytes.length > mostPictureBytes)
    return fail(
      `“${fileName}” is ${(bytes.length / 1_048_576).toFixed(1)} MB; at most 20 MB are taken. Make it smaller and add it again.`,
    );
  if (bytes.length === 0) return fail(`“${fileName}” is empty. Add a JPEG, PNG, WebP, AVIF, TIFF or GIF.`);
  const meta = await sharp(bytes, { limitInputPixels: false })
    .metadata()
    .catch(() => null);
  if (meta === null || !formats.has(meta.format)) {
    return fail(`“${fileName}” is no picture that can be read. Add a JPEG, PNG, WebP, AVIF, TIFF or GIF.`);
  }
  const turned = (meta.orientation ?? 1) >= 5;
  const [width, height] = turned ? [meta.height, meta.width] : [meta.width, meta.height];
  if (width * height > mostPixels)
    return fail(`“${fileName}” is ${width} × ${height} pixels; at most 80 million pixels are taken.`);
  // Made small, it has been read to its last byte.
  const whole = await sharp(bytes, { limitInputPixels: mostPixels })
    .resize(64, 64, { fit: 'inside' })
    .raw()
    .toBuffer()
    .catch(() => null);
  if (whole === null)
    return fail(`“${fileName}” is damaged: not all of the picture can be read. Export it anew and add it again.`);

  const id = createHash('sha256').update(bytes).digest('hex');
  const target = picturePath(house.folder, id);
  if (!existsSync(target)) {
    await mkdir(path.dirname(target), { recursive: true });
    await writeFile(`${target}.half`, bytes);
    await rename(`${target}.half`, target);
  }
  putPicture(house.db, {
    id,
    fileName: fileName.slice(0, 200),
    format: meta.format,
    width,
    height,
    bytes: bytes.length,
    addedBy: actor,
    addedAt: house.clock.now(),
  });
  const kept = pictureById(house.db, id);
  return kept ? ok(kept) : fail('The picture could not be kept. Add it again.');
}
