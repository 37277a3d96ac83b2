import type { z } from 'zod';
import { roomFor, type Venue } from './directory';
import { countGraphemes } from '../base/graphemes';
import { beneath, finding, type Finding, type FindingFact, type FindingPath } from '../findings/finding';
import { performanceSchema, recordSchema, type Performance, type RecordContent } from './record';
import { recordLimits } from './choices';
import { ok, fail, type Result } from '../base/result';
import { doorsDate, readingsOf, readingTwice } from '../dates/readings';
import { problemAt, textOf } from '../base/problems';
import { quoted } from '../base/quoted';
import { resolveLocal } from '../base/zones';

const shellSchema = recordSchema.omit({ performances: true });

/**
 * Checks a whole record in one pass: shape, times, places, tickets. Returns the content, or every finding that forbids
 * saving it. `field` of a finding is a path such as `performances.0.start`. A performance that is the same object as at
 * an earlier check is not checked again, and comes back as the same object: a run of thousands costs what changed.
 */
export function checkRecord(input: unknown, venues: ReadonlyMap<string, Venue>): Result<RecordContent, Finding[]> {
  const shell = shellSchema.safeParse(input);
  const found: Finding[] = shell.success
    ? []
    : shell.error.issues.map((issue) => shapeFinding(shellSchema, issue, input));
  const given = (input as { performances?: unknown } | null)?.performances;
  const list: unknown[] = Array.isArray(given) ? given : [];
  if (list.length === 0) found.push(finding(['performances'], 'stops', { code: 'performances-none' }));
  if (list.length > recordLimits.performances)
    return fail([
      finding(['performances'], 'stops', { code: 'too-many', count: list.length, limit: recordLimits.performances }),
    ]);
  const performances: Performance[] = [];
  list.forEach((item, i) => {
    const { value, findings } = checkPerformance(item, venues);
    if (value !== null) performances.push(value);
    for (const f of findings) found.push(beneath(['performances', i], f));
  });
  const ids = new Set(performances.map((performance) => performance.id));
  if (ids.size < performances.length)
    found.push(
      finding(['performances'], 'stops', { code: 'value-refused', detail: 'two performances have the same id' }),
    );
  if (!shell.success || found.length > 0) return fail(found);
  const content: RecordContent = { ...shell.data, performances };
  const findings = checkWhole(content);
  return findings.length === 0 ? ok(content) : fail(findings);
}

function checkWhole(content: RecordContent): Finding[] {
  const { publicity, tickets, notices } = content;
  const findings: Finding[] = [...checkParts(content), ...checkCoupons(tickets), ...checkQuestions(tickets)];
  if (new Set(notices.map((notice) => notice.id)).size < notices.length)
    findings.push(finding(['notices'], 'stops', { code: 'value-refused', detail: 'two notices have the same id' }));
  notices.forEach((notice, i) => {
    if (notice.notBefore !== null)
      findings.push(...checkReading(notice.notBefore, ['notices', i, 'notBefore', 'time'], 'first'));
  });
  if (publicity.announce !== null)
    findings.push(...checkReading(publicity.announce, ['publicity', 'announce', 'time'], 'first'));
  tickets.levels.forEach((level, i) => {
    if (level.most !== null && level.most < level.least) {
      findings.push(
        finding(['tickets', 'levels', i, 'most'], 'stops', {
          code: 'order-impossible',
          level: level.name,
          least: level.least,
          most: level.most,
        }),
      );
    }
  });
  return findings;
}

