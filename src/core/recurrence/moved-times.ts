import { doorsDate } from '../dates/readings';

/** Times of one performance as they stand in a form: HH:mm, or empty. */
export interface FormTimes {
  doors: string;
  start: string;
  end: string;
  endsNextDay: boolean;
}

const dayMinutes = 1440;
const minutes = (time: string) =>
  /^\d\d:\d\d$/.test(time) ? Number(time.slice(0, 2)) * 60 + Number(time.slice(3)) : null;
const words = (at: number) => `${String(Math.floor(at / 60)).padStart(2, '0')}:${String(at % 60).padStart(2, '0')}`;

/**
 * The times of a performance like this one that starts at another time of day: doors open as long before it and it ends
 * as long after. Doors may open on the evening before a start soon after midnight; earlier ones are left open.
 */
export function timesFrom({ doors, start, end, endsNextDay }: FormTimes, newStart: string): FormTimes {
  const [was, now] = [minutes(start), minutes(newStart)];
  if (was === null || now === null) return { doors, start: newStart, end, endsNextDay };
  const [open, close] = [minutes(doors), minutes(end)];
  const early = open !== null && doorsDate({ date: anyDay, doors, start }) !== anyDay ? dayMinutes : 0;
  const openNow = open === null ? null : open - early + now - was;
  const closeNow = close === null ? null : close + (endsNextDay ? dayMinutes : 0) + now - was;
  return {
    doors: openNow === null ? '' : openingAt(openNow, newStart),
    start: newStart,
    end: closeNow === null ? '' : words(closeNow % dayMinutes),
    endsNextDay: closeNow !== null && closeNow >= dayMinutes,
  };
}

const anyDay = '2027-01-02';

/** Doors at so many minutes from the midnight before the start; empty where they cannot be said of that start. */
function openingAt(at: number, start: string): string {
  if (at >= 0) return at < dayMinutes ? words(at) : '';
  const doors = words(at + dayMinutes);
  return doorsDate({ date: anyDay, doors, start }) === anyDay ? '' : doors;
}
