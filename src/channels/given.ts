import type { Facts } from '@/core/facts/facts';
import { sells } from '@/core/listing/channel-rules';
import { downFor, gated, type Gated, type GateContext } from '@/core/listing/gates';
import type { ListingState } from '@/core/listing/compare';
import { isOff, listedState } from '@/core/listing/shown';
import type { LinkChoice } from '@/core/listing/ticket-link';
import { newOutlet } from '@/core/record/new-record';
import type { RecordContent } from '@/core/record/record';
import type { Outlet } from '@/core/record/ticket-schema';
import type { Channel } from './channels';
import { registrationLink } from './kit/targets';
import type { Subject } from './survey-shapes';
import type { SurveyInput } from './survey-shapes';
import type { KnownListing } from './survey-shapes';

/** What is asked of a record's listings. */
export interface ListingContext {
  input: SurveyInput;
  known: ReadonlyMap<string, readonly KnownListing[]>;
  /** Lines of the sheet before a sale opens that are not ticked; 0 where none is asked about. */
  sheetOpen: number;
}

/** The outlets of a ticketed event; where none is named, the first channel that sells. */
export function outletsOf({ outlets, ticketed }: Facts, channels: readonly Channel[]): readonly Outlet[] {
  const seller = channels.find(({ rules, row }) => sells(rules) && row.connected);
  if (outlets.length > 0 || !ticketed || !seller) return outlets;
  const { id, name } = seller.rules;
  return [newOutlet('upstream', name, { channel: id })];
}

/**
 * True where nothing of the event is to be seen on a channel, or one cannot get in by it: it is closed there, or stays
 * a draft.
 */
function unseenOn({ rules }: Channel, facts: Facts, { draftOn }: Pick<RecordContent, 'draftOn'>): boolean {
  return (
    isOff({ kind: 'state', is: rules.stateFor(facts) }) ||
    (rules.states.includes('draft') && draftOn.includes(rules.id))
  );
}

/**
 * The links that channels have given, and those that are still to come from them. A channel that does not sell it, or
 * no longer, gives none: no page of ours leads to a closed listing.
 */
export function givenLinks(
  facts: Facts,
  channels: readonly Channel[],
  { input, known }: ListingContext,
): Map<string, string | null> {
  const given = new Map<string, string | null>();
  for (const channel of channels) {
    const { rules, row } = channel;
    if (!sells(rules) || unseenOn(channel, facts, input.content)) continue;
    if (downOn(channel, facts, input)) continue;
    const mine = (known.get(rules.id) ?? []).find((listing) => listing.link !== null && !listing.gone);
    if (mine) given.set(rules.id, mine.link);
    else if (row.connected) given.set(rules.id, null);
  }
  return given;
}

/** What else channels give to each other: by its name, from the first that gives it. */
export function otherGifts(
  facts: Facts,
  channels: readonly Channel[],
  { input, known }: ListingContext,
): Facts['gifts'] {
  const out: Record<string, Facts['gifts'][string]> = {};
  for (const channel of channels) {
    const { rules, row } = channel;
    for (const gift of rules.gives) {
      if (gift === 'ticket link' || out[gift] || unseenOn(channel, facts, input.content)) continue;
      if (downOn(channel, facts, input)) continue;
      const value =
        (known.get(rules.id) ?? []).find((listing) => listing.gifts[gift] !== undefined && !listing.gone)?.gifts[
          gift
        ] ?? null;
      if (value !== null || row.connected) out[gift] = { from: rules.id, name: rules.name, value };
    }
  }
  return out;
}

/** Where the event stands in public on channels that say so: known, or still to come from one. */
export function pagesOf(facts: Facts, channels: readonly Channel[], { input, known }: ListingContext): Facts['pages'] {
  const pages: Record<string, { name: string; value: string | null }> = {};
  for (const channel of channels) {
    const { rules, row } = channel;
    if (!rules.gives.includes('public address') || unseenOn(channel, facts, input.content)) continue;
    if (downOn(channel, facts, input)) continue;
    const there = (known.get(rules.id) ?? []).find(
      (listing) => listing.publicUrl !== null && !listing.gone && listing.sent !== null,
    );
    if (there || row.connected) pages[rules.id] = { name: rules.name, value: there?.publicUrl ?? null };
  }
  return pages;
}

/**
 * The link to where one gets in, as a channel takes it. `bare`: facts with the link that was typed, if any, and nothing
 * filled in yet; `source`: under what those are counted who come by it.
 */
export function linkOf(bare: Facts, choice: LinkChoice | null, here = '', source = here): Facts['link'] {
  if (bare.ticketed) return choice?.link ?? { kind: 'none' };
  if (bare.mode !== 'registration' || bare.link.kind !== 'none') return bare.link;
  return registrationLink(bare, here, source) ?? bare.link;
}

/** How far the record is to be seen on one channel: a person may want it narrower there. */
export function visibilityOn(
  channel: string,
  { visibility }: Facts,
  { unlistedOn }: RecordContent,
): Facts['visibility'] {
  return visibility === 'public' && unlistedOn.includes(channel) ? 'unlisted' : visibility;
}

/** What the gates say of one subject on one channel. */
export function gateOf(
  channel: Channel,
  facts: Facts,
  subject: GateSubject,
  input: SurveyInput,
  { sent }: Pick<ListingState, 'sent'>,
): Gated {
  return gated({ ...contextOf(channel, facts, subject, input), stands: sent === null ? 'never' : listedState(sent) });
}

/** Whether the event must not stand on a channel at all. */
function downOn(channel: Channel, facts: Facts, input: SurveyInput): boolean {
  return downFor(contextOf(channel, facts, { emptied: null, ownMoment: null }, input)) !== null;
}

type GateSubject = Pick<Subject, 'emptied' | 'ownMoment'> & { source?: string };

function contextOf(
  { rules, row }: Channel,
  facts: Facts,
  subject: GateSubject,
  { content, now }: SurveyInput,
): GateContext {
  const { emptied, ownMoment, source = rules.id } = subject;
  const visibility = visibilityOn(rules.id, facts, content);
  return {
    facts: visibility === facts.visibility ? facts : { ...facts, visibility },
    rules,
    connected: row.connected,
    audience: row.audience,
    leftOff: content.leftOff.includes(rules.id) || content.leftOff.includes(source),
    draftThere: source !== rules.id && content.draftOn.includes(source),
    emptied,
    ownMoment,
    stands: 'never',
    now,
  };
}
