/** Times of one performance as they stand in a form: HH:mm, or empty. */
export interface FormTimes {
  doors: string;
  start: string;
  end: string;
  endsNextDay: boolean;
}

const dayMinutes = 1440;
const minutes = (time: string) => (/^\d\d:\d\d$/.test(time) ? Number(time.slice(0, 2)) * 60 + Number(time.slice(3)) : null);
const words = (at: number) => `${String(Math.floor(at / 60)).padStart(2, '0')}:${String(at % 60).padStart(2, '0')}`;

/**
 * The times of a performance like this one that starts at another time of day: doors open as long before it and it ends
 * as long after. Doors that would open on the day before are left open.
 */
export function timesFrom({ doors, start, end, endsNextDay }: FormTimes, newStart: string): FormTimes {
  const [was, now] = [minutes(start), minutes(newStart)];
  if (was === null || now === null) return { doors, start: newStart, end, endsNextDay };
  const [open, close] = [minutes(doors), minutes(end)];
  const openNow = open === null ? null : open + now - was;
  const closeNow = close === null ? null : close + (endsNextDay ? dayMinutes : 0) + now - was;
  return {
    doors: openNow === null || openNow < 0 || openNow >= dayMinutes ? '' : words(openNow),
    start: newStart,
    end: closeNow === null ? '' : words(closeNow % dayMinutes),
    endsNextDay: closeNow !== null && closeNow >= dayMinutes,
  };
}
