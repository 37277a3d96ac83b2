import { channelById } from './registry';

/** Which of an event's listings on a channel it is, in words: `part 2`. Empty for the first, and for notices, whose number says nothing. */
export function partWords(channel: string, part: number): string {
  return part === 0 || channelById(channel).rules.notice !== null ? '' : `part ${part + 1}`;
}
