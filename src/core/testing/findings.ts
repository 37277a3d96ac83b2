import { facts } from '../facts/facts';
import { contentFindings } from '../listing/content-findings';
import type { RecordContent } from '../record/record';
import type { Instant } from '../base/zones';
import { venues } from './samples';

/** What a record's own sums say, each as weight, code and its numbers: `warns total-over 200 160`. */
export function findingsOf(content: RecordContent, now: Instant): string[] {
  return contentFindings(facts(content, { code: 'X', venues, now }), now).map(({ weight, code, path: _, ...rest }) =>
    [weight, code, ...Object.values(rest).filter((value) => typeof value === 'number')].slice(0, 4).join(' '),
  );
}
