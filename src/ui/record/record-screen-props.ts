import type { RecordId } from '@/core/base/ids';
import type { RecordContent } from '@/core/record/record';
import type { PreviewNotice } from './words/NoticePreview';
import type { KeepFollow } from './words/FollowWords';
import type { TryPurchase } from './tickets/TrialPurchase';
import type { Tick } from './tickets/SaleSheet';
import type { KeepQuestions } from './tickets/Questions';
import type { NoteSold } from './tickets/outlet-props';
import type { HistoryActions } from './sections/HistorySection';
import type { SavePerson } from './save-person';
import type { MakeVenue } from './dates/NewVenueForm';
import type { RecordContext } from '@/views/record';
import type { ChangeAnswer, SentAnswer } from '@/views/change';
import type { Picked } from '../dispatch/picked';

/** What a save came to; the same shape as the use-case gives. */
export type SaveAnswer =
  | { kind: 'saved'; id: RecordId; revision: number; content: RecordContent | null }
  | { kind: 'unchanged'; id: RecordId; revision: number }
  | { kind: 'stopped'; messages: string[] }
  | { kind: 'merge'; base: RecordContent; theirs: RecordContent; revision: number; actor: string }
  | { kind: 'missing' };
export interface RecordScreenProps {
  context: RecordContext;
  /** Who saved which revision, newest first. */
  log: { number: number; actor: string; at: number; reason: string }[];
  /** The house's zone. */
  zone: string;
  save: (request: { id: RecordId | null; base: number; content: RecordContent; reason: string }) => Promise<SaveAnswer>;
  makeVenue: MakeVenue;
  savePerson: SavePerson;
  keepQuestions: KeepQuestions;
  keepFollow: KeepFollow;
  /** Shows a notice as its readers will read it. */
  preview: PreviewNotice;
  /** For a record that is saved: its history, its counts, and copying it. */
  saved?: HistoryActions & {
    noteSold: NoteSold;
    tick: Tick;
    trial: TryPurchase;
    /**
     * Says yes to posts and letters that have a moment of their own: each goes at that moment. Gives a word where that
     * cannot be.
     */
    sayYes: (listings: string[]) => Promise<string | null>;
    /** What a change does, before it is saved. */
    foresee: (content: RecordContent) => Promise<ChangeAnswer>;
    /** Saves a change and sends what was chosen of it, as one. */
    saveAndSend: (wish: {
      base: number;
      content: unknown;
      reason: string;
      listings: string[];
      ways: Record<string, Picked>;
      seen: string[];
      mended: string[];
    }) => Promise<SentAnswer>;
    copy: () => Promise<string | null>;
    /** Deletes the record; gives a word where it cannot be. */
    remove: (code: string) => Promise<string | null>;
    /** Puts it away, or brings it back. */
    putAway: (away: boolean) => Promise<string | null>;
    /** Cuts the tie to what stands on a channel. */
    cutTie: (channel: string) => Promise<string | null>;
    makeTour: (name: string) => Promise<string | null>;
  };
}
