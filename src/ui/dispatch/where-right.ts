import type { Finding } from '@/core/findings/finding';
import { sectionOf } from '@/core/findings/section-of';

/** Where in a record's form a finding is put right; `null`: in no section that is known. */
export function whereRight(record: string, { path }: Pick<Finding, 'path'>): string | null {
  const section = sectionOf(path);
  return section === null ? null : `/records/${record}${section === 'top' ? '' : `#${section}`}`;
}
