import { answered } from '@/app/who-asks';
import { issueWords } from '@/core/base/issue-words';
import { manyView, manyWishSchema } from '@/desk/records/many';
import { refusalWords } from '@/desk/house/refusal';
import { theHouse } from '@/desk/house/the-house';
import type { ManyLine } from '@/views/many';
import { readUpTo } from '../read-up-to';

export const dynamic = 'force-dynamic';

/** Longest wish, in bytes: as many ids as are taken at once, and a full text. */
const mostBytes = 400_000;

/**
 * What an edit of many events does, before it is saved: a line of JSON for each step that it comes on, the last with
 * what came of it.
 */
export const POST = answered(async (doer, request: Request) => {
  const wish = manyWishSchema.safeParse(jsonOf((await readUpTo(request, mostBytes)).toString('utf8')));
  if (!wish.success) {
    const messages = wish.error.issues.map(issueWords);
    return Response.json({ kind: 'stopped', messages } satisfies ManyLine, { status: 400 });
  }
  const lines = manyView(theHouse(), doer, wish.data);
  const text = new TextEncoder();
  const put = (line: ManyLine) => text.encode(`${JSON.stringify(line)}\n`);
  const stream = new ReadableStream<Uint8Array>({
    async pull(controller) {
      try {
        const { done, value } = await lines.next();
        if (done === true) return controller.close();
        controller.enqueue(put(value));
      } catch (error) {
        const words = refusalWords(error);
        if (words === null) throw error;
        controller.enqueue(put({ kind: 'stopped', messages: [words] }));
        controller.close();
      }
    },
    async cancel() {
      await lines.return(undefined);
    },
  });
  return new Response(stream, {
    headers: { 'content-type': 'application/x-ndjson', 'cache-control': 'no-store, no-transform' },
  });
});

/** What a text says as JSON; `null`: it is none. */
function jsonOf(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}
