import { answered } from '@/app/who-asks';
import { recordIdSchema } from '@/core/base/ids';
import { z } from 'zod';
import { exportEvents, exportFormats } from '@/desk/files/export-events';
import { season } from '@/desk/records/season';
import { theHouse } from '@/desk/house/the-house';
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
  const file = exportEvents(house, doer, ids, format);
  return new Response(file.text, {
    headers: {
      'content-type': file.type,
      'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(file.name)}`,
      'cache-control': 'no-store',
    },
  });
});
