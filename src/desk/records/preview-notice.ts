import { asks } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import { z } from 'zod';
import { channelIdSchema } from '@/core/base/ids';
import { fail, ok, type Result } from '@/core/base/result';
import { writeListing } from '@/core/listing/listing-codec';
import type { ShownValue } from '@/core/listing/shown';
import { shownSchema } from '@/core/listing/shown-schema';
import { isOutsideError } from '@/channels/kit/http';
import { clientOf } from '@/house/clients';
import { channelById, type House } from '@/house/house';
import { makeRendition } from '@/house/renditions';

const inputSchema = z.object({ channel: channelIdSchema, shown: shownSchema });
const pictureIdSchema = z.string().regex(/^[0-9a-f]{64}$/);
const pixels = z.number().int().min(0).max(20_000);
const cropSchema = z.object({ x: pixels, y: pixels, w: pixels.min(1), h: pixels.min(1) });

/** A notice as its readers will read it: HTML with its picture in it. Nothing is sent, nothing is asked of anybody. */
export async function previewNotice(house: House, doer: Doer, input: unknown): Promise<Result<string, string>> {
  asks(doer, 'previewNotice');
  const read = inputSchema.safeParse(input);
  if (!read.success) return fail('It cannot be shown as it stands. Put right what is marked, and look again.');
  const { channel: at, shown } = read.data;
  const channel = channelById(house, at);
  if (!channel) return fail('This channel is not there any more.');
  try {
    const { preview } = clientOf(house, channel.row.id);
    if (!preview) return fail(`${channel.rules.name} shows what it is sent as it is: its words are the preview.`);
    const html = await preview(writeListing(channel.rules, shown));
    const { picture } = shown;
    return ok(
      picture?.kind === 'picture' ? html.replaceAll(`cid:${picture.name}`, await dataOf(house, picture)) : html,
    );
  } catch (error) {
    if (isOutsideError(error)) return fail(error.message);
    if (error instanceof z.ZodError) return fail('It has no words yet, or no subject. Write them, and look again.');
    throw error;
  }
}

/** A picture as an address that holds all of it. What names no picture of the house is none. */
async function dataOf(house: House, { source, alt }: Extract<ShownValue, { kind: 'picture' }>): Promise<string> {
  const id = pictureIdSchema.safeParse(source?.pictureId).data;
  const crop = cropSchema.safeParse(source?.crop).data;
  const size = z.object({ width: pixels.min(1), height: pixels.min(1) }).safeParse(source).data;
  if (id === undefined || crop === undefined || size === undefined || size.width > 3_000) return '';
  const name = `${id.slice(0, 16)}-${crop.x}.${crop.y}.${crop.w}x${crop.h}-${size.width}.jpg`;
  const { bytes } = await makeRendition(house.folder, {
    kind: 'picture',
    name,
    alt,
    source: { pictureId: id, crop, ...size },
  });
  return `data:image/jpeg;base64,${Buffer.from(bytes).toString('base64')}`;
}
