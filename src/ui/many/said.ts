import { isWhole, type Picked } from '@/ui/dispatch/picked';
import type { ManyView } from '@/views/many';

/** What a person says to what an edit of many does: by channel, and by what is locked together. */
export interface Said {
  out: ReadonlySet<string>;
  asked: ReadonlySet<string>;
  corrected: ReadonlySet<string>;
  ways: Readonly<Record<string, Picked>>;
  seen: boolean;
}

const none: ReadonlySet<string> = new Set();
export const nothingSaid: Said = { out: none, asked: none, corrected: none, ways: {}, seen: false };

/** How many errands that comes to, and why it cannot be sent as it is; empty: it can. */
export function sumOfSaid({ sum, unseen, events }: ManyView, said: Said): { errands: number; why: string } {
  const count = (items: readonly { channel: string; count: number }[], goes: (channel: string) => boolean) =>
    items.reduce((all, item) => all + (goes(item.channel) ? item.count : 0), 0);
  const isIn = (channel: string) => !said.out.has(channel);
  const errands =
    count(
      [...sum.atOnce, ...sum.later.filter(({ goes }) => goes), ...sum.said.filter(({ mending }) => mending === 'edit')],
      isIn,
    ) +
    count(sum.apart, (channel) => said.asked.has(channel)) +
    count(
      sum.said.filter(({ mending }) => mending === 'anew'),
      (channel) => said.corrected.has(channel),
    ) +
    sum.locked.reduce((all, { key, listings }) => {
      const way = said.ways[key]?.way ?? 'leave';
      return all + (way === 'leave' ? 0 : listings.length);
    }, 0);
  const open = sum.locked.filter(({ key, ways, listings }) => {
    const picked = said.ways[key];
    if (picked === undefined || !isWhole(picked, ways)) return true;
    const asksCode = ways.find(({ id }) => id === picked.way)?.needs.includes('code') ?? false;
    return asksCode && picked.code.trim() !== String(listings.length);
  });
  if (events.some(({ state }) => state === 'stopped')) return { errands, why: 'Leave out first what cannot be so.' };
  if (open.length > 0)
    return {
      errands,
      why: open.every(({ key }) => said.ways[key] !== undefined)
        ? 'Fill in what the way asks for.'
        : 'Pick a way for what is locked first.',
    };
  if (unseen.length > 0 && !said.seen) return { errands, why: 'Say first that you have seen the warnings.' };
  return { errands, why: '' };
}
