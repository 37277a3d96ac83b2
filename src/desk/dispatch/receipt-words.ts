import { z } from 'zod';
import { channelWords, momentWords } from '@/core/dates/date-words';
import { outsideErrorKinds, outsideErrorWords } from '@/core/errands/retry';

/** A receipt for the eye. */
export interface ReceiptLine {
  id: number;
  at: number;
  outcome: string;
  words: string;
}

const detailSchema = z.looseObject({
  kind: z.enum(outsideErrorKinds).optional(),
  message: z.string().optional(),
  why: z.string().optional(),
  for: z.string().optional(),
  until: z.number().optional(),
  remote: z.looseObject({ id: z.string() }).optional(),
});

/** Puts words to a receipt as it was written. */
export function receiptWords({
  id,
  at,
  outcome,
  detail,
}: {
  id: number;
  at: number;
  outcome: string;
  detail: string;
}): ReceiptLine {
  const read = detailSchema.safeParse(JSON.parse(detail));
  const d = read.success ? read.data : {};
  return { id, at, outcome, words: wordsOf(outcome, d) };
}

function wordsOf(outcome: string, d: z.infer<typeof detailSchema>): string {
  switch (outcome) {
    case 'done':
      return `taken by the channel as ${d.remote?.id ?? '?'}`;
    case 'again':
    case 'refused':
      return `${d.message ?? ''}. ${d.kind ? outsideErrorWords[d.kind] : ''}`;
    case 'waits':
      return `waits for the ticket link from ${channelWords(d.for ?? 'upstream')}`;
    case 'held':
      return `${d.why ?? 'held'} until ${d.until === undefined ? '?' : `${momentWords(d.until, 'UTC')} UTC`}`;
    default:
      return d.why ?? outcome;
  }
}
