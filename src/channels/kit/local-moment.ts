import { offsetMinutes, toLocal } from '@/core/base/zones';

/** As the clock of its zone reads. */
interface LocalMoment {
  date: string;
  time: string;
  /** With its offset (ISO 8601). */
  iso: string;
}

/** A moment on the wire, `2027-03-14T20:00:00Z[Europe/Dublin]`, as the clock of its zone reads; `null`: it is none. */
export function localMoment(moment: string): LocalMoment | null {
  const found = /^([\d:T.-]{16,30}Z)\[([\w/+-]{1,60})\]$/.exec(moment);
  const at = found ? Date.parse(found[1] ?? '') : NaN;
  if (!found || Number.isNaN(at)) return null;
  const zone = found[2] ?? 'UTC';
  const { date, time } = toLocal(at, zone);
  const minutes = offsetMinutes(at, zone);
  const pad = (n: number) => String(n).padStart(2, '0');
  const offset = `${minutes < 0 ? '-' : '+'}${pad(Math.floor(Math.abs(minutes) / 60))}:${pad(Math.abs(minutes) % 60)}`;
  return { date, time, iso: `${date}T${time}:00${offset}` };
}
