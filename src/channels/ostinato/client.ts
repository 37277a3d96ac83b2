import { z } from 'zod';
import type { Connection } from '../kit/kind';
import { OutsideError, type Http } from '../kit/http';
import { restCalls } from '../kit/rest';

const pageSchema = z.object({ artist: z.string(), profile: z.string(), linked_to: z.string() });

/** Ostinato's small interface: for an artist's page and its highlight. Its calls throw an `OutsideError`. */
export function ostinatoCalls({ address, credentials }: Connection, http: Http) {
  const { profile = '', token = '' } = credentials;
  const call = restCalls(http, {
    base: `${address}/api`,
    headers: { authorization: `Bearer ${token}` },
    what: 'Ostinato',
  });
  const page = () => call('GET', '/page', pageSchema);
  const greet = async () => {
    const me = await page();
    if (me.profile !== profile)
      throw new OutsideError('not-allowed', `the token is for ${me.artist}’s page, ${me.profile}`, null, 'profile');
    return me.artist;
  };
  return { call, page, greet };
}
