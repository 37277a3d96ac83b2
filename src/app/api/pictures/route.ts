import { answered } from '@/app/who-asks';
import { z } from 'zod';
import { offeredPictures } from '@/desk/directory/picture-shelf';
import { addPicture, mostPictureBytes } from '@/desk/records/add-picture';
import { theHouse } from '@/desk/house/the-house';
import { readUpTo } from '../read-up-to';

export const dynamic = 'force-dynamic';

/** Takes a picture in: the body is the file, `name` its name. */
export const POST = answered(async (doer, request: Request) => {
  const name = new URL(request.url).searchParams.get('name') ?? 'picture';
  const bytes = await readUpTo(request, mostPictureBytes + 1);
  const added = await addPicture(theHouse(), doer, name, bytes);
  if (!added.ok) return Response.json({ message: added.error }, { status: 422 });
  const { id, width, height } = added.value;
  return Response.json({ id, width, height }, { status: 201 });
});

const findSchema = z.string().max(200).default('');
/** The pictures that the house keeps, the newest first; `find` narrows them by name, credit and description. */
export const GET = answered((doer, request: Request) => {
  const find = findSchema.safeParse(new URL(request.url).searchParams.get('find') ?? undefined);
  if (!find.success) return Response.json({ message: 'Look for at most 200 characters.' }, { status: 400 });
  return Response.json({ pictures: offeredPictures(theHouse(), doer, find.data) });
});
