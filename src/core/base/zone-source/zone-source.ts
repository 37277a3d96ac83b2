/**
 * A zone's clock: up to `untils[i]` (milliseconds since 1970, from the one before) local time is `offsets[i]` minutes
 * behind UTC and called `abbrs[i]`. The last one has no end (`null` or infinite).
 */
export interface ZoneClock {
  readonly untils: readonly (number | null)[];
  readonly offsets: readonly number[];
  readonly abbrs: readonly string[];
}

/** Where zones are looked up: all that ship on the server; in a browser those that it was given. */
export interface ZoneSource {
  /** The clock of a zone of the IANA data; `null`: there is none of that name, or it was not given. */
  clock(name: string): ZoneClock | null;
  names(): readonly string[];
  /** Version of the IANA data, e.g. `2026f`; empty where only some of it was given. */
  readonly version: string;
  /** Takes clocks in, and the names of all there are. */
  give(clocks: ReadonlyMap<string, ZoneClock>, names?: readonly string[]): void;
  /** The clocks that were given. */
  given(): ReadonlyMap<string, ZoneClock>;
}
