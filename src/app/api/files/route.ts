import { answered } from '@/app/who-asks';
import { z } from 'zod';
import { zoneName } from '@/core/base/scalars';
import { fileJobs, receiveFile } from '@/desk/files/jobs';
import { theHouse } from '@/desk/house/the-house';

export const dynamic = 'force-dynamic';

const askedSchema = z.object({ name: z.string().min(1).max(300), zone: zoneName.nullable() });

/** The files that were read lately. */
export const GET = answered((doer) => {
  return Response.json(fileJobs(doer));
});

/**
 * Takes a file of events in: the body is the file, as it is; `name` its name, `zone` the zone of rows whose place does
 * not tell it.
 */
export const POST = answered(async (doer, request: Request) => {
  const query = new URL(request.url).searchParams;
  const asked = askedSchema.safeParse({ name: query.get('name') ?? '', zone: query.get('zone') || null });
  if (!asked.success)
    return Response.json({ message: 'Give the file’s name, and a zone of the IANA data or none.' }, { status: 400 });
  const length = Number(request.headers.get('content-length') ?? NaN);
  const received = await receiveFile(
    theHouse(),
    doer,
    asked.data.name,
    request.body,
    Number.isNaN(length) ? null : length,
    { zone: asked.data.zone },
  );
  return received.ok
    ? Response.json(received.value, { status: 202 })
    : Response.json({ message: received.error.message }, { status: received.error.status });
});
