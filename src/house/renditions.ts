import { existsSync } from 'node:fs';
import { mkdir, readFile, rename, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { randomBytes } from 'node:crypto';
import sharp from 'sharp';
import type { Rendition } from '@/channels/kit/kept';
import { OutsideError } from '@/channels/kit/http';
import type { ShownValue } from '@/core/listing/shown';
import { drawing, mostPixels } from './drawing';
import { typeOfFile } from '@/core/record/document-types';
import { figureWidth } from '@/core/words/figures';

type PictureValue = Extract<ShownValue, { kind: 'picture' }>;

/** Where a picture's file lies. */
export function picturePath(folder: string, pictureId: string): string {
  return path.join(folder, 'pictures', pictureId);
}

/** Draws a listing's picture, or takes it from the folder of those drawn before (a name stands for one content). */
export async function makeRendition(folder: string, { name, source }: PictureValue): Promise<Rendition> {
  if (source === null) throw new Error(`no source for picture ${name}`);
  const { crop, width, height, pictureId } = source;
  // A listing without its picture is not sent: half of it would stand in public.
  if (!existsSync(picturePath(folder, pictureId)))
    throw new OutsideError(
      'invalid',
      'the picture’s file is not in the house any more. Add the picture to the record again',
      null,
      'picture',
    );
  const bytes = await cached(folder, name, () =>
    sharp(picturePath(folder, pictureId), { limitInputPixels: mostPixels })
      .rotate()
      .extract({ left: crop.x, top: crop.y, width: crop.w, height: crop.h })
      .resize(width, height)
      // JPEG knows no transparency; what shines through is white, not black.
      .flatten({ background: '#fff' })
      .jpeg({ quality: 84 })
      .toBuffer(),
  );
  return { name, bytes };
}

/** Draws a picture that stands within a text, as wide as its name says. */
export async function makeFigure(
  folder: string,
  { name, pictureId }: { name: string; pictureId: string },
): Promise<Rendition> {
  const width = figureWidth(name);
  if (width === null) throw new Error(`no width in the name ${name}`);
  if (!existsSync(picturePath(folder, pictureId)))
    throw new OutsideError('invalid', 'a picture in the text is not in the house any more. Add it again', null, 'body');
  const bytes = await cached(folder, name, () =>
    sharp(picturePath(folder, pictureId), { limitInputPixels: mostPixels })
      .rotate()
      .resize({ width, withoutEnlargement: true })
      .flatten({ background: '#fff' })
      .jpeg({ quality: 84 })
      .toBuffer(),
  );
  return { name, bytes };
}

/** Where a document's file lies. */
export function documentPath(folder: string, fileId: string): string {
  return path.join(folder, 'documents', fileId);
}

/** A document as it was taken in, under the name that it has outside. */
export async function documentFile(folder: string, name: string, fileId: string): Promise<Rendition> {
  const bytes = await readFile(documentPath(folder, fileId)).catch(() => null);
  if (bytes === null)
    throw new OutsideError(
      'invalid',
      'the document’s file is not in the house any more. Add it to the record again',
      null,
      'document',
    );
  return { name, type: typeOfFile(name) ?? 'application/octet-stream', bytes: new Uint8Array(bytes) };
}

/** A picture drawn small, for the screen: at most `width` pixels wide. */
export function makePreview(folder: string, pictureId: string, width: number): Promise<Uint8Array<ArrayBuffer>> {
  return cached(folder, `${pictureId}-preview-${width}.jpg`, () =>
    sharp(picturePath(folder, pictureId), { limitInputPixels: mostPixels })
      .rotate()
      .resize({ width, withoutEnlargement: true })
      .flatten({ background: '#fff' })
      .jpeg({ quality: 80 })
      .toBuffer(),
  );
}

async function cached(folder: string, name: string, draw: () => Promise<Buffer>): Promise<Uint8Array<ArrayBuffer>> {
  const file = path.join(folder, 'renditions', name);
  if (existsSync(file)) return new Uint8Array(await readFile(file));
  const bytes = await drawing(draw);
  await mkdir(path.dirname(file), { recursive: true });
  const half = `${file}.${randomBytes(4).toString('hex')}`;
  await writeFile(half, bytes);
  await rename(half, file);
  return new Uint8Array(bytes);
}
