import { toLocal } from '@/core/base/zones';
import { shortDate } from '@/core/dates/date-words';
import type { Finding } from '@/core/findings/finding';
import type { Override } from '@/core/record/record';

/** Things in a section that a person should look at though they do not forbid saving. */
export function asking(section: string, findings: readonly Finding[], clashes: number): number {
  if (section === 'dates') return clashes;
  const tickets = new Set(['over-allocated', 'oversold', 'house-strained', 'sale-never-open']);
  return section === 'tickets'
    ? new Set(findings.filter((finding) => tickets.has(finding.code)).map((finding) => finding.code)).size
    : 0;
}

export function withOverride(
  all: readonly Override[],
  channel: string,
  field: string,
  next: { value: string; from: string } | null,
): Override[] {
  const others = all.filter((candidate) => candidate.channel !== channel || candidate.field !== field);
  return next === null ? others : [...others, { channel, field, ...next }];
}

/** When it was saved: today by its time, before that by its day too. */
export function sinceWords(at: number, today: string, zone: string): string {
  const { date, time } = toLocal(at, zone);
  return date === today ? time : `${shortDate(date)}, ${time}`;
}
