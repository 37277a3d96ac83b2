import { sameZone, type Instant } from '../base/zones';
import { cleanHtml } from '../words/markup';
import { isDown, isKeptDraft, isOff, listedField, splitKey, type Shown, type ShownValue } from './shown';

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
  /** What was sent is not seen though the usual delay has passed. A fact beside the outcome: it holds nothing up. */
  late: boolean;
}

/** Moments by field: when each was last sent. */
type Moments = Readonly<Record<string, Instant>>;

/** What is known of a listing on its channel. Moments are of a monotonic clock. */
export interface ListingState {
  /** What was last sent, field by field; `null` before the first sending. */
  sent: Shown | null;
  /** When each field was last sent; a field that is missing here goes by `sentAt`. */
  sentTimes: Moments;
  /** What was shown before the last sending, to tell "not yet" from "drifted". */
  previous: Shown | null;
  observed: Shown | null;
  /** When something was last sent. */
  sentAt: Instant | null;
  /** When the request began whose answer was last observed: it says nothing of what was sent later. */
  observedAt: Instant | null;
  /** When the channel lets the field lapse that its rules name; `null`: never, or not known. */
  lapsesAt: Instant | null;
  /** It was looked for twice, by its id and by our reference, and is not there any more. */
  gone: boolean;
  /** A writing was begun whose outcome is not known, and when: the channel is asked before anything more is done. */
  pendingOutcome: { since: Instant } | null;
}

/** How a listing stands of which nothing was ever sent. */
export const neverSent: ListingState = {
  sent: null,
  sentTimes: {},
  previous: null,
  observed: null,
  sentAt: null,
  observedAt: null,
  lapsesAt: null,
  gone: false,
  pendingOutcome: null,
};

export interface CompareOptions {
  now: Instant;
  /** The channel's usual delay, in milliseconds. */
  delayMs: number;
  /** Fields that the channel is known to drop. */
  dropped: ReadonlySet<string>;
  /** Fields that went out once and for all: what is seen of them later is neither drift nor delay. */
  settled?: ReadonlySet<string>;
  /** A person there looks at what was changed again: until then it is out of sight, and that is no drift. */
  looks?: boolean;
  /** The field that lapses, from how long before that on it is to be renewed, and whether it is to be. */
  lapse: { field: string; leadMs: number; renew: boolean } | null;
}

/**
 * Holds what is wanted, what was sent and what was observed against each other, field by field. Total and
 * deterministic; `compare(x, x, x)` is the same everywhere.
 */
export function compareListing(wanted: Shown, state: ListingState, options: CompareOptions): FieldComparison[] {
  // Of what was never sent nothing is to be told apart.
  if (state.sent === null && state.observed === null)
    return (isDown(wanted) ? [listedField] : Object.keys(wanted)).map((key) => ({
      key,
      wanted: wanted[key],
      sent: undefined,
      observed: undefined,
      outcome: 'not-placed',
      late: false,
    }));
  return fieldKeys(wanted, state).map((key) => {
    const [w, s, o] = [wanted[key], state.sent?.[key], state.observed?.[key]];
    const blind = key !== listedField && off(state.observed) && !isKeptDraft(wanted);
    return { key, wanted: w, sent: s, observed: o, ...outcomeOf(key, w, s, o, blind, state, options) };
  });
}

const off = (shown: Shown | null) => shown !== null && isOff(shown[listedField]);

/**
 * A listing that must not be public is compared by that fact alone; one that is not seen by that, and by what is wanted
 * otherwise than it was sent. One that is kept a draft is seen by us, and compared whole.
 */
function fieldKeys(wanted: Shown, { sent, observed }: ListingState): string[] {
  const kept = isKeptDraft(wanted);
  if (isDown(wanted) || (!kept && off(observed) && (sent === null || off(sent)))) return [listedField];
  if (!kept && off(observed)) {
    const moved = Object.keys({ ...wanted, ...sent }).filter((key) => !equalOrAbsent(wanted[key], sent?.[key]));
    return [...new Set([listedField, ...moved])];
  }
  return [...new Set([...Object.keys(wanted), ...Object.keys(sent ?? {}), ...Object.keys(observed ?? {})])];
}

type Verdict = Pick<FieldComparison, 'outcome' | 'late'>;

