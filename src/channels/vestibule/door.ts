import { z } from 'zod';
import type { Door } from '../kit/kind';
import { OutsideError } from '../kit/http';
import { entrySchema, plainClient, restCalls } from '../kit/rest';

const roomSchema = entrySchema.extend({ register_url: z.string(), join_url: z.string() });

/** Vestibule speaks REST with a key of its own header. */
export const door: Door = ({ address, credentials }, http) => {
  const call = restCalls(http, {
    base: `${address}/api`,
    headers: { 'x-vestibule-key': credentials.key ?? '' },
    what: 'Vestibule',
  });
  const client = plainClient({
    http,
    call,
    path: '/rooms',
    down: { door: 'shut' },
    remote: (entry) => {
      const { register_url: register, join_url: join } = roomSchema.parse(entry);
      return { gifts: { 'registration link': register, 'join link': join } };
    },
  });
  return {
    ...client,
    cancel: (remote, { reason }) =>
      call('POST', `/rooms/${remote.id}/cancel`, entrySchema, { reason }).then(() => remote),
    async greet() {
      const me = await call('GET', '/key', z.object({ owner: z.string(), may: z.array(z.string()) }));
      if (!me.may.includes('rooms'))
        throw new OutsideError('not-allowed', 'the key may only read; make one that may make rooms', null, 'key');
      return me.owner;
    },
  };
};
