/** A file that is being read, or was, as the screen is told of it. */
export interface FileJob {
  id: string;
  name: string;
  state: 'waiting' | 'reading' | 'done' | 'stopped' | 'failed';
  bytes: number;
  progress: { place: number; line: number; of: number };
  report: FileReport;
  error: string | null;
}

export interface FileReport {
  counts: { made: number; known: number; asked: number; broken: number };
  made: ReadRow[];
  known: ReadRow[];
  asked: {
    line: number;
    title: string;
    town: string;
    country: string;
    field: string;
    text: string;
    choices: TownChoice[];
  }[];
  broken: { line: number; field: string; text: string }[];
  notes: { line: number; text: string }[];
}

/** A town that a row may mean. */
export interface TownChoice {
  label: string;
  zone: string;
  point: { lat: number; lon: number };
}

/** What a person says of a town that the file does not tell. */
export interface TownAnswer {
  town: string;
  country: string;
  zone: string;
  point: TownChoice['point'] | null;
}

interface ReadRow {
  line: number;
  id: string;
  code: string;
  title: string;
  notes: string[];
}

/** Whether a file is still being worked on. */
export function isUnderWay({ state }: FileJob): boolean {
  return state === 'waiting' || state === 'reading';
}

/** `season.csv: 12 made, 3 already here, 1 broken`. */
export function headWords({ name, state, report: { counts } }: FileJob): string {
  const asked = counts.asked === 0 ? '' : `, ${counts.asked} asked`;
  return `${name}: ${counts.made} made, ${counts.known} already here, ${counts.broken} broken${asked}${state === 'stopped' ? '; stopped' : ''}`;
}

/** How far it is, in rows. */
export function progressWords({ state, progress: { place, line, of }, report: { counts } }: FileJob): string {
  if (state === 'waiting') return 'Waiting for the file before it …';
  const done = counts.made + counts.known + counts.asked + counts.broken;
  return of > 0
    ? `Reading event ${Math.min(place + 1, of)} of ${of}; ${done} taken in …`
    : `Reading line ${line || 1}; ${done} rows taken in …`;
}

interface AskedTown {
  key: string;
  town: string;
  country: string;
  choices: TownChoice[];
  lines: number[];
}

/** The towns that are asked about, each once. */
export function askedTowns({ asked }: FileReport): AskedTown[] {
  const towns = new Map<string, AskedTown>();
  for (const { town, country, choices, line } of asked) {
    const key = `${town}|${country}`;
    const known = towns.get(key) ?? { key, town, country, choices, lines: [] };
    known.lines.push(line);
    towns.set(key, known);
  }
  return [...towns.values()];
}
