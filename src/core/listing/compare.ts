import { cleanHtml } from '../words/markup';
import { listedField, type Shown, type ShownValue } from './shown';
import type { Instant } from '../base/zones';

/** What holding one field's three states against each other says. */
export type Outcome =
  'same' | 'already-there' | 'to-send' | 'drifted' | 'at-odds' | 'not-yet' | 'late' | 'lapsing' | 'not-placed';

/** One field over its three states; an absent value is `undefined`. */
export interface FieldComparison {
  key: string;
  wanted: ShownValue | undefined;
  sent: ShownValue | undefined;
  observed: ShownValue | undefined;
  outcome: Outcome;
}

/** What is known of a listing on its channel. */
export interface ListingState {
  /** What was last sent; `null` before the first sending. */
  sent: Shown | null;
  /** What was shown before the last sending, to tell "not yet" from "drifted". */
  previous: Shown | null;
  observed: Shown | null;
  sentAt: Instant | null;
  observedAt: Instant | null;
  /** When the channel lets the field lapse that its rules name; `null`: never, or not known. */
  lapsesAt: Instant | null;
}

export interface CompareOptions {
  now: Instant;
  /** The channel's usual delay, in milliseconds. */
  delayMs: number;
  /** Fields that the channel is known to drop. */
  dropped: ReadonlySet<string>;
  /** The field that lapses, from how long before that on it is to be renewed, and whether it is to be. */
  lapse: { field: string; leadMs: number; renew: boolean } | null;
}

/**
 * Holds what is wanted, what was sent and what was observed against each other, field by field. Total and
 * deterministic; `compare(x, x, x)` is the same everywhere.
 */
export function compareListing(wanted: Shown, state: ListingState, options: CompareOptions): FieldComparison[] {
  return fieldKeys(wanted, state).map((key) => {
    const [w, s, o] = [wanted[key], state.sent?.[key], state.observed?.[key]];
    return { key, wanted: w, sent: s, observed: o, outcome: outcomeOf(key, w, s, o, state, options) };
  });
}

/** A listing that is not, or must not be, public is compared by that fact alone. */
function fieldKeys(wanted: Shown, state: ListingState): string[] {
  const off = (shown: Shown | null) => shown !== null && isOff(shown[listedField]);
  if (off(wanted) || off(state.observed)) return [listedField];
  return [...new Set([...Object.keys(wanted), ...Object.keys(state.sent ?? {}), ...Object.keys(state.observed ?? {})])];
}

function isOff(value: ShownValue | undefined): boolean {
  return value?.kind === 'flag' && !value.on;
}

function outcomeOf(
  key: string,
  w: ShownValue | undefined,
  s: ShownValue | undefined,
  o: ShownValue | undefined,
  state: ListingState,
  { now, delayMs, dropped, lapse }: CompareOptions,
): Outcome {
  if (state.sent === null) return 'not-placed';
  const same = equalOrAbsent(w, s);
  // What lapses of itself is neither drift nor delay: from some time before on, it is to be renewed.
  if (
    lapse?.field === key &&
    same &&
    w !== undefined &&
    !isOff(w) &&
    state.lapsesAt !== null &&
    now >= state.lapsesAt - lapse.leadMs
  )
    return lapse.renew ? 'lapsing' : 'same';
  const due = now - (state.sentAt ?? now) > delayMs;
  const readSince = state.observedAt !== null && state.sentAt !== null && state.observedAt >= state.sentAt;
  if (!readSince) return same ? (due ? 'late' : 'not-yet') : 'to-send';
  if (dropped.has(key.split('@')[0] ?? key) && o === undefined) return same ? 'same' : 'to-send';
  if (equalOrAbsent(s, o)) return same ? 'same' : 'to-send';
  if (equalOrAbsent(w, o)) return 'already-there';
  const stale = equalOrAbsent(state.previous?.[key], o);
  if (same) return stale ? (due ? 'late' : 'not-yet') : 'drifted';
  return stale && !due ? 'to-send' : 'at-odds';
}

/**
 * What counts as "before the last sending" once a reading is in: a field that has been seen as sent is settled, and
 * showing its older value again would be drift, not delay.
 */
export function settledPrevious(state: ListingState, observed: Shown): Shown | null {
  if (state.sent === null || state.previous === null) return state.previous;
  const previous: Shown = { ...state.previous };
  for (const key of new Set([...Object.keys(state.sent), ...Object.keys(previous)])) {
    const sent = state.sent[key];
    if (!equalOrAbsent(sent, observed[key])) continue;
    if (sent === undefined) delete previous[key];
    else previous[key] = sent;
  }
  return previous;
}

function equalOrAbsent(a: ShownValue | undefined, b: ShownValue | undefined): boolean {
  if (a === undefined || b === undefined) return a === b;
  return equalValues(a, b);
}

/** True where two shown values mean the same: moments not texts, money by value, markup by meaning. */
export function equalValues(a: ShownValue, b: ShownValue): boolean {
  switch (a.kind) {
    case 'text':
      return b.kind === 'text' && foldText(a.text) === foldText(b.text);
    case 'rich':
      return b.kind === 'rich' && (a.html === b.html || cleanHtml(a.html) === cleanHtml(b.html));
    case 'instant':
      return b.kind === 'instant' && a.at === b.at && a.zone === b.zone;
    case 'price':
      return (
        b.kind === 'price' && a.minor === b.minor && a.currency === b.currency && foldText(a.name) === foldText(b.name)
      );
    case 'count':
      return b.kind === 'count' && a.n === b.n;
    case 'flag':
      return b.kind === 'flag' && a.on === b.on;
    case 'url':
      return b.kind === 'url' && foldUrl(a.href) === foldUrl(b.href);
    case 'picture':
      return b.kind === 'picture' && a.name === b.name && foldText(a.alt) === foldText(b.alt);
    case 'awaited':
      return b.kind === 'awaited' && a.from === b.from;
    default:
      return a satisfies never;
  }
}

function foldText(text: string): string {
  return text
    .normalize('NFC')
    .replace(/\r\n/g, '\n')
    .replace(/[ \t\u00a0]+/g, ' ')
    .replace(/ ?\n ?/g, '\n')
    .trim();
}

/** An address in canonical form (RFC 3986, section 6.2.2): case of host, default port, empty path. */
function foldUrl(href: string): string {
  try {
    const url = new URL(href);
    return url.href.replace(/\/$/, '');
  } catch {
    return href.trim();
  }
}
