import { groupBy } from '@/core/base/group-by';
import type { Operation } from '@/core/listing/operations';
import { splitKey } from '@/core/listing/shown';
import { wordsOf, type PlainChange } from '@/core/listing/value-words';
import type { ErrandToSend, EventToSend } from '@/views/dispatch';

/** What sort of change errands are of, as one reads it: what is new, what changed, what comes down. */
export const groupWords = {
  new: 'new listing, all of it',
  changed: '',
  down: 'taken down',
  cancelled: 'cancelled',
  renewed: 'renewed before it lapses',
} as const;
type GroupSort = keyof typeof groupWords;

/** A fact that errands of a group say alike: the field with a channel that has a name for it, before and after. */
interface SharedFact {
  field: string;
  channel: string;
  before: string;
  after: string;
}

/** Errands of one event that are of one change: what all of them say, and what each says of its own. */
export interface ChangeGroup {
  sort: GroupSort;
  errands: ErrandToSend[];
  facts: SharedFact[];
  /** By listing: what it changes that is not among the facts. */
  own: ReadonlyMap<string, PlainChange[]>;
}

const sortOf: Partial<Record<Operation, GroupSort>> = {
  place: 'new',
  unpublish: 'down',
  remove: 'down',
  cancel: 'cancelled',
  renew: 'renewed',
};
const order = Object.keys(groupWords) as GroupSort[];

/** So long words may be to stand in a line of facts. */
const mostWords = 90;

/** What an event's errands are of, a change at a time: what is said alike stands once. */
export function byChange(errands: readonly ErrandToSend[]): ChangeGroup[] {
  const groups = groupBy(errands, ({ op }) => sortOf[op] ?? 'changed');
  return order.flatMap((sort) => {
    const mine = groups.get(sort);
    return mine ? [groupOf(sort, mine)] : [];
  });
}

const telling = (change: PlainChange) =>
  `${splitKey(change.key).field} ${wordsOf(change.before)} → ${wordsOf(change.after)}`;

function groupOf(sort: GroupSort, errands: ErrandToSend[]): ChangeGroup {
  const own = new Map<string, PlainChange[]>();
  if (sort !== 'changed') {
    for (const { listing, changes } of errands) own.set(listing, changes);
    return { sort, errands, facts: [], own };
  }
  const said = new Map<string, { fact: SharedFact; by: Set<string> }>();
  for (const { listing, channel, changes } of errands)
    for (const change of changes) {
      const [before, after] = [wordsOf(change.before), wordsOf(change.after)];
      if (before.length > mostWords || after.length > mostWords) continue;
      const known = said.get(telling(change));
      if (known) known.by.add(listing);
      else
        said.set(telling(change), {
          fact: { field: splitKey(change.key).field, channel, before, after },
          by: new Set([listing]),
        });
    }
  const shared = [...said].filter(([, { by }]) => by.size > 1 || errands.length === 1);
  const keys = new Set(shared.map(([key]) => key));
  for (const { listing, changes } of errands)
    own.set(
      listing,
      changes.filter((change) => !keys.has(telling(change))),
    );
  return { sort, errands, facts: shared.map(([, { fact }]) => fact), own };
}

/** Kinds of change that one chooses by. */
type ChangeKind =
  | 'new listing'
  | 'taken down'
  | 'cancelled'
  | 'date and time'
  | 'place'
  | 'price and seats'
  | 'link'
  | 'names'
  | 'picture'
  | 'words'
  | 'pin';

const kindOfSort: Partial<Record<GroupSort, ChangeKind>> = {
  new: 'new listing',
  down: 'taken down',
  cancelled: 'cancelled',
  renewed: 'pin',
};
const kindOfField: readonly (readonly [RegExp, ChangeKind])[] = [
  [/^(start|end|doors|date|series|turn|befell)/, 'date and time'],
  [/^(place|room|town|street|address|capacity|zone)/, 'place'],
  [
    /^(price|quantity|total|tickets|amount|covers|fee|coupon|extra|hidden|choose|admits|level|link-window)/,
    'price and seats',
  ],
  [/^(link|join|register|url)/, 'link'],
  [/^(title|line-up|organiser|subtitle|host)/, 'names'],
  [/^(picture|logo|shot)/, 'picture'],
  [/^pinned/, 'pin'],
];

/** Which kinds of change an errand is of. */
export function kindsOf({ op, changes }: Pick<ErrandToSend, 'op' | 'changes'>): ChangeKind[] {
  const whole = kindOfSort[sortOf[op] ?? 'changed'];
  if (whole) return [whole];
  const kinds = changes.map(
    ({ key }) => kindOfField.find(([fields]) => fields.test(splitKey(key).field))?.[1] ?? ('words' as const),
  );
  return [...new Set(kinds)];
}

/** What one chooses by. */
export const choosers = ['event', 'tour', 'channel', 'kind of change', 'moment'] as const;
export type Chooser = (typeof choosers)[number];

/** What the errands of the page can be chosen by: each value with its listings, the most first where they have no order. */
export function choicesBy(
  by: Chooser,
  events: readonly EventToSend[],
  channelName: (id: string) => string,
  momentOf: (at: number, zone: string) => string,
): { name: string; listings: string[] }[] {
  const all = events.flatMap((event) => event.errands.map((errand) => ({ event, errand })));
  const namesOf = ({ event, errand }: (typeof all)[number]): string[] => {
    switch (by) {
      case 'event':
        return [`${event.title} ${event.code}`];
      case 'tour':
        return event.tour === null ? ['no tour'] : [event.tour];
      case 'channel':
        return [channelName(errand.channel)];
      case 'kind of change':
        return kindsOf(errand);
      case 'moment':
        return [errand.notBefore === null ? 'now' : momentOf(errand.notBefore, event.zone)];
    }
  };
  const out = new Map<string, string[]>();
  for (const item of all)
    for (const name of namesOf(item)) out.set(name, [...(out.get(name) ?? []), item.errand.listing]);
  return [...out].map(([name, listings]) => ({ name, listings }));
}

/** Events of one tour that send nothing but the same change: read as one, with so many records. */
export interface TourGroup {
  tour: string;
  events: EventToSend[];
}

/** Parts events into tours whose dates change alike, and the rest, in their order. */
export function byTour(events: readonly EventToSend[]): (EventToSend | TourGroup)[] {
  const alike = groupBy(events, (event) => tourSign(event) ?? event.recordId);
  const out: (EventToSend | TourGroup)[] = [];
  for (const mine of alike.values()) {
    const [first] = mine;
    if (mine.length > 1 && first?.tour) out.push({ tour: first.tour, events: mine });
    else out.push(...mine);
  }
  return out;
}

/** What an event of a tour has in common with others that change alike; `null`: it is read by itself. */
function tourSign({ tour, errands, locked, asks, held, busy, clashes, takenOff }: EventToSend): string | null {
  if (tour === null || locked.length + asks.length + held.length + clashes.length + takenOff.length > 0) return null;
  if (busy.some(({ more }) => more) || errands.some(needsLook)) return null;
  const said = byChange(errands).map(
    ({ sort, facts }) => `${sort} ${facts.map(({ field, before, after }) => `${field} ${before} ${after}`).join()}`,
  );
  return said.length === 0 ? null : `${tour} ${said.join(' | ')}`;
}

/** True where something is to be read or chosen of an errand beside what it changes. */
function needsLook({ findings, orDraft, deleting, notBefore, ownMoment }: ErrandToSend): boolean {
  return findings.length > 0 || orDraft !== null || deleting !== null || notBefore !== null || ownMoment;
}
