import { channelsOf, type House } from '@/house/house';
import { seasonLine, seasonLineSchema, type SeasonLine } from '@/house/season-line';
import { surveyGround, surveyOne } from '@/house/survey';
import { parseJson } from '@/store/database';
import { keptLines, type KeptLine } from '@/store/pulse';
import { recordAt } from '@/store/records';
import type { Standing } from '@/core/listing/standing';

/** One line of the season. */
export interface SeasonRow extends Omit<SeasonLine, 'standings' | 'at'> {
  /** Instant of that performance, for the order. */
  at: number;
  /** Standing by channel, in their order; `null`: not wanted there. */
  standings: (Standing | null)[];
}

export interface Season {
  rows: SeasonRow[];
  channels: { id: string; name: string; heading: string; group: string }[];
  now: number;
  /** Lines that are as they were counted last, and are being counted anew. */
  behind: number;
}

/** So long is reckoned while somebody waits, in milliseconds; the rest is counted in the background, and stands as it was till then. */
const waitMs = 300;
/** Of few records the ground of each is read alone; of more, that of all at once. */
const fewRecords = 20;

/** Every event, in the order of dates: what changed is reckoned now, as far as the time allows, and what did not is read. */
export function season(house: House): Season {
  const now = house.clock.now();
  const channels = channelsOf(house, house.db);
  const { lines, behind } = linesNow(house, keptLines(house.db, now), now);
  const rows = lines
    .map(({ standings, at, ...line }) => ({
      ...line,
      at: at ?? Infinity,
      standings: channels.map(({ rules }) => standings[rules.id] ?? null),
    }))
    .sort((a, b) => a.at - b.at || (a.code < b.code ? -1 : 1));
  return {
    rows,
    channels: channels.map(({ kind, rules: { id, name, shortName } }) => ({
      id,
      group: kind.group,
      name,
      heading: shortName,
    })),
    now,
    behind,
  };
}

/** Lines as they are now: those that are not kept are reckoned whatever it takes, the others while there is time. */
function linesNow(house: House, kept: readonly KeptLine[], now: number): { lines: SeasonLine[]; behind: number } {
  const begun = performance.now();
  const read = kept.map((one) => ({ ...one, line: lineOf(one) }));
  // A line that was never counted comes before one that was: of it nothing could be shown.
  const late = read.filter((one) => one.stale).sort((a, b) => Number(a.line !== null) - Number(b.line !== null));
  const fresh = new Map<string, SeasonLine>();
  const ground = late.length > fewRecords ? surveyGround(house) : null;
  let behind = 0;
  for (const { id, line } of late) {
    if (line !== null && performance.now() - begun > waitMs) {
      behind += 1;
      continue;
    }
    const record = recordAt(house.db, id);
    if (record !== null)
      fresh.set(id, seasonLine(surveyOne(record, ground ?? surveyGround(house, id), house.kinds), now));
  }
  return { lines: read.flatMap(({ id, line }) => fresh.get(id) ?? line ?? []), behind };
}

/** Lines by their text: one that says the same is not read anew. */
const known = new Map<string, SeasonLine>();
const mostKnown = 40_000;

/** A line as it was kept; `null` where there is none, or one of an earlier make. */
function lineOf({ line }: KeptLine): SeasonLine | null {
  if (line === null) return null;
  const before = known.get(line);
  if (before) return before;
  const made = seasonLineSchema.safeParse(parseJson(line)).data ?? null;
  if (known.size >= mostKnown) known.clear();
  if (made !== null) known.set(line, made);
  return made;
}
