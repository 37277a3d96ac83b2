import { answered } from '@/app/who-asks';
import { z } from 'zod';
import { pointSchema } from '@/core/record/directory';
import { zoneName } from '@/core/base/scalars';
import { fileJob, readAgain, stopJob } from '@/desk/files/jobs';
import { theHouse } from '@/desk/house/the-house';

export const dynamic = 'force-dynamic';

interface Context {
  params: Promise<{ id: string }>;
}

const gone = () =>
  Response.json({ message: 'This file is not remembered any more. Choose it again.' }, { status: 404 });
const answersSchema = z.object({
  zone: zoneName.nullable(),
  answers: z
    .array(
      z.object({
        town: z.string().max(2_000),
        country: z.string().max(2_000),
        zone: zoneName,
        point: pointSchema.nullable(),
      }),
    )
    .max(500),
});

/** How far a file has been read, and what became of its rows. */
export const GET = answered(async (doer, _: Request, { params }: Context) => {
  const job = fileJob(doer, (await params).id);
  return job ? Response.json(job) : gone();
});

/** Stops reading a file: what was taken in until then stays. */
export const DELETE = answered(async (doer, _: Request, { params }: Context) => {
  const job = stopJob(doer, (await params).id);
  return job ? Response.json(job) : gone();
});

/** Reads a file once more, with answers to what was asked. */
export const POST = answered(async (doer, request: Request, { params }: Context) => {
  const asked = answersSchema.safeParse(await request.json().catch(() => null));
  if (!asked.success)
    return Response.json({ message: 'An answer is no zone of the IANA data. Pick one of the list.' }, { status: 400 });
  const again = readAgain(theHouse(), doer, (await params).id, asked.data);
  return again.ok
    ? Response.json(again.value, { status: 202 })
    : Response.json({ message: again.error }, { status: 409 });
});
