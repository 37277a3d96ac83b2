import { addPicture, mostPictureBytes } from '@/desk/records/add-picture';
import { actor, theHouse } from '@/desk/house/the-house';

export const dynamic = 'force-dynamic';

/** Takes a picture in: the body is the file, `name` its name. */
export async function POST(request: Request) {
  const site = request.headers.get('sec-fetch-site');
  if (site !== null && site !== 'same-origin')
    return Response.json({ message: 'Pictures are only taken from this application.' }, { status: 403 });
  const name = new URL(request.url).searchParams.get('name') ?? 'picture';
  const bytes = await readUpTo(request, mostPictureBytes + 1);
  const added = await addPicture(theHouse(), name, bytes, actor());
  if (!added.ok) return Response.json({ message: added.error }, { status: 422 });
  const { id, width, height } = added.value;
  return Response.json({ id, width, height }, { status: 201 });
}

/** Reads a body, but no more than `most` bytes of it. */
async function readUpTo(request: Request, most: number): Promise<Buffer> {
  const parts: Uint8Array[] = [];
  let length = 0;
  const reader = request.body?.getReader();
  while (reader && length < most) {
    const { done, value } = await reader.read();
    if (done) break;
    parts.push(value);
    length += value.length;
  }
  await reader?.cancel();
  return Buffer.concat(parts);
}
