import type { Precision } from '@/core/record/choices';
import type { Organiser } from '@/core/record/directory';
import type { RecordDraft, TicketsDraft } from '@/core/record/draft';
import type { FieldError } from '../form-parts';
import type { SavePerson } from '../save-person';
import type { DraftState } from '../use-record-draft';

/** What of a record this section is about, beside what it is called. */
export const essentialParts = [
  'eventType',
  'categories',
  'stage',
  'organiserId',
  'tourId',
  'tags',
  'hashtags',
  'radius',
  'online',
  'video',
  'sound',
] as const;

export interface EssentialsSectionProps {
  draft: Pick<RecordDraft, 'title' | 'shortTitle' | 'subtitle'>;
  rest: Pick<RecordDraft, (typeof essentialParts)[number]>;
  onChange: DraftState['change'];
  error: FieldError;
  /** How one gets in. */
  mode: TicketsDraft['mode'];
  /** How much is known of the one date; `null`: there are more, or none. */
  precision: Precision | null;
  organisers: ReadonlyMap<string, Organiser>;
  addOrganiser: (organiser: Organiser) => void;
  savePerson: SavePerson;
  tours: { id: string; name: string }[];
  /** Kinds of event that there are. */
  types: readonly string[];
}

export interface RestProps extends Omit<EssentialsSectionProps, 'draft' | 'rest'> {
  draft: EssentialsSectionProps['rest'];
  /** Hashtags to pick from. */
  proposals: readonly string[];
}
