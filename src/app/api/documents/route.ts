import { answered } from '@/app/who-asks';
import { addDocument, mostDocumentBytes } from '@/desk/records/add-document';
import { theHouse } from '@/desk/house/the-house';
import { readUpTo } from '../read-up-to';

export const dynamic = 'force-dynamic';

/** Takes a document in: the body is the file, `name` its name. */
export const POST = answered(async (doer, request: Request) => {
  const name = new URL(request.url).searchParams.get('name') ?? 'document';
  const added = await addDocument(theHouse(), doer, name, await readUpTo(request, mostDocumentBytes + 1));
  return added.ok
    ? Response.json(added.value, { status: 201 })
    : Response.json({ message: added.error }, { status: 422 });
});
