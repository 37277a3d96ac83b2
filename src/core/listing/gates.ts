import type { Instant } from '../base/zones';
import type { Facts } from '../facts/facts';
import { finding, type Finding } from '../findings/finding';
import { carriedGroup } from '../record/copy-record';
import { asksOfTown } from '../record/other-town';
import type { Audience } from '../record/record';
import type { ChannelAudience } from './channel-row';
import { sells, type ChannelRules } from './channel-rules';
import { contentFindings } from './content-findings';
import type { ListedState } from './shown';

/** Why a listing is not to stand on a channel, or no longer. */
export type Down =
  | 'private'
  | 'unlisted'
  | 'not for them'
  | 'left off'
  | 'draft there'
  | 'no outlet'
  | 'no use'
  | 'taken out'
  | 'nothing to show'
  | 'off since the turn'
  | 'pencilled'
  | 'embargoed';

/** Put in words, as they stand in the book. */
export const downWords: Record<Down, string> = {
  private: 'the record is private',
  unlisted: 'the record is unlisted, and this channel shows what it has to everybody',
  'not for them': 'the event is for some, and this channel is seen by others',
  'left off': 'the channel is left off',
  'draft there': 'what it shows stays a draft where it stands',
  'no outlet': 'the channel is not among the outlets',
  'no use': 'the channel has no use for such an event',
  'taken out': 'it was taken out of the record',
  'nothing to show': 'no performance is left on it',
  'off since the turn': 'it was planned before the event was cancelled or postponed, and was taken off',
  pencilled: 'the record is only pencilled',
  embargoed: 'the record is under embargo again',
};

/** What is asked whether it may leave the house: an event on a channel, or one notice. */
export interface GateContext {
  facts: Facts;
  rules: ChannelRules;
  connected: boolean;
  /** Who sees what stands on the channel. */
  audience: ChannelAudience;
  leftOff: boolean;
  /** What it mirrors stays a draft. */
  draftThere: boolean;
  /** The listing has lost what it was about: its performances were moved away, or its notice was taken out. */
  emptied: 'taken out' | 'nothing to show' | 'off since the turn' | null;
  /** The listing's own moment, beside the event's: `null` none, `unclear` where it cannot be reckoned. */
  ownMoment: { at: Instant | 'unclear'; zone: string } | null;
  /** How it stands there by what was sent; `never`: nothing was. */
  stands: ListedState | 'never';
  now: Instant;
}

/** What a gate says: it is to be taken down, held until a moment, or stopped until a person has seen to it. */
type Verdict = { down?: Down; until?: Instant; finding?: Finding } | null;

/**
 * Everything that may keep a listing from being shown, one row each. The plan, the queue at the moment it takes up an
 * errand, and whatever else tells the public anything ask these rows and no others.
 */
