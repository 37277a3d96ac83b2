import { z } from 'zod';
import { answered } from '@/app/who-asks';
import { areaMap } from '@/desk/tours/tour-map';
import { mostZoom } from '@/views/tours';

const degrees = (most: number) => z.coerce.number().min(-most).max(most);
const askedSchema = z.object({
  lat: degrees(90),
  lon: degrees(180),
  zoom: z.coerce.number().int().min(0).max(mostZoom),
});

/** The land around a point, to be drawn. */
export const GET = answered((_, request) => {
  const asked = askedSchema.safeParse(Object.fromEntries(new URL(request.url).searchParams));
  if (!asked.success) return Response.json({ message: 'A map wants lat, lon and zoom.' }, { status: 400 });
  const { zoom, ...point } = asked.data;
  return Response.json(areaMap(point, zoom));
});
