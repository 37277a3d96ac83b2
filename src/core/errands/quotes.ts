import type { Instant } from '../base/zones';
import { changedFacts } from '../words/change-words';
import type { ChangeGround } from './change-ground';

/** What quotes the old fact and is not on a channel: no sending of ours mends it. */
export type Quote =
  /** The event was taken out as a file: who has it goes by it. */
  | { kind: 'file'; at: Instant }
  /** A document that stands with the event: what is in it is not read. */
  | { kind: 'document'; id: string; name: string }
  /** Lines of the sale's sheet that were ticked and are to be gone through again. */
  | { kind: 'sheet'; lines: number };

/**
 * What else may quote the old fact: files that were taken out, documents put up with the event, ticked lines of the
 * sale's sheet. `handedOn`: when the event was last taken out as a file.
 */
export function quotesOf(before: ChangeGround, after: ChangeGround, handedOn: Instant | null): Quote[] {
  if (changedFacts(before.facts, after.facts).length === 0) return [];
  const here = new Set(before.content.documents.map(({ fileId }) => fileId));
  const documents = after.content.documents.filter(({ fileId }) => here.has(fileId));
  const lines = openLines(after) - openLines(before);
  return [
    ...(handedOn === null ? [] : [{ kind: 'file' as const, at: handedOn }]),
    ...documents.map(({ id, name, title }): Quote => ({ kind: 'document', id, name: title === '' ? name : title })),
    ...(lines > 0 ? [{ kind: 'sheet' as const, lines }] : []),
  ];
}

/** How many lines of the sale's sheet are open: the same sheet, whoever sells. */
function openLines({ listings }: ChangeGround): number {
  const open = listings.flatMap(({ findings }) =>
    findings.map((found) => (found.code === 'sheet-open' ? found.open : 0)),
  );
  return Math.max(0, ...open);
}
