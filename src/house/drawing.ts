import PQueue from 'p-queue';
import sharp, { type Sharp } from 'sharp';
import { fail, ok, type Result } from '@/core/base/result';

/** So many pictures are drawn at once: each may take hundreds of megabytes while it is unpacked. */
const atOnce = 2;
/** Of this module a server may have several copies; of the queue there is one in a process. */
const mark = Symbol.for('nuntiax.drawing');
const kept = globalThis as typeof globalThis & Partial<Record<typeof mark, PQueue>>;

/** Does work that unpacks a picture, when it is its turn. */
export async function drawing<T>(work: () => Promise<T>): Promise<T> {
  return (kept[mark] ??= new PQueue({ concurrency: atOnce })).add(work) as Promise<T>;
}

/** Largest picture that is ever decoded: guards against small files that unfold into huge images. */
export const mostPixels = 80_000_000;

type Format = 'jpeg' | 'png' | 'webp' | 'avif' | 'tiff' | 'gif';
const again: Record<Format, (picture: Sharp) => Sharp> = {
  jpeg: (picture) => picture.jpeg({ quality: 95, chromaSubsampling: '4:4:4' }),
  png: (picture) => picture.png(),
  webp: (picture) => picture.webp({ quality: 95 }),
  avif: (picture) => picture.avif({ quality: 85 }),
  tiff: (picture) => picture.tiff({ compression: 'deflate' }),
  gif: (picture) => picture.gif(),
};

/** A picture as it is kept, and how large it is when it stands upright. */
export interface CleanPicture {
  bytes: Buffer;
  format: Format;
  width: number;
  height: number;
}

/** Why a picture is not taken; its size in pixels where it has too many. */
export type NotTaken = { why: 'unreadable' | 'damaged' } | { why: 'too-large'; width: number; height: number };

/**
 * A picture as it came, written anew in its own format: upright, with its colour profile, and with nothing else that a
 * camera or a program noted in it or behind it: no place, no serial number, no small first version.
 */
export async function cleanPicture(bytes: Buffer): Promise<Result<CleanPicture, NotTaken>> {
  const meta = await sharp(bytes, { limitInputPixels: false })
    .metadata()
    .catch(() => null);
  const format = meta?.format === 'heif' ? 'avif' : meta?.format;
  if (!meta || format === undefined || !isTaken(format)) return fail({ why: 'unreadable' });
  const turned = (meta.orientation ?? 1) >= 5;
  const [width, height] = turned ? [meta.height, meta.width] : [meta.width, meta.height];
  if (width * height > mostPixels) return fail({ why: 'too-large', width, height });
  const drawn = await drawing(() => {
    // What moves is never turned.
    const moves = (meta.pages ?? 1) > 1 && (format === 'gif' || format === 'webp');
    const whole = sharp(bytes, { limitInputPixels: mostPixels, animated: moves });
    return again[format](moves ? whole : whole.autoOrient().keepIccProfile())
      .toBuffer()
      .catch(() => null);
  });
  return drawn === null ? fail({ why: 'damaged' }) : ok({ bytes: drawn, format, width, height });
}

const isTaken = (format: string): format is Format => Object.hasOwn(again, format);
