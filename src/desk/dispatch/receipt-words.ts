import { z } from 'zod';
import { operations, operationWords } from '@/core/listing/operations';
import { momentWords } from '@/core/dates/date-words';
import type { ReceiptLine } from '@/views/dispatch';
import { outsideErrorKinds, outsideErrorWords } from '@/core/errands/retry';

const detailSchema = z.looseObject({
  kind: z.enum(outsideErrorKinds).optional(),
  message: z.string().optional(),
  why: z.string().optional(),
  until: z.number().optional(),
  looks: z.number().optional(),
  places: z.array(z.string()).optional(),
  op: z.enum(operations).optional(),
  tells: z.string().optional(),
  /** How many were written to, where that is known. */
  told: z.number().nullish(),
  revision: z.number().optional(),
  /** Who saved what was sent in place of what was seen. */
  followed: z.string().optional(),
  remote: z.looseObject({ id: z.string(), publicUrl: z.string().nullish() }).optional(),
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
  detail: Readonly<Record<string, unknown>>;
}): ReceiptLine {
  const read = detailSchema.safeParse(detail);
  const d = read.success ? read.data : {};
  return { id, at, outcome, words: wordsOf(outcome, d) };
}

/** `: 212 buyers were written to` */
function toldWords({ tells, told }: z.infer<typeof detailSchema>): string {
  if (tells === undefined || tells === 'nobody') return '';
  return told == null ? `: ${tells} were told` : `: ${told} ${told === 1 ? 'buyer was' : 'buyers were'} written to`;
}

function wordsOf(outcome: string, d: z.infer<typeof detailSchema>): string {
  switch (outcome) {
    case 'done':
    case 'done in part':
      if (d.op === 'remove')
        return `deleted there, and not found after that: ${d.remote?.publicUrl ?? d.remote?.id ?? '?'}`;
      return `taken by the channel as ${d.remote?.id ?? '?'}${d.followed === undefined ? '' : `, as revision ${d.revision ?? '?'} by ${d.followed} says, saved after the yes`}`;
    case 'again':
    case 'refused':
      return `${d.message ?? ''}. ${d.kind ? outsideErrorWords[d.kind] : ''}`;
    case 'found':
      return `no answer had come; it was asked for and stands at ${(d.places ?? []).join(' and ')}`;
    case 'step':
      return `${d.op ? operationWords[d.op].toLowerCase() : 'a step'} is done, and stays so whatever becomes of the rest${toldWords(d)}`;
    case 'twin down':
      return `the second place, ${(d.places ?? []).join(' and ')}, was taken down`;
    case 'not found':
      return `no answer had come; it was asked for ${d.looks ?? 2} times and is not there`;
    case 'too late':
      return 'this process did not lead any more when the answer came: the channel is read instead';
    case 'waits':
      return 'waited for the ticket link';
    case 'held':
      return `${d.why ?? 'held'} until ${d.until === undefined ? '?' : `${momentWords(d.until, 'UTC')} UTC`}`;
    default:
      return d.why ?? outcome;
  }
}
