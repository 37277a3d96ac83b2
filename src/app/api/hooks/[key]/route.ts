import { takeCall } from '@/desk/channels/take-call';
import { theHouse } from '@/desk/house/the-house';
import { readUpTo } from '../../read-up-to';

const largestCall = 100_000;

/** A call that a channel makes to us, signed: it is answered at once, and what it is about is read by ourselves. */
export async function POST(request: Request, { params }: { params: Promise<{ key: string }> }): Promise<Response> {
  const { key } = await params;
  const bytes = await readUpTo(request, largestCall + 1);
  if (bytes.length > largestCall) return new Response('too large', { status: 413 });
  const signature = request.headers.get('x-signature') ?? '';
  const answer = takeCall(theHouse(), key, signature, bytes.toString('utf8'));
  return new Response(null, { status: answer === 'taken' ? 202 : answer === 'refused' ? 401 : 404 });
}
