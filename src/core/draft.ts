import { parseTimeOfDay } from './date-words';
import { finding, type Finding } from './finding';
import { minorDigits, parsePrice, toDecimal, type Currency } from './money';
import { checkRecord } from './check-record';
import type { Performance, PriceLevel, RecordContent, Venue } from './record';
import { fail, type Result } from './result';

/** A performance as it stands in the form: times are what was typed. */
export type PerformanceDraft = Omit<Performance, 'start' | 'end' | 'doors'> & { start: string; end: string; doors: string };

/** A price level as it stands in the form. */
export type LevelDraft = Omit<PriceLevel, 'price' | 'quantity'> & { price: string; quantity: string };

/** A record as it stands in the form: what was typed is kept as typed until it is saved. */
export type RecordDraft = Omit<RecordContent, 'performances' | 'tickets' | 'publicity'> & {
  performances: PerformanceDraft[];
  tickets: Omit<RecordContent['tickets'], 'levels' | 'link'> & { levels: LevelDraft[]; link: string };
  publicity: { visibility: 'private' | 'public'; announce: { date: string; time: string; zone: string } | null };
};

/** The form's view of a saved record. `readDraft(toDraft(x))` gives `x` back. */
export function toDraft(content: RecordContent): RecordDraft {
  const { currency } = content.tickets;
  return {
    ...content,
    performances: content.performances.map((one) => ({ ...one, doors: one.doors ?? '', end: one.end ?? '' })),
    tickets: {
      ...content.tickets,
      link: content.tickets.link ?? '',
      levels: content.tickets.levels.map((level) => ({
        ...level,
        price: priceText(level.price, currency),
        quantity: level.quantity === null ? '' : String(level.quantity),
      })),
    },
  };
}

/**
 * Reads what was typed. Either the record's content, fit to be saved, or every finding that forbids it; the
 * draft itself is never changed.
 */
export function readDraft(draft: RecordDraft, venues: ReadonlyMap<string, Venue>): Result<RecordContent, Finding[]> {
  const { candidate, findings } = loosely(draft);
  const checked = checkRecord(candidate, venues);
  if (checked.ok) return findings.length === 0 ? checked : fail(findings);
  const named = new Set(findings.map((one) => one.field));
  return fail([...findings, ...checked.error.filter((one) => !named.has(one.field))]);
}

/** Reads a draft as far as it can be read; what cannot be read stands as typed and has a finding. */
function loosely(draft: RecordDraft): { candidate: unknown; findings: Finding[] } {
  const findings: Finding[] = [];
  const { currency } = draft.tickets;
  const time = (text: string, field: string): string | null => {
    if (text.trim() === '') return null;
    const read = parseTimeOfDay(text);
    if (read === null) findings.push(finding(field, 'stops', { code: 'time-malformed', text }));
    return read ?? text;
  };
  const performances = draft.performances.map((one, i) => ({
    ...one,
    doors: time(one.doors, `performances.${i}.doors`),
    start: time(one.start, `performances.${i}.start`) ?? '',
    end: time(one.end, `performances.${i}.end`),
  }));
  const levels = draft.tickets.levels.map((level, i) => ({
    ...level,
    price: readPrice(level.price, currency, `tickets.levels.${i}.price`, findings),
    quantity: readQuantity(level.quantity, `tickets.levels.${i}.quantity`, findings),
  }));
  const announce = draft.publicity.announce && {
    ...draft.publicity.announce,
    time: time(draft.publicity.announce.time, 'publicity.announce.time') ?? '',
  };
  const link = draft.tickets.link.trim() === '' ? null : draft.tickets.link.trim();
  return {
    candidate: { ...draft, performances, tickets: { ...draft.tickets, levels, link }, publicity: { ...draft.publicity, announce } },
    findings,
  };
}

function readPrice(text: string, currency: Currency, field: string, findings: Finding[]): number {
  const price = parsePrice(text, currency);
  if (price === null) findings.push(finding(field, 'stops', { code: 'price-malformed', text, currency }));
  return price ?? 0;
}

function readQuantity(text: string, field: string, findings: Finding[]): number | null {
  if (text.trim() === '') return null;
  if (/^\s*[1-9]\d{0,5}\s*$/.test(text)) return Number(text);
  findings.push(finding(field, 'stops', { code: 'quantity-malformed', text }));
  return null;
}

function priceText(minor: number, currency: Currency): string {
  return minor % 10 ** minorDigits(currency) === 0 ? String(minor / 10 ** minorDigits(currency)) : toDecimal(minor, currency);
}

/**
 * The content that the proof is drawn from while a draft does not hold yet: the saved or last good content
 * with the draft's readable fields put over it. Fields that cannot be read keep their last good value.
 */
export function lenientContent(draft: RecordDraft, lastGood: RecordContent, venues: ReadonlyMap<string, Venue>): RecordContent {
  const whole = readDraft(draft, venues);
  if (whole.ok) return whole.value;
  const { candidate } = loosely(draft);
  const merged: Record<string, unknown> = { ...lastGood };
  for (const [key, value] of Object.entries(candidate as Record<string, unknown>)) {
    const attempt = checkRecord({ ...merged, [key]: value }, venues);
    if (attempt.ok) Object.assign(merged, attempt.value);
  }
  const checked = checkRecord(merged, venues);
  return checked.ok ? checked.value : lastGood;
}
