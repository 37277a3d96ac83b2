import type { RecordId } from '@/core/base/ids';

/** What a person is to do at a place without an interface. */
export interface HandTask {
  errand: number;
  recordId: RecordId;
  code: string;
  title: string;
  channel: string;
  channelName: string;
  /** What is to be done, in words. */
  does: string;
  /** When it was handed over, and until when it is to be there; `null`: there is no date. */
  since: number;
  due: number | null;
  /** Why it is not to be done any more; `null`: it is. */
  stop: string | null;
}

/** A task with what is to be typed. */
export interface HandSheet extends HandTask {
  /** Where its form is, or to whom one writes. */
  where: string;
  zone: string;
  now: number;
  /**
   * In the place's own order: what it calls a field, and what is to be typed there with what stood there before; of
   * several dates a line each.
   */
  fields: { field: string; label: string; limit: number | null; lines: { text: string; before: string }[] }[];
  /** A block of HTML to paste, whole, in place of fields to type; `null`: there is none. */
  block: string | null;
  /** Where it stands, as far as is known. */
  address: string;
  /** The record says something else by now: that comes as a task of its own. */
  changed: boolean;
}
