import type { Instant } from '@/core/base/zones';
import type { Wire } from '@/core/listing/channel-rules';
import { changedEntry, emptiedEntry, feedShelf, readEntry, type FeedEntry } from './feed';
import type { KeptThere } from './kept';
import type { ChannelClient, Remote } from './kind';

/** What lies in a feed of ours, by our own id for it. */
export function inFeed(id: string, part: Partial<Remote> = {}): Remote {
  return { id, publicUrl: null, etag: null, link: null, lapsesAt: null, ...part };
}

/**
 * The steps of a place that reads what we lay out: each changes an entry of its feed. `first`: what is to be done before
 * anything is laid there.
 */
export function feedSteps(
  kept: KeptThere,
  now: () => Instant,
  first: () => Promise<void> = () => Promise.resolve(),
): Pick<ChannelClient, 'place' | 'amend' | 'unpublish' | 'cancel' | 'find'> & { entry(id: string): FeedEntry | null } {
  const entry = (id: string) => readEntry(kept.get(feedShelf, id));
  const write = async (id: string, next: (before: FeedEntry | null) => FeedEntry) => {
    await first();
    kept.shelve(feedShelf, id, JSON.stringify(next(entry(id))));
    return inFeed(id);
  };
  const change = (id: string, wire: Wire) => write(id, (before) => changedEntry(before, wire, now()));
  return {
    entry,
    place: (wire, { reference }) => change(reference, wire),
    amend: (remote, wire) => change(remote.id, wire),
    unpublish: (remote) => write(remote.id, (before) => emptiedEntry(before, now())),
    cancel: (remote) => change(remote.id, { status: 'CANCELLED' }),
    find: (reference) => Promise.resolve(entry(reference) === null ? [] : [inFeed(reference)]),
  };
}
