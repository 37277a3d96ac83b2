import { fail, ok, type Result } from '../base/result';
import type { RecordContent } from '../record/record';
import { cleanHtml } from '../words/markup';
import type { ChannelRules } from './channel-rules';
import { equalValues } from './compare';
import { overridable } from './proof';
import { splitKey, type Shown, type ShownValue } from './shown';

/** Why a channel's value cannot become the record's. */
export type NotTaken = 'gone-there' | 'no-such-part' | 'not-a-fact-of-the-record' | 'made-from-others';

/** Put in words, with the way out. */
export const notTakenWords: Record<NotTaken, string> = {
  'gone-there': 'The channel shows no value to take. Send ours again, or change the record.',
  'no-such-part':
    'The record has no such part: no such performance, price level, link or the like. Send ours again, or add it to the record.',
  'not-a-fact-of-the-record':
    'This field is made from other facts and has no place of its own in the record. Send ours again, or keep theirs on this channel alone.',
  'made-from-others':
    'What the channel shows cannot be put back into the record as it stands: the field is filled, fitted or capped from other facts. Change the record by hand, send ours again, or keep theirs on this channel alone.',
};

/** What taking theirs needs to know of the listing. */
export interface TakeContext {
  rules: ChannelRules;
  part: number;
  /** What this listing would show of a record: pure. */
  show(content: RecordContent): Shown;
}

/**
 * The record with a channel's shown value taken in, at the very place that was shown: the short title where that was
 * shown, the allocation where that caps the level. What comes out is shown again before it is given back: where the
 * proof would not show exactly that value, nothing is taken. Where the field is worded by hand for that channel, those
 * words change.
 */
export function takeTheirs(
  content: RecordContent,
  key: string,
  value: ShownValue | undefined,
  { rules, part, show }: TakeContext,
): Result<RecordContent, NotTaken> {
  if (value === undefined) return fail('gone-there');
  const { field, item } = splitKey(key);
  const row = rules.rows.find((row) => row.field === field);
  if (!row) return fail('not-a-fact-of-the-record');
  if (item !== null && !hasItem(content, item)) return fail('no-such-part');
  const shows = (next: RecordContent) => {
    const shown = show(next)[key];
    return shown !== undefined && equalValues(shown, value);
  };
  const byHand = content.overrides.find((override) => override.channel === rules.id && override.field === field);
  if (byHand) {
    const words = overridable(value);
    const next = {
      ...content,
      overrides: content.overrides.map((override) =>
        override === byHand ? { ...override, value: value.kind === 'rich' ? cleanHtml(words) : words } : override,
      ),
    };
    return shows(next) ? ok(next) : fail('made-from-others');
  }
  const shown = show(content)[key];
  const context = { item, channel: rules.id, part, shown };
  for (const source of row.sources ?? []) {
    const own = source.get(content, context);
    if (!(own === null ? shown === undefined : shown !== undefined && equalValues(own, shown))) continue;
    const next = source.set(content, value, context);
    if (next !== null && shows(next)) return ok(next);
  }
  return fail((row.sources ?? []).length === 0 ? 'not-a-fact-of-the-record' : 'made-from-others');
}

/**
 * The record with theirs kept on this one channel, worded by hand; `null` where the field is no text of the whole
 * event.
 */
export function keepTheirsHere(
  content: RecordContent,
  key: string,
  value: ShownValue | undefined,
  { rules, show }: TakeContext,
): RecordContent | null {
  const { field, item } = splitKey(key);
  const row = rules.rows.find((row) => row.field === field);
  if (!row || item !== null || row.each !== 'event' || (value?.kind !== 'text' && value?.kind !== 'rich')) return null;
  if (row.kind !== value.kind) return null;
  const from = overridable(show(content)[key]);
  const kept = { channel: rules.id, field, value: overridable(value), from };
  const next = {
    ...content,
    overrides: [
      ...content.overrides.filter((override) => override.channel !== rules.id || override.field !== field),
      kept,
    ],
  };
  const shown = show(next)[key];
  return shown !== undefined && equalValues(shown, value) ? next : null;
}

function hasItem({ performances, tickets, links, documents, programme }: RecordContent, item: string): boolean {
  const { levels, extras, coupons, questions } = tickets;
  return [performances, levels, extras, coupons, questions, links, documents, programme].some((list) =>
    list.some((candidate: { id: string }) => candidate.id === item),
  );
}
