import { fingerprint } from '../base/hash';
import { fieldOf, type Finding } from '../findings/finding';
import { findingWords } from '../findings/finding-words';
import { tellsNothingNew, type Operation } from '../listing/operations';
import type { SurveyedListing } from './surveyed';

/** What a listing warns of; a lock is asked about by its ways. */
export function warningsOf({ findings }: Pick<SurveyedListing, 'findings'>): Finding[] {
  return findings.filter((finding) => finding.weight === 'warns' && finding.code !== 'locked-there');
}

/** What tells one warning of a listing from another, as long as it says the same. */
export function warningKey({ id }: Pick<SurveyedListing, 'id'>, finding: Finding): string {
  return `warns ${id} ${fingerprint([fieldOf(finding), finding.code, findingWords(finding)]).slice(0, 16)}`;
}

/** Warnings that are to be acknowledged before such an errand goes. */
export function toAcknowledge(listing: SurveyedListing, op: Operation, seen: ReadonlySet<string>): string[] {
  if (tellsNothingNew(op)) return [];
  return warningsOf(listing)
    .map((warning) => warningKey(listing, warning))
    .filter((key) => !seen.has(key));
}
