import { answered } from '@/app/who-asks';
import { documentBytes } from '@/desk/records/add-document';
import { theHouse } from '@/desk/house/the-house';

export const dynamic = 'force-dynamic';

/** A document, to be kept as a file: it is never shown within the application. */
export const GET = answered(async (doer, _: Request, { params }: { params: Promise<{ id: string }> }) => {
  const bytes = await documentBytes(theHouse(), doer, (await params).id);
  if (bytes === null) return new Response('no such document', { status: 404 });
  const headers = {
    'content-type': 'application/octet-stream',
    'content-disposition': 'attachment',
    'x-content-type-options': 'nosniff',
    'cache-control': 'private, max-age=31536000, immutable',
  };
  return new Response(bytes, { headers });
});
