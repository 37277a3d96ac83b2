import { equalValues } from '@/core/listing/compare';
import type { Change } from '@/core/errands/plan';
import type { Shown, ShownValue } from '@/core/listing/shown';
import { tracked } from '@/core/listing/ticket-link';
import type { Listing } from '@/store/listings';

/** Puts the links that upstream channels have given by now in the place of those that were awaited. */
export function fillAwaited(
  changes: readonly Change[],
  links: ReadonlyMap<string, string>,
): Change[] | { missing: string } {
  const out: Change[] = [];
  for (const change of changes) {
    if (change.after?.kind !== 'awaited') {
      out.push(change);
      continue;
    }
    const href = links.get(change.after.from);
    if (href === undefined) return { missing: change.after.from };
    out.push({
      ...change,
      after: {
        kind: 'url',
        href: change.after.track === null ? href : tracked(href, change.after.track.name, change.after.track.value),
      },
    });
  }
  return out;
}

/** Fields with changes laid over them; a change to nothing takes the field out. */
export function withChanges(shown: Shown, changes: readonly Change[]): Shown {
  const out: Shown = { ...shown };
  for (const { key, after } of changes) {
    if (after === null) delete out[key];
    else out[key] = after;
  }
  return out;
}

/**
 * The whole listing as an amendment writes it: what stands there now, by our last reading where it is newer than
 * our last sending, with the changes over it. So a group that must be written whole keeps what somebody else
 * changed in it and nobody has decided on yet.
 */
export function amended(listing: Listing, changes: readonly Change[]): Shown {
  const readSince = listing.observedAt !== null && listing.observedAt >= (listing.sentAt ?? 0);
  const standing = readSince ? { ...listing.sent, ...listing.observed } : { ...listing.sent };
  return withChanges(standing, changes);
}

/** What is left to do when some of a change may already have been done. */
export type Remaining = { kind: 'send'; changes: Change[] } | { kind: 'conflict'; keys: string[] };

/**
 * Holds the wished changes against what the channel shows. Those already there are left out; one whose field shows
 * neither the old nor the new value was changed by somebody else.
 */
export function remaining(changes: readonly Change[], observed: Shown): Remaining {
  const open = changes.filter(({ key, after }) => !same(after, observed[key]));
  const odd = open.filter(({ key, before }) => !same(before, observed[key]));
  return odd.length > 0 ? { kind: 'conflict', keys: odd.map((one) => one.key) } : { kind: 'send', changes: open };
}

function same(value: ShownValue | null, observed: ShownValue | undefined): boolean {
  if (value === null || observed === undefined) return value === null && observed === undefined;
  return equalValues(value, observed);
}
