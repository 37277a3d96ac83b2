import { shortDate } from '@/core/dates/date-words';
import { toLocal } from '@/core/base/zones';

const weekMs = 6 * 86_400_000;

/** A moment as near as it is: `10:21` today, `Wed 10:00` within the week, else `Thu 18 Feb 10:00`. */
export function whenWords(at: number, now: number, zone: string): string {
  const [there, here] = [toLocal(at, zone), toLocal(now, zone)];
  if (there.date === here.date) return there.time;
  const day = shortDate(there.date, there.date.slice(0, 4) !== here.date.slice(0, 4));
  return `${at - now < weekMs ? day.slice(0, 3) : day} ${there.time}`;
}
