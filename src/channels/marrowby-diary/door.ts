import { z } from 'zod';
import type { Wire } from '@/core/listing/channel-rules';
import { onceAt, pageOf } from '../kit/http';
import { feedSteps, inFeed } from '../kit/feed-shelf';
import type { ChannelClient, Door } from '../kit/kind';
import { restCalls } from '../kit/rest';

const told = 'feed told';
const entrySchema = z.looseObject({
  uid: z.string(),
  url: z.string(),
  state: z.enum(['waiting', 'shown', 'turned down']),
  word: z.string().max(300).default(''),
  summary: z.string(),
  dtstart: z.string(),
  dtend: z.string().nullish(),
  status: z.string(),
});
type Entry = z.infer<typeof entrySchema>;

/** Nothing is sent to the calendar but where our feed lies: it comes for what stands there. */
export const door: Door = ({ address, credentials, feed = '' }, http, kept, _, now) => {
  const call = restCalls(http, {
    base: `${address}/api`,
    headers: { 'x-contributor': credentials.key ?? '' },
    what: 'Marrowby Diary',
  });
  const { entry, ...steps } = feedSteps(kept, now, async () => {
    if (kept.get(told, 'address') === feed) return;
    await onceAt(kept, told, async () => {
      await call('PUT', '/feed', z.object({ feed: z.string() }), { feed });
      kept.put(told, 'address', feed);
    });
  });
  const client: ChannelClient = {
    ...steps,
    async fetch(remote, { page }) {
      const found = await call('GET', `/entries?of=${encodeURIComponent(remote.id)}`, z.array(entrySchema));
      if (found.length === 0 && entry(remote.id) === null) return null;
      const shown = found.filter((candidate) => candidate.state === 'shown');
      const [first] = shown;
      const down = found.find((candidate) => candidate.state === 'turned down');
      const note = first
        ? ''
        : down
          ? down.word || 'no word was given'
          : found.length > 0
            ? 'it waits for its editor'
            : 'it has not read our feed since';
      // What we took out of the feed it need not explain.
      const quiet = entry(remote.id)?.wire.status === 'ABSENT';
      const there = inFeed(remote.id, {
        publicUrl: first?.url ?? null,
        note: quiet ? '' : note,
        turnedDown: !quiet && down !== undefined && !first,
      });
      return {
        wire: wireOf(remote.id, shown),
        // A page is that of one date: where the first was called off among others, it does not speak for the listing.
        page: page && first && first === leading(shown) ? await pageOf(http, first.url) : null,
        remote: there,
      };
    },
    greet: async () => (await call('GET', '/contributor', z.object({ name: z.string() }))).name,
  };
  return client;
};

/** The entry that speaks for a listing: of a date that takes place, where there is one. */
function leading(entries: readonly Entry[]): Entry | undefined {
  const is = (status: string) => entries.find((entry) => entry.status === status);
  return is('CONFIRMED') ?? is('TENTATIVE') ?? entries[0];
}

/** Its entries of one listing as one: each is a date of it. */
function wireOf(id: string, entries: readonly Entry[]): Wire {
  const first = leading(entries);
  if (!first) return { status: 'ABSENT' };
  const { uid: _, url: __, state: ___, word: ____, dtstart: _____, dtend: ______, link, ...flat } = first;
  // What befell one date stands with it; what befell all alike is how the listing stands.
  const off = entries.every((entry) => entry.status === 'CANCELLED');
  const dates = entries.map(({ uid, dtstart, dtend, status }) => ({
    tag: uid.startsWith(`${id}-`) ? uid.slice(id.length + 1) : uid,
    dtstart,
    ...(dtend ? { dtend } : {}),
    ...(status === 'CONFIRMED' || off ? {} : { standing: status }),
  }));
  return {
    ...flat,
    status: off ? 'CANCELLED' : 'CONFIRMED',
    ...(typeof link === 'string' ? { url: link } : {}),
    dates,
  };
}
