import type { RecordId } from '@/core/base/ids';
import { channelsOf, type House } from '@/house/house';
import { seasonLine, seasonLineSchema, type SeasonLine } from '@/house/season-line';
import { surveyRecord } from '@/channels/survey';
import { inputFrom, surveyContext, surveysOf, type SurveyContext, type SurveyedRecord } from '@/house/survey';
import { parseJson } from '@/store/database';
import { keptLines, nextMoment, pulseRow, type KeptLine } from '@/store/pulse';
import { allRecords, type RecordAt } from '@/store/records';
import type { ListedEvent } from '@/views/season';

/** One line of the season. */
export interface SeasonRow extends ListedEvent {
  id: RecordId;
  /** Instant of that performance, for the order. */
  at: number;
  tour: string | null;
}

export interface Season {
  rows: SeasonRow[];
  channels: { id: string; name: string; heading: string; group: string }[];
  now: number;
  /** Lines that are as they were counted last, and are being counted anew. */
  behind: number;
  /** Another with every change. */
  mark: string;
}

/** So long is reckoned while somebody waits, in milliseconds; the rest is counted in the background, and stands as it was till then. */
const waitMs = 300;

const kept = new Map<string, { writes: number; from: number; until: number; season: Season }>();

/** Every event, in the order of dates: what changed is reckoned now, as far as the time allows, and what did not is read. */
export function season(house: House): Season {
  const now = house.clock.now();
  const { writes } = pulseRow(house.db);
  const last = kept.get(house.folder);
  // Where nothing was written and no moment has come that changes a line, it is the same.
  if (last?.writes === writes && now >= last.from && now < last.until) return { ...last.season, now };
  const made = { ...seasonNow(house, now), mark: `${writes}.${now}` };
  if (made.behind === 0) kept.set(house.folder, { writes, from: now, until: nextMoment(house.db, now), season: made });
  else kept.delete(house.folder);
  return made;
}

function seasonNow(house: House, now: number): Omit<Season, 'mark'> {
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

/** So many are reckoned on one ground. */
const atOnce = 40;

/** Lines as they are now: reckoned while there is time; then those that are kept stand as they are, and of the others only what the record says. */
function linesNow(house: House, kept: readonly KeptLine[], now: number): { lines: SeasonLine[]; behind: number } {
  const begun = performance.now();
  const read = kept.map((line) => ({ ...line, line: lineOf(line) }));
  // A line that was never counted comes before one that was: of it nothing could be shown.
  const late = read
    .filter((candidate) => candidate.stale)
    .sort((a, b) => Number(a.line !== null) - Number(b.line !== null));
  const fresh = new Map<string, SeasonLine>();
  let behind = 0;
  for (let from = 0; from < late.length; from += atOnce) {
    const over = performance.now() - begun > waitMs;
    const ids = late.slice(from, from + atOnce).flatMap(({ id, line }) => (over && line !== null ? [] : [id]));
    if (over) behind += Math.min(atOnce, late.length - from);
    if (ids.length === 0) continue;
    for (const record of over ? baresOf(house, ids) : surveysOf(house, ids))
      fresh.set(record.record.id, seasonLine(record, now));
  }
  return { lines: read.flatMap(({ id, line }) => fresh.get(id) ?? line ?? []), behind };
}

/** What records say by themselves, on no channel. */
function baresOf(house: House, ids: readonly RecordId[]): SurveyedRecord[] {
  const context = surveyContext(house, ids);
  return allRecords(house.db, ids).map((record) => bare(record, context));
}

function bare(record: RecordAt, context: SurveyContext): SurveyedRecord {
  const survey = surveyRecord({
    ...inputFrom(record, context),
    listings: [],
    errands: new Map(),
    channels: [],
    sold: new Map(),
  });
  return {
    record,
    survey,
    channels: [],
    mark: '',
    house: '',
    holds: { until: context.now, monotonicUntil: context.monotonic },
  };
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
