import { answered } from '@/app/who-asks';
import { recordIdSchema } from '@/core/base/ids';
import { z } from 'zod';
import { exportEvents, exportFormats, type ExportedFile } from '@/desk/files/export-events';
import { season } from '@/desk/records/season';
import { theHouse } from '@/desk/house/the-house';
import { readUpTo } from '../read-up-to';
import { inView, matches, views } from '@/ui/season-list/narrow';

export const dynamic = 'force-dynamic';

const askedSchema = z.object({
  format: z.enum(exportFormats),
  record: recordIdSchema.optional(),
  view: z.enum(views).default('upcoming'),
  find: z.string().max(200).default(''),
});

/** The events that the season shows, or one record, as a file. */
export const GET = answered((doer, request: Request) => {
  const asked = askedSchema.safeParse(Object.fromEntries(new URL(request.url).searchParams));
  if (!asked.success)
    return Response.json(
      { error: `Ask for format=${exportFormats.join(', ')}; with record=, or view= and find=.` },
      { status: 400 },
    );
  const { format, record, view, find } = asked.data;
  const house = theHouse();
  const ids =
    record === undefined
      ? season(house, doer)
          .rows.filter((row) => inView(row, view) && matches(row, find))
          .map((row) => row.id)
      : [record];
  return fileOf(exportEvents(house, doer, ids, format));
});

/** So many events are taken out by name at once; the list as a whole goes by its view. */
const mostNamed = 5_000;
/** Largest form, in bytes. */
const mostBytes = 120_000;
const chosenSchema = z.object({
  format: z.enum(exportFormats),
  ids: z
    .string()
    .transform((text) => text.split(',').filter((id) => id !== ''))
    .pipe(z.array(recordIdSchema).min(1).max(mostNamed)),
});

/** The events that were chosen, as a file: a form with `format`, and `ids` with commas between them. */
export const POST = answered(async (doer, request: Request) => {
  const body = new URLSearchParams((await readUpTo(request, mostBytes)).toString('utf8'));
  const asked = chosenSchema.safeParse(Object.fromEntries(body));
  if (!asked.success)
    return Response.json(
      { error: `Send a form with format=${exportFormats.join(', ')} and ids=, ${mostNamed} of them at most.` },
      { status: 400 },
    );
  return fileOf(exportEvents(theHouse(), doer, asked.data.ids, asked.data.format));
});

function fileOf(file: ExportedFile): Response {
  return new Response(file.text, {
    headers: {
      'content-type': file.type,
      'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(file.name)}`,
      'cache-control': 'no-store',
    },
  });
}
