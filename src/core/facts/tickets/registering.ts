import { shortDate } from '../../dates/date-words';
import type { Registration } from '../../record/ticket-schema';
import { spell } from './passes';
import { addDays, instantOf, toLocal, type Instant } from '../../base/zones';

/** Under this name registrations are counted, where sales name a price level and an outlet. */
export const registrationCount = 'registration';

/** Places of one performance that one registers for. */
export interface Places {
  limit: number;
  taken: number;
  left: number;
}

/** The places of a performance of which `taken` are registered; `null`: as many as come. */
export function placesOf({ limit }: Pick<Registration, 'limit'>, taken: number): Places | null {
  return limit === null ? null : { limit, taken, left: Math.max(0, limit - taken) };
}

/** When the last day to register is over in a zone; `null`: none is named, or that midnight does not exist there. */
export function registrationEnd({ closes }: Pick<Registration, 'closes'>, zone: string): Instant | null {
  if (closes === null) return null;
  const next = addDays(closes, 1);
  return instantOf({ date: next, time: '00:00' }, zone) ?? instantOf({ date: next, time: '01:00' }, zone);
}

/** Whether one can register no more: the last day is over. */
export function registrationOver({ closes }: Pick<Registration, 'closes'>, zone: string, now: Instant): boolean {
  const end = registrationEnd({ closes }, zone);
  return end === null ? closes !== null && toLocal(now, zone).date > closes : now >= end;
}

/**
 * What the public reads of an event that is free with registration: how one registers where there is no page for it,
 * until when, what is left, and whether there is a waiting list. `free, with registration (write to bench@yard.example)
 * by Fri 5 Mar, 3 of 24 places left`.
 */
export function registrationWords(
  registration: Registration,
  places: Places | null,
  at: { zone: string; now: Instant; dates?: number },
): string {
  if (registrationOver(registration, at.zone, at.now)) return 'free, registration has closed';
  const { contact, closes, waitingList, onceForAll } = registration;
  const once =
    onceForAll && (at.dates ?? 1) > 1
      ? `one registration for ${at.dates === 2 ? 'both' : `all ${spell(at.dates ?? 1)}`}`
      : 'with registration';
  const how = `free, ${once}${contact.trim() === '' ? '' : ` (${contact.trim()})`}${closes === null ? '' : ` by ${shortDate(closes)}`}`;
  if (places === null) return how;
  if (places.left === 0) return `${how}, ${waitingList ? 'full: waiting list' : 'full'}`;
  const left = places.taken === 0 ? `${places.limit} places` : `${places.left} of ${places.limit} places left`;
  return `${how}, ${left}${waitingList ? ', then a waiting list' : ''}`;
}
