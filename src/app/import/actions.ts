'use server';

import { z } from 'zod';
import { isZone } from '@/core/zones';
import type { Result } from '@/core/result';
import { importEvents, type ImportReport } from '@/desk/import-events';
import { actor, theHouse } from '@/desk/the-house';

const inputSchema = z.tuple([z.string().max(300), z.string(), z.string().refine(isZone)]);

/** Reads a CSV, iCalendar or JSON file of events. */
export async function importAction(...input: [string, string, string]): Promise<Result<ImportReport, string>> {
  const [fileName, text, zone] = inputSchema.parse(input);
  return importEvents(theHouse(), fileName, text, zone, actor());
}
