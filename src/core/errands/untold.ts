import type { Operation } from '../listing/operations';
import { listedField, splitKey, type ShownValue } from '../listing/shown';
import { noticePart } from '../listing/parts';
import type { Notice } from '../record/record';
import type { SurveyedListing } from './surveyed';

/** What whoever holds a ticket has to know, by the field that says it: in words, and as a post says it. */
const ofHolders: Readonly<Record<string, { name: string; post: string }>> = {
  start: { name: 'the start', post: 'It starts at {{ start }}.' },
  doors: { name: 'the doors', post: 'Doors open at {{ doors }}.' },
  place: { name: 'the place', post: 'It takes place in {{ room }}, {{ venue }}.' },
};
const off = { name: 'that it is cancelled', post: 'It is cancelled.' };

/** A post for those who bought, drafted: what is so now, in words that follow the record. */
export function holdersPost(what: readonly string[]): string {
  const lines = Object.values(ofHolders).filter(({ name }) => what.includes(name));
  const isOff = what.includes(off.name);
  return [
    '{{ title }}, {{ date }}.',
    ...(isOff ? [off] : lines).map(({ post }) => post),
    isOff ? '' : 'Tickets stay valid.',
  ]
    .filter((part) => part !== '')
    .join(' ');
}

/**
 * What those who bought by a listing have to know of what changes, and what the channel does not tell them: in words,
 * once each; empty where nobody bought, or the step itself tells them.
 *
 * @param op how it goes; `null`: it stays as it is there, and nothing goes
 */
export function untoldOf(
  { lock, rules }: Pick<SurveyedListing, 'lock' | 'rules'>,
  op: Operation | null,
  changes: readonly { key: string; after: ShownValue | null }[],
): string[] {
  if (lock.sold === 0 || tellsBuyers(rules, op)) return [];
  return [
    ...new Set(
      changes.flatMap(({ key, after }) => {
        const { field } = splitKey(key);
        if (field === listedField) return after?.kind === 'state' && after.is === 'cancelled' ? [off.name] : [];
        return ofHolders[field]?.name ?? [];
      }),
    ),
  ];
}

/** True where a step of a channel tells those who bought there. */
export function tellsBuyers(
  { operations }: Pick<SurveyedListing['rules'], 'operations'>,
  op: Operation | null,
): boolean {
  return operations.some((row) => row.op === op && row.tells === 'buyers');
}

/** True where a part of a record's listings is a notice that tells those who bought. */
export function tellsHolders(notices: readonly Notice[], part: number): boolean {
  return notices.some(({ id, holders }) => holders && noticePart(id) === part);
}
