import type { PerformanceDraft, RecordDraft } from './draft';
import { isInDay, minutesOf, movedBy, timeAt } from './hours';
import { newNotice } from './new-record';
import type { LineUpEntry } from './record';

/** What goes otherwise on the night itself. */
export type OnTheNight =
  { what: 'late'; minutes: number } | { what: 'ill'; act: LineUpEntry } | { what: 'door'; words: string };

/** Minutes by which a night is offered to be later. */
export const lates: readonly number[] = [15, 30, 60];

/** The performances of this day that take place. */
export function ofToday(performances: readonly PerformanceDraft[], today: string): PerformanceDraft[] {
  return performances.filter(
    ({ date, precision, turn }) =>
      date === today && precision === 'exact' && turn !== 'cancelled' && turn !== 'postponed',
  );
}

/** True where doors that open so much later would open after the start. */
function isPastStart({ doors, start }: PerformanceDraft, minutes: number): boolean {
  return doors === '' || start === '' || minutesOf(doors) + minutes > minutesOf(start);
}

/** A performance whose doors open so many minutes later. Start and end move along where they would be before it. */
function later(item: PerformanceDraft, minutes: number): PerformanceDraft {
  if (!isPastStart(item, minutes)) return { ...item, doors: timeAt(minutesOf(item.doors) + minutes) };
  return {
    ...movedBy(item, minutes),
    ...(item.start === '' ? {} : { start: timeAt(minutesOf(item.start) + minutes) }),
  };
}

/** True where it can be so much later and still be on the same day. */
export function canBeLater({ doors, start }: PerformanceDraft, minutes: number): boolean {
  return [doors, start].every((time) => time === '' || isInDay(minutesOf(time) + minutes));
}

/** What is said of it in a post; the hours follow the record. */
function postWords(item: PerformanceDraft, on: OnTheNight): string {
  switch (on.what) {
    case 'late':
      return isPastStart(item, on.minutes)
        ? '{{ title }} is later tonight: it starts at {{ start }}.'
        : '{{ title }}: doors open later tonight, at {{ doors }}. It starts at {{ start }}.';
    case 'ill':
      return `{{ title }} tonight: ${on.act.name} cannot be there. All else stays as it is.`;
    case 'door':
      return `{{ title }} tonight: ${on.words.trim()}`;
  }
}

/**
 * The record as it is put on the night, for one performance, with a post where one is written. `post`: the channel that
 * carries it and the id that it gets; `null`: none.
 */
export function onTheNight(
  draft: Pick<RecordDraft, 'performances' | 'notices'>,
  id: string,
  on: OnTheNight,
  post: { channel: string; id: string } | null,
): Pick<RecordDraft, 'performances' | 'notices'> {
  const item = draft.performances.find((candidate) => candidate.id === id);
  if (!item) return draft;
  const put = (): PerformanceDraft => {
    switch (on.what) {
      case 'late':
        return later(item, on.minutes);
      case 'ill':
        return { ...item, lineUpOut: [...new Set([...item.lineUpOut, on.act.id])] };
      case 'door':
        return { ...item, note: on.words.trim() };
    }
  };
  return {
    performances: draft.performances.map((candidate) => (candidate === item ? put() : candidate)),
    notices:
      post === null
        ? draft.notices
        : [...draft.notices, newNotice(post.id, post.channel, { words: postWords(item, on) })],
  };
}
