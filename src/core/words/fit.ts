import { countGraphemes, cutToFit } from '../base/graphemes';

/** In what a place counts a text: as people see it (UAX #29), as programs keep it (UTF-16 code units), or in words. */
export type CountIn = 'graphemes' | 'characters' | 'words';

/** The length of a text, counted so. */
export function countIn(text: string, unit: CountIn): number {
  switch (unit) {
    case 'graphemes':
      return countGraphemes(text);
    case 'characters':
      return text.length;
    case 'words':
      return text.match(/\S+/g)?.length ?? 0;
  }
}

/** A piece of a notice or short field, with its variants from long to short and what each is worth. */
export interface FitPart {
  id: string;
  /** What it is called to a person: `support act`. */
  label: string;
  required: boolean;
  /** What stands before it where it is not the first; the joint, where that is not said. */
  before?: string;
  variants: readonly { text: string; worth: number; label?: string }[];
}

/** How a channel counts. */
export interface FitRules {
  /** The most that there may be, counted in `unit`. */
  limit: number;
  unit: CountIn;
  /** What every link counts as; `null`: its own length. */
  linkLength: number | null;
  /** What stands between two parts. */
  joint: string;
  /** The whole ends with a full stop, where there is room for one and no link or hashtag ends it. */
  stop?: boolean;
}

/** The chosen set, with what was dropped or shortened and why. */
export type Fitted =
  | {
      ok: true;
      text: string;
      length: number;
      worth: number;
      dropped: { id: string; label: string; needs: number }[];
      shortened: { id: string; label: string; to: string }[];
    }
  | { ok: false; needs: number; limit: number };

const link = /https?:\/\/\S+/g;

/** Length as the channel counts it; every link counts as `linkLength`, where that is not `null`. */
export function countAs(text: string, linkLength: number | null, unit: CountIn): number {
  if (linkLength === null) return countIn(text, unit);
  return countIn(text.replace(link, ''), unit) + (text.match(link)?.length ?? 0) * linkLength;
}

/** `text` cut to what the channel counts as at most `limit`, between words. A text that fits comes back as it is. */
export function cutAs(text: string, limit: number, linkLength: number | null, unit: CountIn): string {
  const fits = (cut: string) => countAs(cut, linkLength, unit) <= limit;
  if (fits(text)) return text;
  // The most graphemes that can be kept: what is cut longer never counts as less.
  let [least, most] = [1, countGraphemes(text)];
  while (least < most) {
    const middle = Math.ceil((least + most) / 2);
    if (fits(cutToFit(text, middle))) least = middle;
    else most = middle - 1;
  }
  const cut = cutToFit(text, least);
  return fits(cut) ? cut : '';
}

interface Choice {
  worth: number;
  /** Index of the variant; -1: dropped. */
  pick: number;
}

/**
 * The set of variants with the highest total worth that fits: exact, not a cut. Of equal sets, the one that drops the
 * later part. What stands before a part counts with it; it is exact where the first part is required, or all parts have
 * the same before them. Where not even the shortest required parts fit, the answer says how many graphemes they need.
 * Dynamic programming over parts and room: parts × limit × variants steps.
 */
export function fit(parts: readonly FitPart[], rules: FitRules): Fitted {
  const used = parts
    .map((part) => ({ ...part, variants: part.variants.filter((variant) => variant.text !== '') }))
    .filter((part) => part.variants.length > 0);
  const joints = used.map((part) => countIn(part.before ?? rules.joint, rules.unit));
  const whole = wholeOf(used, rules);
  if (whole !== null) return whole;
  const lengths = used.map((part) =>
    part.variants.map((variant) => countAs(variant.text, rules.linkLength, rules.unit)),
  );
  // The first part has no joint before it: one joint more of room lets all parts be counted alike.
  const room = rules.limit + (joints[0] ?? 0);
  const table: (Choice | null)[][] = Array.from({ length: used.length + 1 }, () => []);
  for (let left = 0; left <= room; left += 1) (table[used.length] ??= [])[left] = { worth: 0, pick: -1 };
  for (let i = used.length - 1; i >= 0; i -= 1) {
    for (let left = 0; left <= room; left += 1)
      (table[i] ??= [])[left] = best(used[i], lengths[i] ?? [], joints[i] ?? 0, left, table[i + 1] ?? []);
  }
  if (!table[0]?.[room]) {
    const shortest = used.flatMap((part, i) =>
      part.required ? [{ length: Math.min(...(lengths[i] ?? [0])), joint: joints[i] ?? 0 }] : [],
    );
    const needs = shortest.reduce((sum, { length, joint }, i) => sum + length + (i === 0 ? 0 : joint), 0);
    return { ok: false, needs, limit: rules.limit };
  }
  return walk(used, lengths, table, room, joints, rules);
}

