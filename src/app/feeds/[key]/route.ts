import { createHash } from 'node:crypto';
import { feedOf } from '@/desk/channels/feed-of';
import { theHouse } from '@/desk/house/the-house';

/** A feed by its address, with its mark: who has it already is told so (RFC 9110, section 13.1.2). */
export async function GET(request: Request, { params }: { params: Promise<{ key: string }> }): Promise<Response> {
  const { key } = await params;
  const feed = feedOf(theHouse(), key);
  if (feed === null) return new Response('There is no such feed.', { status: 404 });
  const etag = `"${createHash('sha256').update(feed.text).digest('base64url').slice(0, 27)}"`;
  const headers = { etag, 'cache-control': 'private, no-cache' };
  if (request.headers.get('if-none-match') === etag) return new Response(null, { status: 304, headers });
  return new Response(feed.text, { headers: { ...headers, 'content-type': feed.type } });
}
