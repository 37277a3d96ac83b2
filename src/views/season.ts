import type { Standing } from '@/core/listing/standing';
import type { KnownDay } from '@/core/dates/date-words';

/** One event as the list shows it. */
export interface ListedEvent {
  id: string;
  code: string;
  /** The day that the row stands under. */
  date: KnownDay;
  time: string;
  past: boolean;
  title: string;
  under: string;
  room: string;
  town: string;
  stage: string;
  price: string;
  /** Seats left, where they are known. */
  left: string;
  /** What is due next. */
  cue: string;
  /** What else it is found by. */
  also: string;
  /** Standing by channel, in their order; `null`: not wanted there. */
  standings: (Standing | null)[];
}
