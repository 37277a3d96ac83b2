import type { Facts } from '../facts/facts';
import type { RecordContent } from '../record/record';
import type { SurveyedListing } from './surveyed';

/** One state of a record with its survey. */
export interface ChangeGround {
  content: RecordContent;
  facts: Facts;
  listings: readonly SurveyedListing[];
}
