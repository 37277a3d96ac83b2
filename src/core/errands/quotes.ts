import { listWords } from '../base/list-words';
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

/** What tells one quote of a change from another. */
export function quoteKey(quote: Quote): string {
  return quote.kind === 'document' ? `document ${quote.id}` : quote.kind;
}

/** What a quote is, in words: `the file taken out`, `the document House rules`. */
function quoteWords(quote: Quote): string {
  if (quote.kind === 'file') return 'the file that was taken out';
  if (quote.kind === 'document') return `the document ${quote.name}`;
  return `${quote.lines} ${quote.lines === 1 ? 'line' : 'lines'} of the sheet`;
}

/** What was said of what quotes the old fact, as a sentence for the logbook; `null`: there was nothing of that. */
export function saidOfQuotes(quotes: readonly Quote[], mended: ReadonlySet<string>): string | null {
  if (quotes.length === 0) return null;
  const [by, left] = [true, false].map((is) =>
    quotes.filter((quote) => mended.has(quoteKey(quote)) === is).map(quoteWords),
  );
  return [
    ...(by && by.length > 0 ? [`sees to what quotes the old fact: ${listWords(by)}`] : []),
    ...(left && left.length > 0 ? [`left what quotes the old fact as it is: ${listWords(left)}`] : []),
  ].join('; ');
}
