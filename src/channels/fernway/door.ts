import { z } from 'zod';
import type { Door } from '../kit/kind';
import { OutsideError } from '../kit/http';
import { plainClient, restCalls } from '../kit/rest';

/** Fernway speaks REST with a key for each artist; a date is entered under a profile id, whoever's that is. */
export const door: Door = ({ address, credentials }, http) => {
  const { profile = '', key = '' } = credentials;
  const call = restCalls(http, { base: `${address}/api`, headers: { 'x-api-key': key }, what: 'Fernway' });
  return {
    ...plainClient({
      http,
      call,
      path: `/artists/${encodeURIComponent(profile)}/dates`,
      down: { status: 'hidden' },
      deletes: true,
      besides: ({ effects }) => ({ tell_followers: effects.includes('tell') }),
      remote: ({ id }) => ({ gifts: { 'remote id': id } }),
    }),
    async greet() {
      const me = await call('GET', '/key', z.object({ artist: z.string(), profile: z.string() }));
      if (me.profile !== profile)
        throw new OutsideError(
          'not-allowed',
          `the key is ${me.artist}’s, whose profile id is ${me.profile}`,
          null,
          'profile',
        );
      return me.artist;
    },
  };
};
