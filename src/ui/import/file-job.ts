import type { FileJob, FileReport } from '@/views/files';

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
  choices: FileReport['asked'][number]['choices'];
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
