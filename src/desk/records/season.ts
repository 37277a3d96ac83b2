import { asks, reachedIds } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import type { RecordId } from '@/core/base/ids';
import { sameData } from '@/core/base/same-data';
import { channelsOf, type House } from '@/house/house';
import { seasonLine, seasonLineSchema, type SeasonLine } from '@/house/season-line';
import { surveyRecord } from '@/channels/survey';
import { inputFrom, surveyContext, surveysOf, type SurveyContext, type SurveyedRecord } from '@/house/survey';
import { keptLines, linesSince, nextMoment, pulseRow } from '@/store/pulse';
import { allRecords, type RecordAt } from '@/store/records';
import type { ListedEvent } from '@/views/season';

/** One line of the season. */
interface SeasonRow extends ListedEvent {
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

/**
 * So long is reckoned while somebody waits, in milliseconds; the rest is counted in the background, and stands as it
 * was till then.
 */
const waitMs = 300;

/** A line as it was kept, by its text; `null`: there is none, or one of an earlier make. */
interface KnownLine {
  text: string | null;
  line: SeasonLine | null;
}

/** The season as it was told last, with what is needed to tell it anew where only some of it changed. */
interface KnownSeason {
  /** The newest change that was read. */
  seen: number;
  /** What was written, and between which moments, under which it is the same. */
  writes: number;
  /** How many records were deleted till then. */
  removed: number;
  from: number;
  until: number;
  lines: Map<RecordId, KnownLine>;
  /** Lines that are to be counted anew: until then they are reckoned here. */
  stale: Set<RecordId>;
  rows: Map<RecordId, SeasonRow>;
  season: Season;
}

const known = new WeakMap<House['db'], KnownSeason>();

/**
 * Every event, in the order of dates: what changed is read, and reckoned as far as the time allows; what did not is as
 * it was. `patienceMs`: how long is reckoned while somebody waits, in milliseconds.
 */
export function season(house: House, doer: Doer, patienceMs = waitMs): Season {
  asks(doer, 'season');
  const all = wholeSeason(house, patienceMs);
  const reached = reachedIds(house.db, doer);
  return reached === null ? all : { ...all, rows: all.rows.filter(({ id }) => reached.has(id)) };
}

/** The season of the whole house. */
function wholeSeason(house: House, patienceMs: number): Season {
  const now = house.clock.now();
  const { writes, removed } = pulseRow(house.db);
  const last = known.get(house.db);
  // Where nothing was written and no moment has come that changes a line, it is the same.
  if (last?.season.behind === 0 && last.writes === writes && now >= last.from && now < last.until)
    return { ...last.season, now };
  const channels = channelsOf(house, house.db);
  const headings = channels.map(({ kind, rules: { id, name, shortName } }) => ({
    ...{ id, name, heading: shortName },
    group: kind.group,
  }));
  // Other channels are other columns, and a clock that was put back is another day: all of it is made anew.
  // So it is where a record was deleted.
  const goesOn = last?.removed === removed && now >= last.from;
  const before = goesOn && sameData(last.season.channels, headings) ? last : null;
  const ids = channels.map(({ rules }) => rules.id);
  const next = readInto(house, before, now);
  const { changed, behind } = reckon(house, next, now, patienceMs);
  const moves = [...changed].map(([id, line]) => ({ id, from: next.rows.get(id), to: rowOf(line, ids) }));
  for (const { id, to } of moves) next.rows.set(id, to);
  const rows =
    before && moves.length < mostMoved ? moved(before.season.rows, moves) : [...next.rows.values()].sort(byDate);
  const made = { rows, channels: headings, now, behind, mark: `${writes}.${now}` };
  // What is to be counted anew has no next moment yet that is known: nothing holds until it has.
  const until = next.stale.size > 0 ? now : nextMoment(house.db, now);
  known.set(house.db, { ...next, writes, removed, from: now, until, season: made });
  return made;
}

function rowOf({ standings, at, ...line }: SeasonLine, channels: readonly string[]): SeasonRow {
  return { ...line, at: at ?? Infinity, standings: channels.map((id) => standings[id] ?? null) };
}

function byDate(a: SeasonRow, b: SeasonRow): number {
  if (a.at !== b.at) return a.at < b.at ? -1 : 1;
  return a.code < b.code ? -1 : a.code > b.code ? 1 : 0;
}

/** Of more changes than these all rows are put in order anew. */
const mostMoved = 200;

/** The rows of before, with those that changed taken from where they were and put where they belong now. */
function moved(
  before: readonly SeasonRow[],
  moves: readonly { from: SeasonRow | undefined; to: SeasonRow }[],
): SeasonRow[] {
  const rows = [...before];
  for (const { from, to } of moves) {
    if (from) rows.splice(placeOf(rows, from), 1);
    rows.splice(placeOf(rows, to), 0, to);
  }
  return rows;
}

/** Where a row is, or belongs, among rows in the order of dates: codes differ, so there is one place. */
function placeOf(rows: readonly SeasonRow[], row: SeasonRow): number {
  let [low, high] = [0, rows.length];
  while (low < high) {
    const middle = (low + high) >>> 1;
    const there = rows[middle];
    if (there && byDate(there, row) < 0) low = middle + 1;
    else high = middle;
  }
  return low;
}

type Reading = Pick<KnownSeason, 'seen' | 'lines' | 'stale' | 'rows'> & { touched: Set<RecordId> };

/** Reads what changed since the season was told last; all of it where there is no before. */
function readInto(house: House, before: KnownSeason | null, now: number): Reading {
  const read = before ? linesSince(house.db, before.seen, now) : keptLines(house.db, now);
  const next: Reading = {
    seen: before?.seen ?? 0,
    lines: before?.lines ?? new Map(),
    stale: before?.stale ?? new Set(),
    rows: before?.rows ?? new Map(),
    touched: new Set(before?.stale),
  };
  for (const { id, line: text, stale, changed } of read) {
    const same = next.lines.get(id);
    if (!same || same.text !== text) next.lines.set(id, { text, line: lineOf(text) });
    if (stale) next.stale.add(id);
    else next.stale.delete(id);
    next.touched.add(id);
    next.seen = Math.max(next.seen, changed);
  }
  return next;
}

/** So many are reckoned on one ground. */
const atOnce = 40;

/**
 * The lines that were touched, as they are now: reckoned while there is time; then those that are kept stand as they
 * are, and of the others only what the record says.
 */
function reckon(
  house: House,
  { lines, stale, touched }: Reading,
  now: number,
  patienceMs: number,
): { changed: Map<RecordId, SeasonLine>; behind: number } {
  const begun = performance.now();
  const changed = new Map<RecordId, SeasonLine>();
  for (const id of touched) {
    const line = lines.get(id)?.line;
    if (line) changed.set(id, line);
  }
  // A line that was never counted comes before one that was: of it nothing could be shown.
  const late = [...stale].sort((a, b) => Number(changed.has(a)) - Number(changed.has(b)));
  let behind = 0;
  for (let from = 0; from < late.length; from += atOnce) {
    const over = performance.now() - begun > patienceMs;
    const ids = late.slice(from, from + atOnce).filter((id) => !over || !changed.has(id));
    if (over) behind += Math.min(atOnce, late.length - from);
    if (ids.length === 0) continue;
    for (const record of over ? baresOf(house, ids) : surveysOf(house, ids))
      changed.set(record.record.id, seasonLine(record, now));
  }
  return { changed, behind };
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

/** A line as it was kept; `null` where there is none, or one of an earlier make. */
function lineOf(text: string | null): SeasonLine | null {
  return text === null ? null : (seasonLineSchema.safeParse(JSON.parse(text)).data ?? null);
}