/** What names another part of the record, names one that is there. */
function checkParts({
  performances,
  tickets,
  links,
  leadsAway,
  programme,
  documents,
  linkChoices,
}: RecordContent): Finding[] {
  const found: Finding[] = [];
  const ids = new Set(performances.map((performance) => performance.id));
  for (const [name, list] of Object.entries({ links, programme, documents, linkChoices })) {
    if (new Set(list.map((item) => item.id)).size < list.length)
      found.push(finding([name], 'stops', { code: 'value-refused', detail: 'two of them have the same id' }));
  }
  tickets.levels.forEach(({ name, covers, least }, i) => {
    const at = ['tickets', 'levels', i, 'covers'];
    if (covers.kind === 'chosen' && covers.ids.some((id) => !ids.has(id)))
      found.push(finding(at, 'stops', { code: 'covers-gone', level: name }));
    if (covers.kind === 'any' && covers.n > performances.length && performances.length > 1)
      found.push(finding(at, 'stops', { code: 'covers-many', level: name, n: covers.n, dates: performances.length }));
    if (tickets.mostPerOrder !== null && least > tickets.mostPerOrder)
      found.push(
        finding(['tickets', 'mostPerOrder'], 'stops', {
          code: 'order-impossible',
          level: name,
          least,
          most: tickets.mostPerOrder,
        }),
      );
  });
  if (leadsAway !== null && !links.some((link) => link.id === leadsAway))
    found.push(finding(['leadsAway'], 'stops', { code: 'part-gone', what: 'What the entry leads straight to' }));
  programme.forEach(({ performanceId, title }, i) => {
    if (performanceId !== null && !ids.has(performanceId))
      found.push(
        finding(['programme', i, 'performanceId'], 'stops', {
          code: 'part-gone',
          what: `The date of ${quoted(title)}`,
        }),
      );
  });
  documents.forEach(({ from }, i) => {
    if (from !== null) found.push(...checkReading(from, ['documents', i, 'from', 'time'], 'first'));
  });
  return found;
}

function checkCoupons({ coupons, levels }: RecordContent['tickets']): Finding[] {
  const found: Finding[] = [];
  const known = new Set(levels.map((level) => level.id));
  coupons.forEach(({ code, from, until, levels: own }, i) => {
    const at = ['tickets', 'coupons', i];
    if (coupons.findIndex((coupon) => coupon.code.toLowerCase() === code.toLowerCase()) < i)
      found.push(finding([...at, 'code'], 'stops', { code: 'coupon-twice', name: code }));
    if (from !== null && until !== null && until < from)
      found.push(finding([...at, 'until'], 'stops', { code: 'coupon-never', name: code }));
    if (own.some((id) => !known.has(id)))
      found.push(finding([...at, 'levels'], 'stops', { code: 'part-gone', what: `The coupon ${quoted(code)}` }));
  });
  return found;
}

function checkQuestions({ questions }: RecordContent['tickets']): Finding[] {
  return questions.flatMap(({ ask, answer, choices, consent }, i) => {
    const at = ['tickets', 'questions', i];
    if ((answer === 'one of' || answer === 'several of') && choices.length === 0)
      return [finding([...at, 'choices'], 'stops', { code: 'choices-none', ask })];
    if (answer === 'consent' && consent.trim() === '')
      return [finding([...at, 'consent'], 'stops', { code: 'consent-empty', ask })];
    return [];
  });
}

interface CheckedPerformance {
  venues: ReadonlyMap<string, Venue>;
  value: Performance | null;
  findings: Finding[];
}

const checkedBefore = new WeakMap<object, CheckedPerformance>();

function checkPerformance(input: unknown, venues: ReadonlyMap<string, Venue>): CheckedPerformance {
  const key = input !== null && typeof input === 'object' ? input : null;
  const kept = key && checkedBefore.get(key);
  if (kept && kept.venues === venues) return kept;
  const parsed = kept?.value ? { success: true as const, data: kept.value } : performanceSchema.safeParse(input);
  const made: CheckedPerformance = parsed.success
    ? { venues, value: parsed.data, findings: [...checkTimes(parsed.data), ...checkPlace(parsed.data, venues)] }
    : {
        venues,
        value: null,
        findings: parsed.error.issues.map((issue) => shapeFinding(performanceSchema, issue, input)),
      };
  if (key) checkedBefore.set(key, made);
  // What came out is fit to go in again.
  if (made.value) checkedBefore.set(made.value, made);
  return made;
}

