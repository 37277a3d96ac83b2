import type { SurveyedListing } from '@/core/errands/surveyed';
import type { Facts } from '@/core/facts/facts';
import type { Wording } from '@/core/record/directory';
import type { RecordDraft } from '@/core/record/draft';
import type { MentionContext } from '@/core/words/mention';
import type { FieldError } from '../form-parts';
import type { PreviewNotice } from './NoticePreview';

type Notices = RecordDraft['notices'];
export type Notice = Notices[number];

export interface NoticesSectionProps {
  notices: Notices;
  onChange: (notices: Notices) => void;
  error: FieldError;
  facts: Facts;
  context: Omit<MentionContext, 'facts'>;
  listings: readonly SurveyedListing[];
  /** Day that a notice's own moment begins with, and its zone. */
  today: string;
  preview: PreviewNotice;
  /** Words that the house keeps, to be put into a notice. */
  wordings: readonly Wording[];
}
