import Papa from 'papaparse';
import type { z } from 'zod';
import { OutsideError } from './http';

/**
 * The rows of an answer in CSV (RFC 4180, with a header). A row that is no row is an error of its own: nothing is
 * guessed.
 */
export function rowsOf<T>(csv: string, schema: z.ZodType<T>, what: string): T[] {
  const { data, errors } = Papa.parse<unknown>(csv, { header: true, skipEmptyLines: true });
  const broken = errors.find((error) => error.type !== 'Delimiter');
  if (broken) throw new OutsideError('invalid', `${what}: line ${(broken.row ?? 0) + 2} is no row (${broken.code})`);
  return data.map((row, i) => {
    const read = schema.safeParse(row);
    if (!read.success) throw new OutsideError('invalid', `${what}: line ${i + 2} has an unexpected shape`);
    return read.data;
  });
}
