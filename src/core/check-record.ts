import { finding, type Finding, type FindingFact } from './finding';
import { recordSchema, type Performance, type RecordContent, type Venue } from './record';
import { ok, fail, type Result } from './result';
import { resolveLocal, isZone } from './zones';
import { addDays } from './zones';

/**
 * Checks a whole record in one pass: shape, times, places. Returns the content, or every finding that
 * forbids saving it. `field` of a finding is a path such as `performances.0.start`.
 */
export function checkRecord(input: unknown, venues: ReadonlyMap<string, Venue>): Result<RecordContent, Finding[]> {
  const parsed = recordSchema.safeParse(input);
  if (!parsed.success) return fail(parsed.error.issues.map((issue) => shapeFinding(issue, input)));
  const content = parsed.data;
  const findings = content.performances.flatMap((one, index) => checkPerformance(one, `performances.${index}`, venues));
  const announce = content.publicity.announce;
  if (announce !== null) findings.push(...checkReading(announce, 'publicity.announce.time', 'first'));
  return findings.length === 0 ? ok(content) : fail(findings);
}

function checkPerformance(one: Performance, path: string, venues: ReadonlyMap<string, Venue>): Finding[] {
  const found: Finding[] = [];
  if (one.doors !== null && one.doors > one.start) {
    found.push(finding(`${path}.doors`, 'stops', { code: 'doors-after-start', doors: one.doors, start: one.start }));
  }
  if (one.end !== null && !one.endsNextDay && one.end <= one.start) {
    found.push(finding(`${path}.end`, 'stops', { code: 'end-before-start', start: one.start, end: one.end }));
  }
  found.push(...checkReading({ date: one.date, time: one.start, zone: one.zone }, `${path}.start`, one.repeat));
  if (one.doors !== null) {
    found.push(...checkReading({ date: one.date, time: one.doors, zone: one.zone }, `${path}.doors`, one.repeat ?? 'first'));
  }
  if (one.end !== null) {
    const date = one.endsNextDay ? addDays(one.date, 1) : one.date;
    found.push(...checkReading({ date, time: one.end, zone: one.zone }, `${path}.end`, one.repeat ?? 'first'));
  }
  if (one.venueId !== null) {
    const venue = venues.get(one.venueId);
    if (!venue) found.push(finding(`${path}.venueId`, 'stops', { code: 'venue-unknown' }));
    else if (one.roomId !== null && !venue.rooms.some((room) => room.id === one.roomId)) {
      found.push(finding(`${path}.roomId`, 'stops', { code: 'room-unknown' }));
    }
  }
  return found;
}

function checkReading(at: { date: string; time: string; zone: string }, field: string, repeat: 'first' | 'second' | null): Finding[] {
  const found = resolveLocal(at, at.zone);
  if (found.kind === 'skipped') {
    return [finding(field, 'stops', { code: 'time-skipped', ...at, before: found.before.time, after: found.after.time })];
  }
  if (found.kind === 'twice' && repeat === null) return [finding(field, 'stops', { code: 'time-twice', ...at })];
  return [];
}

interface Issue {
  code: string;
  path: PropertyKey[];
  message: string;
  maximum?: number | bigint;
  origin?: string;
}

/** Turns a schema issue into a finding that names the field and the way out. */
function shapeFinding(issue: Issue, input: unknown): Finding {
  const field = issue.path.map(String).join('.');
  return finding(field, 'stops', shapeFact(issue, field, valueAt(input, issue.path)));
}

function shapeFact(issue: Issue, field: string, value: unknown): FindingFact {
  const text = typeof value === 'string' ? value : '';
  if (issue.code === 'too_big' && typeof value === 'string') {
    return { code: 'text-too-long', length: value.length, limit: Number(issue.maximum) };
  }
  if (issue.code === 'too_big' && Array.isArray(value)) {
    return { code: 'too-many', count: value.length, limit: Number(issue.maximum) };
  }
  if (field === 'title') return { code: 'title-empty' };
  if (/\.name$/.test(field)) return { code: 'name-empty' };
  if (/date$/.test(field)) return { code: 'date-malformed', text };
  if (/\.start$/.test(field) && text === '') return { code: 'start-empty' };
  if (/\.(start|end|doors|time)$/.test(field)) return { code: 'time-malformed', text };
  if (/zone$/.test(field) && !isZone(text)) return { code: 'zone-unknown', zone: text };
  if (/link$/.test(field)) return { code: 'link-malformed', text };
  if (/\.price$/.test(field)) return { code: 'price-malformed', text: String(value), currency: 'this currency' };
  return { code: 'value-refused', detail: issue.message };
}

function valueAt(input: unknown, path: PropertyKey[]): unknown {
  return path.reduce<unknown>((at, key) => (at !== null && typeof at === 'object' ? (at as Record<PropertyKey, unknown>)[key] : undefined), input);
}
