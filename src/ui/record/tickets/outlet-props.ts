import type { Facts } from '@/core/facts/facts';
import type { Count } from '@/core/facts/sales';
import type { House } from '@/core/facts/tickets/seats';
import type { TicketsDraft, RecordDraft } from '@/core/record/draft';
import type { QuestionSet } from '@/views/record';
import type { FieldError } from '../form-parts';
import type { CameFrom } from './Counts';
import type { KeepQuestions } from './Questions';

/** Notes a count of what an outlet has sold; gives a message where that cannot be. */
export type NoteSold = (input: {
  performanceId: string;
  levelId: string;
  outletId: string;
  sold: number;
}) => Promise<string | null>;

/** What the tickets of a record are drawn from. */
export interface TicketsProps {
  tickets: TicketsDraft;
  onChange: (tickets: TicketsDraft) => void;
  facts: Facts;
  /** The sums of one performance's house. */
  houseOn: (performanceId: string) => House;
  performances: RecordDraft['performances'];
  sales: readonly Count[];
  /** From where those came who bought or registered, by the channels' own counts. */
  sources: readonly CameFrom[];
  noteSold: NoteSold | null;
  /** Questions that the house keeps, and keeping some. */
  questionSets: readonly QuestionSet[];
  keepQuestions: KeepQuestions | null;
  now: number;
  error: FieldError;
}

/** What the outlets are shown for: one performance, the next unless another is chosen. */
export interface OutletProps extends TicketsProps {
  performance: string | undefined;
}

export interface Pace {
  sold: number;
  left: number | null;
  perDay: number;
}
