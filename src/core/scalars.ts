import { z } from 'zod';
import { isZone, lastZoneYear } from './zones';

/** A calendar date, YYYY-MM-DD, within the years of the zone data. */
export const isoDate = z.string().regex(/^\d{4}-\d{2}-\d{2}$/).refine((text) => {
  const at = new Date(`${text}T00:00:00Z`);
  return !Number.isNaN(at.getTime()) && at.toISOString().startsWith(text) && at.getUTCFullYear() <= lastZoneYear && at.getUTCFullYear() >= 1970;
});
/** A time of day, HH:mm (24 h). */
export const timeOfDay = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/);
/** A zone of the shipped IANA data. */
export const zoneName = z.string().refine(isZone);
/** An absolute http or https address. */
export const webAddress = z.url({ protocol: /^https?$/ }).max(2000);
