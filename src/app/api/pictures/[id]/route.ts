import { answered } from '@/app/who-asks';
import { z } from 'zod';
import { picturePreview } from '@/desk/records/picture-preview';
import { theHouse } from '@/desk/house/the-house';

export const dynamic = 'force-dynamic';

const widthSchema = z.coerce.number().int().min(16).max(2400).catch(900);

/** A picture drawn small, for the screen. Content never changes under an id, so it may be kept for good. */
export const GET = answered(async (doer, request: Request, { params }: { params: Promise<{ id: string }> }) => {
  const width = widthSchema.parse(new URL(request.url).searchParams.get('width'));
  const bytes = await picturePreview(theHouse(), doer, (await params).id, width);
  if (bytes === null) return new Response('no such picture', { status: 404 });
  return new Response(bytes, {
    headers: { 'content-type': 'image/jpeg', 'cache-control': 'private, max-age=31536000, immutable' },
  });
});
