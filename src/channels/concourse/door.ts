import { z } from 'zod';
import type { Door } from '../kit/kind';
import { OutsideError, sentOnce } from '../kit/http';
import { entrySchema, plainClient, putFile, restCalls } from '../kit/rest';

/** Concourse speaks REST with a bearer's key: an organisation's, or by mistake a person's. */
export const door: Door = ({ address, credentials }, http, kept) => {
  const headers = { authorization: `Bearer ${credentials.key ?? ''}` };
  const call = restCalls(http, { base: `${address}/api`, headers, what: 'Concourse' });
  const put = putFile(http, `${address}/api/banners`, headers);
  const client = plainClient({
    http,
    call,
    path: '/events',
    down: { stage: 'withheld' },
    // Without it, it would post in the name of whoever made the key.
    placing: { posted_as: 'organisation' },
    besides: ({ effects }) => ({ tell_followers: effects.includes('tell') }),
    before: ({ pictures }) => sentOnce(kept, pictures, put),
  });
  return {
    ...client,
    cancel: (remote, { reason }) =>
      call('POST', `/events/${remote.id}/call-off`, entrySchema, { reason }).then(() => remote),
    async greet() {
      const me = await call('GET', '/whoami', z.object({ name: z.string(), sort: z.enum(['organisation', 'person']) }));
      if (me.sort === 'person')
        throw new OutsideError(
          'not-allowed',
          `the key belongs to the person ${me.name}; use the organisation’s`,
          null,
          'key',
        );
      return me.name;
    },
  };
};