const gates: readonly ((context: GateContext) => Verdict)[] = [
  ({ facts }) =>
    facts.visibility === 'private'
      ? { down: 'private', finding: finding(['publicity', 'visibility'], 'stops', { code: 'not-public' }) }
      : null,
  ({ facts: { neverPublic, eventType, visibility } }) =>
    neverPublic && visibility !== 'private'
      ? { down: 'private', finding: finding(['eventType'], 'stops', { code: 'never-public', eventType }) }
      : null,
  ({ facts, rules }) =>
    facts.visibility === 'unlisted' && !rules.states.includes('unlisted')
      ? { down: 'unlisted', finding: finding(['publicity', 'visibility'], 'notes', { code: 'unlisted-here' }) }
      : null,
  ({ facts, audience }) =>
    isFor(facts.audience, audience)
      ? null
      : facts.audience.who === 'everyone'
        ? { down: 'no use' }
        : {
            down: 'not for them',
            finding: finding(['audience'], 'notes', { code: 'not-for-them', who: audienceWords(facts.audience) }),
          },
  ({ leftOff }) => (leftOff ? { down: 'left off' } : null),
  ({ draftThere }) => (draftThere ? { down: 'draft there' } : null),
  // Where outlets are named, a channel that sells is wanted only as one of them.
  ({ facts: { outlets }, rules }) =>
    sells(rules) && outlets.length > 0 && !outlets.some((outlet) => outlet.channel === rules.id)
      ? { down: 'no outlet' }
      : null,
  ({ facts, rules }) => (rules.accepts(facts) ? null : { down: 'no use' }),
  ({ emptied, facts: { performances } }) => {
    if (emptied === null) return null;
    if (emptied !== 'off since the turn') return { down: emptied };
    const turn = performances.every((performance) => performance.turn === 'cancelled') ? 'cancelled' : 'postponed';
    return { down: emptied, finding: finding(['notices'], 'notes', { code: 'off-since', turn }) };
  },
  ({ facts, stands }) =>
    facts.pencilled
      ? {
          ...(wasSeen(stands) ? { down: 'pencilled' } : {}),
          finding: finding(['stage'], 'stops', { code: 'pencilled' }),
        }
      : null,
  ({ facts }) => stillToLookAt('carried-over', facts),
  ({ facts }) => stillToLookAt('other-town', facts),
  ({ facts }) =>
    facts.announceUnclear
      ? {
          finding: finding(['publicity', 'announce'], 'stops', { code: 'moment-unclear', what: 'The announce moment' }),
        }
      : null,
  ({ facts: { announceAt, announceZone }, stands, now }) =>
    announceAt !== null && announceAt > now
      ? {
          // What was seen already and is to be announced later is down till then; to be shown again it needs a yes.
          ...(wasSeen(stands) ? { down: 'embargoed' } : {}),
          until: announceAt,
          finding: finding(['publicity', 'announce'], 'notes', {
            code: 'embargoed',
            until: announceAt,
            zone: announceZone,
          }),
        }
      : null,
  ({ ownMoment, now }) => {
    if (ownMoment === null) return null;
    if (ownMoment.at === 'unclear')
      return { finding: finding(['notices'], 'stops', { code: 'moment-unclear', what: 'The post’s own moment' }) };
    if (ownMoment.at <= now) return null;
    return {
      until: ownMoment.at,
      finding: finding(['notices'], 'notes', { code: 'goes-later', until: ownMoment.at, zone: ownMoment.zone }),
    };
  },
  ({ connected }) => (connected ? null : { finding: finding(['channel'], 'stops', { code: 'not-connected' }) }),
];

/** What was copied, or said of a town that a date has left, and that no person has kept or replaced. */
function stillToLookAt(code: 'carried-over' | 'other-town', { carried, levels }: Facts): Verdict {
  const open = carried.filter((fact) => asksOfTown(fact) === (code === 'other-town'));
  if (open.length === 0) return null;
  const facts = open.map((fact) => carriedGroup(fact, levels)?.name ?? fact);
  return { finding: finding(['carried'], 'stops', { code, facts }) };
}

/**
 * True where people have seen it there: it is shown, or was taken down again. What was only ever a draft was seen by
 * nobody.
 */
function wasSeen(stands: GateContext['stands']): boolean {
  return stands === 'public' || stands === 'unlisted' || stands === 'closed';
}

/**
 * True where an event for some may stand in a place that some see: for members among members, for a group in that group
 * alone.
 */
function isFor(event: Audience, place: ChannelAudience): boolean {
  if (event.who === 'everyone') return place.who === 'everyone' || place.alone !== true;
  if (event.who === 'members') return place.who === 'members';
  return place.who === 'group' && place.name.trim().toLowerCase() === event.name.trim().toLowerCase();
}

/** For whom, in words: `members`, `the friends of the choir`. */
function audienceWords(audience: Audience): string {
  return audience.who === 'group' ? audience.name : audience.who;
}

/** What the gates come to for one listing. */
export interface Gated {
  /** It must not stand there; `null`: it may. */
  down: Down | null;
  /** Nothing of it may be told before this moment. */
  until: Instant | null;
  findings: Finding[];
}

/** Asks every gate. Pure; the moment that counts is the last of those that hold it. */
export function gated(context: GateContext): Gated {
  const out: Gated = { down: null, until: null, findings: [] };
  for (const gate of gates) {
    const said = gate(context);
    if (said === null) continue;
    if (said.down) out.down ??= said.down;
    if (said.until !== undefined) out.until = Math.max(out.until ?? said.until, said.until);
    if (said.finding) out.findings.push(said.finding);
  }
  out.findings.push(...contentFindings(context.facts, context.now));
  return out;
}

/** Why a listing must not stand there, and nothing else; `null`: it may. */
export function downFor(context: GateContext): Down | null {
  for (const gate of gates) {
    const said = gate(context);
    if (said?.down) return said.down;
  }
  return null;
}