function checkTimes(performance: Performance): Finding[] {
  const found: Finding[] = [];
  const { start, doors, end, date, zone, lastDate } = performance;
  if (performance.precision === 'exact' && start === null)
    found.push(finding(['start'], 'stops', { code: 'start-empty' }));
  if (lastDate !== null && lastDate < date) found.push(finding(['lastDate'], 'stops', { code: 'last-before-first' }));
  if (performance.precision === 'open' || performance.precision === 'month') return found;
  if (doors !== null && start !== null && doors > start && doorsDate(performance) === date) {
    found.push(finding(['doors'], 'stops', { code: 'doors-after-start', doors, start }));
  }
  if (
    end !== null &&
    start !== null &&
    !performance.endsNextDay &&
    (lastDate === null || lastDate === date) &&
    end <= start
  ) {
    found.push(finding(['end'], 'stops', { code: 'end-before-start', start, end }));
  }
  // One question is asked of a night, of whichever reading comes twice first.
  const asked = performance.repeat === null ? readingTwice(performance) : null;
  return [
    ...found,
    ...readingsOf(performance).flatMap((at) =>
      checkReading({ date: at.date, time: at.time, zone }, at.field, asked?.field === at.field ? null : 'first'),
    ),
  ];
}

function checkPlace(performance: Performance, venues: ReadonlyMap<string, Venue>): Finding[] {
  if (performance.venueId === null) return [];
  const venue = venues.get(performance.venueId);
  if (!venue) return [finding(['venueId'], 'stops', { code: 'venue-unknown' })];
  const found = roomFor(venue, performance.roomId, performance.setUpId);
  if (performance.roomId !== null && found === null) return [finding(['roomId'], 'stops', { code: 'room-unknown' })];
  return performance.setUpId !== null && found?.setUp === null
    ? [finding(['setUpId'], 'stops', { code: 'set-up-unknown' })]
    : [];
}

function checkReading(
  at: { date: string; time: string; zone: string },
  field: string | FindingPath,
  repeat: 'first' | 'second' | null,
): Finding[] {
  const found = resolveLocal(at, at.zone);
  const path = typeof field === 'string' ? [field] : field;
  if (found.kind === 'skipped') {
    return [
      finding(path, 'stops', { code: 'time-skipped', ...at, before: found.before.time, after: found.after.time }),
    ];
  }
  if (found.kind === 'twice' && repeat === null) return [finding(path, 'stops', { code: 'time-twice', ...at })];
  return [];
}

/** Turns what a schema refused into a finding that names the field and the way out. */
function shapeFinding(schema: z.ZodType, issue: z.core.$ZodIssue, input: unknown): Finding {
  const path = issue.path.map((key) => (typeof key === 'number' ? key : String(key)));
  const value = issue.path.reduce<unknown>(
    (at, key) => (at !== null && typeof at === 'object' ? (at as Record<PropertyKey, unknown>)[key] : undefined),
    input,
  );
  return finding(
    path,
    'stops',
    shapeFact(issue, value) ?? problemAt(schema, issue.path, input) ?? refused(issue, value),
  );
}

/** What is said of every text and list alike that is too long. */
function shapeFact(issue: z.core.$ZodIssue, value: unknown): FindingFact | null {
  if (issue.code !== 'too_big') return null;
  const limit = Number(issue.maximum);
  if (typeof value === 'string') return { code: 'text-too-long', length: countGraphemes(value), limit };
  return Array.isArray(value) ? { code: 'too-many', count: value.length, limit } : null;
}

const shapes: Readonly<Record<string, string>> = {
  string: 'a text',
  number: 'a number',
  int: 'a whole number',
  boolean: 'yes or no',
  array: 'a list',
  object: 'a group of facts',
};

/** What is said where the schema itself says nothing: of the shape alone. */
function refused(issue: z.core.$ZodIssue, value: unknown): FindingFact {
  return { code: 'value-refused', detail: refusal(issue, value) };
}

function refusal(issue: z.core.$ZodIssue, value: unknown): string {
  switch (issue.code) {
    case 'invalid_type':
      return `${shapes[issue.expected] ?? issue.expected} is wanted here`;
    case 'too_small':
      return issue.origin === 'string'
        ? 'it is empty'
        : issue.origin === 'number'
          ? `it is below ${issue.minimum}`
          : `at least ${issue.minimum} are needed`;
    case 'too_big':
      return `it is above ${issue.maximum}`;
    case 'invalid_format':
      return `${quoted(textOf(value))} is not written as it must be`;
    case 'invalid_value':
    case 'invalid_union':
    case 'invalid_key':
      return `${quoted(textOf(value))} is none of those that are known`;
    default:
      return issue.message;
  }
}