/** A sentence that ends has its stop already: another would stand behind it. */
const ended = /[.!?…]$/;

/** The chosen texts with what stands before each, and the stop at the end. */
function joined(chosen: readonly { text: string; before: string | undefined }[], rules: FitRules): string {
  let all = '';
  for (const { text, before = rules.joint } of chosen)
    all = all === '' ? text : `${all}${before.startsWith('.') && ended.test(all) ? before.slice(1) : before}${text}`;
  const open = rules.stop === true && all !== '' && !ended.test(all) && !/(?:https?:\/\/|#)\S+$/.test(all);
  return open && countAs(all, rules.linkLength, rules.unit) < rules.limit ? `${all}.` : all;
}

/** Where the worthiest of every part fits, nothing is to be weighed: no other set is worth more. */
function wholeOf(used: readonly FitPart[], rules: FitRules): Fitted | null {
  const { limit, linkLength, unit } = rules;
  const picks = used.map(({ variants }) => variants.reduce((a, b) => (b.worth > a.worth ? b : a)));
  // A part that is worth nothing may as well be left out: that is weighed.
  if (used.length === 0 || picks.some((pick, i) => pick.worth <= 0 || pick !== used[i]?.variants[0])) return null;
  const text = joined(
    picks.map(({ text }, i) => ({ text, before: used[i]?.before })),
    rules,
  );
  const length = countAs(text, linkLength, unit);
  if (length > limit) return null;
  return {
    ok: true,
    text,
    length,
    worth: picks.reduce((sum, pick) => sum + pick.worth, 0),
    dropped: [],
    shortened: [],
  };
}

function best(
  part: FitPart | undefined,
  lengths: readonly number[],
  joint: number,
  left: number,
  next: readonly (Choice | null)[],
): Choice | null {
  if (!part) return null;
  let found: Choice | null = null;
  part.variants.forEach((variant, pick) => {
    const rest = left - (lengths[pick] ?? 0) - joint;
    const after = rest >= 0 ? next[rest] : null;
    if (after && (found === null || variant.worth + after.worth > found.worth))
      found = { worth: variant.worth + after.worth, pick };
  });
  const without = part.required ? null : (next[left] ?? null);
  const taken = found as Choice | null;
  return without && (taken === null || without.worth > taken.worth) ? { worth: without.worth, pick: -1 } : taken;
}

function walk(
  parts: readonly FitPart[],
  lengths: readonly number[][],
  table: readonly (Choice | null)[][],
  room: number,
  joints: readonly number[],
  rules: FitRules,
): Fitted {
  const chosen: { text: string; before: string | undefined }[] = [];
  const dropped: { id: string; label: string; needs: number }[] = [];
  const shortened: { id: string; label: string; to: string }[] = [];
  let left = room;
  parts.forEach((part, i) => {
    const pick = table[i]?.[left]?.pick ?? -1;
    const variant = part.variants[pick];
    if (!variant) {
      dropped.push({ id: part.id, label: part.label, needs: Math.min(...(lengths[i] ?? [0])) + (joints[i] ?? 0) });
      return;
    }
    if (pick > 0) shortened.push({ id: part.id, label: part.label, to: variant.label ?? variant.text });
    chosen.push({ text: variant.text, before: part.before });
    left -= (lengths[i]?.[pick] ?? 0) + (joints[i] ?? 0);
  });
  const text = joined(chosen, rules);
  return {
    ok: true,
    text,
    length: countAs(text, rules.linkLength, rules.unit),
    worth: table[0]?.[room]?.worth ?? 0,
    dropped,
    shortened,
  };
}

/** The reason in words: `dropped: support act (37 would not fit), short date`. */
export function fitWords(fitted: Fitted): string {
  if (!fitted.ok) return `even its needed parts take ${fitted.needs} of ${fitted.limit}`;
  const gone = fitted.dropped.map((item) => `${item.label} (${item.needs} would not fit)`);
  const short = fitted.shortened.map((item) => `short ${item.label}`);
  return [gone.length > 0 ? `dropped: ${gone.join(', ')}` : '', short.join(', ')]
    .filter((part) => part !== '')
    .join(', ');
}
