import type { LockedChange } from '@/core/errands/steps';
import type { SurveyedListing } from '@/core/errands/surveyed';
import type { Facts } from '@/core/facts/facts';
import { finding, type Finding } from '@/core/findings/finding';
import type { ChannelRules } from '@/core/listing/channel-rules';
import type { FieldComparison, ListingState } from '@/core/listing/compare';
import { splitKey } from '@/core/listing/shown';
import type { KnownListing } from './survey-shapes';

/** What is known of a listing that a person should know: twice there, gone, in doubt, locked. */
export function knownFindings(
  rules: ChannelRules,
  state: ListingState,
  known: KnownListing | undefined,
  locked: readonly LockedChange[],
): Finding[] {
  const twins = known?.twins ?? [];
  // What was sent and cannot be taken back stands as it stands: nobody is asked to do what cannot be done.
  const found: Finding[] = !takesBack(rules)
    ? twins.length > 0
      ? [finding(['listed'], 'notes', { code: 'twice-sent', times: twins.length + 1 })]
      : []
    : twins.map(({ id, publicUrl }) =>
        finding(['listed'], 'warns', { code: 'twice-there', id, address: publicUrl ?? id }),
      );
  if (known && known.note !== '')
    found.push(
      finding(['listed'], known.turnedDown ? 'warns' : 'notes', {
        code: known.turnedDown ? 'turned-down' : 'channel-says',
        note: known.note,
      }),
    );
  if (state.gone) found.push(finding(['listed'], 'warns', { code: 'gone-there' }));
  if (state.pendingOutcome)
    found.push(finding(['listed'], 'notes', { code: 'unread-there', since: state.sentAt ?? 0 }));
  for (const { key, label, why } of locked)
    found.push(finding([splitKey(key).field], 'warns', { code: 'locked-there', label, why }));
  return found;
}

/** What stands there still, though the tie was cut. Where the record is private, it must not be overlooked. */
export function cutFindings(known: KnownListing | undefined, visibility: Facts['visibility']): Finding[] {
  if (!known?.cut || known.sentAt !== null) return [];
  const { at, address } = known.cut;
  return [finding(['listed'], visibility === 'private' ? 'warns' : 'notes', { code: 'cut-loose', since: at, address })];
}

/** Why a listing was refused, or is late, where it stands so: told wherever the listing is. */
export function askingFindings(
  { standing, errand, state, rules }: Pick<SurveyedListing, 'standing' | 'errand' | 'state' | 'rules'>,
  refusal: string | undefined,
  zone: string,
): Finding[] {
  if (errand === 'refused' && refusal !== undefined && refusal !== '')
    return [finding(['listed'], 'notes', { code: 'refused-there', message: refusal })];
  if (standing !== 'late' || state.sentAt === null) return [];
  const causes = (rules.lateCauses ?? []).join(' ');
  return [
    finding(['listed'], 'notes', { code: 'late-there', since: state.sentAt, zone, usualMs: rules.delayMs, causes }),
  ];
}

/** True where what stands there can be taken out of sight again. */
export function takesBack({ operations }: Pick<ChannelRules, 'operations'>): boolean {
  return operations.some((row) => row.leadsTo?.includes('closed'));
}

/** What the channel is about to let lapse, or has let lapse. */
export function lapsing(
  rules: ChannelRules,
  comparison: readonly FieldComparison[],
  { lapsesAt }: ListingState,
  facts: Facts,
): Finding[] {
  const lapses = comparison.some((field) => field.outcome === 'lapsing');
  const row = lapses ? rules.rows.find((field) => field.field === rules.lapse?.field) : undefined;
  if (!row || lapsesAt === null) return [];
  const zone = facts.performances[0]?.zone ?? 'UTC';
  return [finding([row.field], 'warns', { code: 'lapsing', label: row.label, at: lapsesAt, zone })];
}
