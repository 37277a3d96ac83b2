const dayMinutes = 1440;

/** Minutes since midnight of a time of day. */
export const minutesOf = (time: string) => Number(time.slice(0, 2)) * 60 + Number(time.slice(3));

/** The time of day so many minutes after midnight, on whichever day that is. */
export function timeAt(minutes: number): string {
  const at = ((minutes % dayMinutes) + dayMinutes) % dayMinutes;
  return `${String(Math.floor(at / 60)).padStart(2, '0')}:${String(at % 60).padStart(2, '0')}`;
}

/** True for minutes that lie in the same day. */
export const isInDay = (minutes: number) => minutes >= 0 && minutes < dayMinutes;

/** Hours of a performance, as it is saved or as it stands in the form, where what is not known is empty. */
interface Hours {
  doors: string | null;
  end: string | null;
  endsNextDay: boolean;
  lastDate: string | null;
}

/** Doors and end so many minutes later; the end of several days stays. Doors stay in the day. */
export function movedBy<T extends Hours>(item: T, minutes: number): T {
  const doors = item.doors ? minutesOf(item.doors) + minutes : null;
  const end = item.end && item.lastDate === null ? minutesOf(item.end) + minutes : null;
  const ends = end === null ? null : end + (item.endsNextDay ? dayMinutes : 0);
  return {
    ...item,
    ...(doors === null ? {} : { doors: timeAt(Math.max(0, Math.min(doors, dayMinutes - 1))) }),
    ...(ends === null ? {} : { end: timeAt(ends), endsNextDay: ends >= dayMinutes }),
  };
}
