import type { RecordId } from '@/core/base/ids';
import type { Clash } from '@/core/clashes/clashes';
import type { Venue } from '@/core/record/directory';
import type { PerformanceDraft } from '@/core/record/draft';
import type { LineUpEntry } from '@/core/record/record';
import type { FieldError } from '../form-parts';
import type { MakeVenue } from './NewVenueForm';

export interface DatesSectionProps {
  performances: PerformanceDraft[];
  rule: string | null;
  onChange: (
    performances: PerformanceDraft[] | ((at: PerformanceDraft[]) => PerformanceDraft[]),
    rule?: string | null,
  ) => void;
  venues: ReadonlyMap<string, Venue>;
  error: FieldError;
  makeVenue: MakeVenue;
  addVenue: (venue: Venue) => void;
  lineUp: readonly Pick<LineUpEntry, 'id' | 'name'>[];
  /** What this event clashes with. */
  clashes: readonly Clash[];
  recordId: RecordId | null;
  today: string;
  /** Minutes before the start that doors usually open in this house; `null`: not said. */
  doorsBefore: number | null;
}

export interface PerformanceEditorProps {
  performance: PerformanceDraft;
  /** Path of the performance in the record, for messages. */
  path: string;
  error: FieldError;
  set: (part: Partial<PerformanceDraft>) => void;
  venues: ReadonlyMap<string, Venue>;
  makeVenue: MakeVenue;
  addVenue: (venue: Venue) => void;
  lineUp: readonly Pick<LineUpEntry, 'id' | 'name'>[];
  /** Minutes before the start that doors usually open in this house; `null`: not said. */
  doorsBefore: number | null;
}