function outcomeOf(
  key: string,
  w: ShownValue | undefined,
  s: ShownValue | undefined,
  o: ShownValue | undefined,
  blind: boolean,
  state: ListingState,
  { now, delayMs, dropped, settled, looks, lapse }: CompareOptions,
): Verdict {
  const plain = (outcome: Outcome): Verdict => ({ outcome, late: false });
  if (state.sent === null) return plain('not-placed');
  const same = equalOrAbsent(w, s);
  if (settled?.has(splitKey(key).field)) return plain(same ? 'same' : 'to-send');
  // What lapses of itself is neither drift nor delay: from some time before on, it is to be renewed.
  if (
    lapse?.field === key &&
    same &&
    w?.kind === 'flag' &&
    w.on &&
    state.lapsesAt !== null &&
    now >= state.lapsesAt - lapse.leadMs
  )
    return plain(lapse.renew ? 'lapsing' : 'same');
  const sentAt = state.sentTimes[key] ?? state.sentAt;
  const late = sentAt !== null && now - sentAt > delayMs;
  const readSince = state.observedAt !== null && (sentAt === null || state.observedAt >= sentAt);
  // What is not seen at all shows nothing of its other fields.
  if (blind) return plain(same ? 'same' : 'to-send');
  if (!readSince) return { outcome: same ? (late ? 'late' : 'not-yet') : 'to-send', late };
  if (o === undefined && dropped.has(splitKey(key).field)) return plain(same ? 'same' : 'to-send');
  if (equalOrAbsent(s, o)) return plain(same ? 'same' : 'to-send');
  if (equalOrAbsent(w, o)) return plain(isToCome(key, s, o, state.previous) ? 'to-send' : 'already-there');
  // The untouched value of before: late or not, a new wish goes over it.
  if (equalOrAbsent(state.previous?.[key], o)) return { outcome: same ? (late ? 'late' : 'not-yet') : 'to-send', late };
  const lately = state.sentAt !== null && now - state.sentAt <= delayMs;
  if (looks === true && key === listedField && lately && isOff(o) && !isOff(s))
    return plain(same ? 'not-yet' : 'to-send');
  return plain(same ? 'drifted' : 'at-odds');
}

/**
 * True where what was sent to be seen was never seen there yet: that it is out of sight now is no sign that it will
 * stay so. What must not be seen is then taken back all the same.
 */
function isToCome(
  key: string,
  sent: ShownValue | undefined,
  observed: ShownValue | undefined,
  previous: Shown | null,
): boolean {
  return key === listedField && sent !== undefined && !isOff(sent) && isOff(observed) && isOff(previous?.[listedField]);
}

/** What a reading changes in what we hold to have been sent, and in what stood before. */
export interface Settled {
  sent: Shown | null;
  previous: Shown | null;
}

/**
 * A reading settles two things. A field that is seen as sent is settled: showing its older value again would be drift,
 * not delay. And what the record and the channel agree on without our sending counts as sent from now on.
 */
export function settle(state: ListingState, observed: Shown, wanted: Shown | null): Settled {
  if (state.sent === null) return { sent: null, previous: state.previous };
  const previous: Shown = { ...state.previous };
  const sent: Shown = { ...state.sent };
  const keep = (shown: Shown, key: string, value: ShownValue | undefined) => {
    if (value === undefined) delete shown[key];
    else shown[key] = value;
  };
  // Where it is not seen at all, nothing can be said of its other fields.
  const seen = !isOff(observed[listedField]) || (wanted !== null && isKeptDraft(wanted));
  const keys = new Set([...Object.keys(sent), ...Object.keys(previous), ...(seen ? Object.keys(observed) : [])]);
  for (const key of seen ? keys : [listedField]) {
    const value = observed[key];
    if (equalOrAbsent(sent[key], value)) keep(previous, key, sent[key]);
    else if (
      wanted !== null &&
      equalOrAbsent(wanted[key], value) &&
      (seen || key === listedField) &&
      !isToCome(key, sent[key], value, state.previous)
    ) {
      keep(sent, key, value);
      keep(previous, key, value);
    }
  }
  return { sent, previous };
}

/** True where two values, either of which may be absent, mean the same. */
export function equalOrAbsent(a: ShownValue | null | undefined, b: ShownValue | null | undefined): boolean {
  if (a === undefined || b === undefined || a === null || b === null) return (a ?? null) === (b ?? null);
  return equalValues(a, b);
}

/** True where two shown values mean the same: moments not texts, money by value, markup by meaning. */
export function equalValues(a: ShownValue, b: ShownValue): boolean {
  switch (a.kind) {
    case 'text':
      return b.kind === 'text' && sameText(a.text, b.text);
    case 'rich':
      return b.kind === 'rich' && (a.html === b.html || cleanHtml(a.html) === cleanHtml(b.html));
    case 'instant':
      // An instant is an instant; the zone counts only where both show one.
      return b.kind === 'instant' && a.at === b.at && (a.zone === '' || b.zone === '' || sameZone(a.zone, b.zone));
    case 'price':
      return b.kind === 'price' && a.minor === b.minor && a.currency === b.currency && sameText(a.name, b.name);
    case 'count':
      return b.kind === 'count' && a.n === b.n;
    case 'refs':
      return b.kind === 'refs' && a.any === b.any && [...a.refs].sort().join(' ') === [...b.refs].sort().join(' ');
    case 'file':
      return b.kind === 'file' && a.name === b.name;
    case 'flag':
      return b.kind === 'flag' && a.on === b.on;
    case 'state':
      // Whether it was never shown or taken down again, the public cannot tell.
      return b.kind === 'state' && (a.is === b.is || (hidden.has(a.is) && hidden.has(b.is)));
    case 'url':
      return b.kind === 'url' && (a.href === b.href || foldUrl(a.href) === foldUrl(b.href));
    case 'picture':
      return b.kind === 'picture' && a.name === b.name && sameText(a.alt, b.alt);
    case 'awaited':
      return b.kind === 'awaited' && a.from === b.from && a.gift === b.gift;
    default:
      return a satisfies never;
  }
}

const hidden: ReadonlySet<string> = new Set(['draft', 'closed']);

/** Most that is compared is the very same: it need not be folded. */
function sameText(a: string, b: string): boolean {
  return a === b || foldText(a) === foldText(b);
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
