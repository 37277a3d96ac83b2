'use server';

import { z } from 'zod';
import { findingWords } from '@/core/finding-words';
import type { Venue } from '@/core/directory';
import type { Result } from '@/core/result';
import { makeVenue } from '@/desk/make-venue';
import { saveRecord } from '@/desk/save-record';
import { actor, theHouse } from '@/desk/the-house';
import type { SaveAnswer } from '@/ui/record-form';

const saveSchema = z.object({ id: z.string().nullable(), base: z.number().int().min(0), content: z.unknown() });

/** Saves a record as its next revision. */
export async function saveRecordAction(input: unknown): Promise<SaveAnswer> {
  const { id, base, content } = saveSchema.parse(input);
  const saved = saveRecord(theHouse(), { id, base, content, actor: actor(), reason: '' });
  return saved.kind === 'stopped' ? { kind: 'stopped', messages: saved.findings.map(findingWords) } : saved;
}

/** Makes a venue while a record is edited. */
export async function makeVenueAction(input: unknown): Promise<Result<{ venue: Venue; roomId: string | null }, Record<string, string>>> {
  return makeVenue(theHouse(), input, actor());
}
