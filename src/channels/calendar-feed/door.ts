import { readFeed } from '../kit/feed';
import { feedSteps, inFeed } from '../kit/feed-shelf';
import type { Door } from '../kit/kind';

/** Nothing is sent: it lies at an address of ours, and what is read back is what whoever comes for it gets. */
export const door: Door = ({ served = () => null }, _, kept, __, now) => {
  const { entry, ...steps } = feedSteps(kept, now);
  return {
    ...steps,
    fetch: (remote) => {
      if (entry(remote.id) === null) return Promise.resolve(null);
      const text = served(remote.id);
      const wire = text === null ? { status: 'ABSENT' } : readFeed(text, remote.id);
      return Promise.resolve({ wire, page: null, remote: inFeed(remote.id) });
    },
  };
};
