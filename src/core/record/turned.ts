import type { Venue } from './directory';
import { minutesOf, movedBy } from './hours';
import { placeOf } from './places';
import type { Performance } from './record';

/** A performance, as it is saved or as it stands in the form. */
export type Turnable = Omit<Performance, 'link'>;

/** What can befall an event, as it is done in one step. */
export const doings = {
  postpone: 'Postpone',
  move: 'Move',
  cancel: 'Cancel',
  soldOut: 'Sold out',
  extra: 'Extra date',
  lineUp: 'Line-up changed',
  back: 'Takes place after all',
} as const;
export type Doing = keyof typeof doings;

/** What is chosen of a turn before it is put into the record. */
export interface TurnChosen {
  /** Which performance; `all`: each that is still to come. */
  which: string;
  date: string | null;
  start: string;
  /** A venue, or a room of one: `venue|room`. */
  place: string | null;
  /** Who of the line-up cannot be there; `null`: all of them can. */
  act: string | null;
  /** Who joins; empty: nobody. */
  joins: string;
}

/** What is chosen before anything was. `which`: for which performance. */
export function nothingChosen(which: string): TurnChosen {
  return { which, date: null, start: '', place: null, act: null, joins: '' };
}

/**
 * What was taken from a performance, and can be given back: that it takes place, when and where it was to be, and that
 * tickets are left.
 */
const isTaken = ({ turn, soldOut, was }: Pick<Turnable, 'turn' | 'soldOut' | 'was'>) =>
  turn === 'cancelled' || turn === 'postponed' || soldOut || (turn !== 'none' && was !== null);

/** Performances that such a turn can befall: those to come, that are not cancelled. */
export function turnable<T extends Turnable>(performances: readonly T[], doing: Doing, today: string): T[] {
  return performances
    .filter(({ date, turn, precision, soldOut, was }) => {
      if (date < today && precision !== 'open') return false;
      if (doing === 'back') return isTaken({ turn, soldOut, was });
      if (turn === 'cancelled') return false;
      return doing !== 'soldOut' || !soldOut;
    })
    .toSorted((a, b) => (`${a.date}${a.start ?? ''}` < `${b.date}${b.start ?? ''}` ? -1 : 1));
}

/** True where something that a turn needs was not chosen yet. */
export function lacks(
  doing: Doing,
  { date, place, act, joins }: TurnChosen,
  venues: ReadonlyMap<string, Venue>,
): boolean {
  if (doing === 'extra') return date === null;
  if (doing === 'lineUp') return act === null && joins.trim() === '';
  return doing === 'move' && venues.get(place?.split('|')[0] ?? '') === undefined;
}

/** The performances after a turn. `fresh`: the id of an extra date. */
export function turned<T extends Turnable>(
  performances: readonly T[],
  doing: Doing,
  chosen: TurnChosen,
  ids: ReadonlySet<string>,
  { venues, fresh }: { venues: ReadonlyMap<string, Venue>; fresh: string },
): T[] {
  const at = (item: T) => (chosen.start.trim() === '' ? item.start : chosen.start);
  if (doing === 'extra') {
    const like = performances.find(({ id }) => ids.has(id)) ?? performances[performances.length - 1];
    if (!like || chosen.date === null) return [...performances];
    const extra = { ...atHour(like, at(like)), id: fresh, date: chosen.date, repeat: null, lastDate: null };
    return [...performances, { ...extra, soldOut: false, turn: 'none', was: null }];
  }
  return performances.map((item) => {
    if (!ids.has(item.id)) return item;
    switch (doing) {
      case 'cancel':
        return { ...item, turn: 'cancelled' };
      case 'soldOut':
        return { ...item, soldOut: true };
      case 'lineUp':
        return { ...item, ...withLineUp(item, chosen) };
      case 'back':
        return { ...asItWas(item), soldOut: false };
      case 'move':
        return { ...item, ...(placeOf(chosen.place, venues) ?? {}), turn: 'moved', was: whenAndWhere(item) };
      case 'postpone': {
        const was = whenAndWhere(item);
        if (chosen.date === null) return { ...item, turn: 'postponed', was };
        return { ...atHour(item, at(item)), date: chosen.date, repeat: null, turn: 'rescheduled', was };
      }
    }
  });
}

/** When and where a performance was to be before anything befell it: what was kept of an earlier turn stands. */
function whenAndWhere({ turn, was, date, start, venueId, roomId }: Turnable): Performance['was'] {
  return turn !== 'none' && was !== null ? was : { date, start: isTime(start) ? start : null, venueId, roomId };
}

/** A performance that takes place after all, when and where it was to be. What is not known of that stays as it is. */
function asItWas<T extends Turnable>(item: T): T {
  const { turn, was } = item;
  if (turn === 'none') return item;
  if (was === null) return turn === 'cancelled' || turn === 'postponed' ? { ...item, turn: 'none' } : item;
  const { date, start } = was;
  const { venueId, roomId } = was.venueId === null ? item : was;
  return { ...atHour(item, start ?? item.start), date, venueId, roomId, repeat: null, turn: 'none', was: null };
}

const isTime = (text: string | null): text is string => text !== null && /^\d\d:\d\d$/.test(text);

/** A performance that begins at another hour: doors and end move along. */
function atHour<T extends Turnable>(item: T, start: string | null): T {
  const by = isTime(start) && isTime(item.start) ? minutesOf(start) - minutesOf(item.start) : 0;
  return { ...(by === 0 ? item : movedBy(item, by)), start };
}

/** Who is not on this time, and who is besides. */
function withLineUp({ lineUpOut, lineUpExtra }: Turnable, { act, joins }: TurnChosen) {
  const also = [lineUpExtra.trim(), joins.trim()].filter((names) => names !== '').join(', ');
  return { lineUpOut: act === null ? lineUpOut : [...new Set([...lineUpOut, act])], lineUpExtra: also };
}
