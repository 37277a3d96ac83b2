import { asks, asksAgain } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import type { ChannelId } from '@/core/base/ids';
import { isOutsideError } from '@/channels/kit/http';
import type { Artist } from '@/core/record/directory';
import { fail, ok, type Result } from '@/core/base/result';
import { clientOf } from '@/house/clients';
import { channelById, type House } from '@/house/house';
import { allArtists, writePerson } from '@/store/people';

/** Asks a channel whose profile an artist's link is, and notes the answer. The error is for the user. */
export async function verifyProfile(
  house: House,
  doer: Doer,
  artistId: string,
  channel: ChannelId,
): Promise<Result<Artist, string>> {
  asks(doer, 'verifyProfile');
  const artist = allArtists(house.db).get(artistId);
  const profile = artist?.profiles.find((profile) => profile.channel === channel);
  if (!artist || !profile) return fail('Save the profile first.');
  const name = channelById(house, channel)?.rules.name ?? channel;
  try {
    const client = clientOf(house, channel);
    if (!client.whose) return fail(`${name} has no profiles that could be asked for.`);
    const whose = await client.whose(profile.link);
    const verified = {
      at: house.clock.now(),
      name: whose ?? '',
      ok: whose !== null && fold(whose) === fold(artist.name),
    };
    const next = {
      ...artist,
      profiles: artist.profiles.map((profile) => (profile.channel === channel ? { ...profile, verified } : profile)),
    };
    asksAgain(house.db, doer, 'verifyProfile');
    writePerson(house.db, 'artist', next, doer.name, house.clock.now());
    return ok(next);
  } catch (error) {
    if (!isOutsideError(error)) throw error;
    return fail(`${name} could not be asked: ${error.message}. Try again later.`);
  }
}

const fold = (name: string) =>
  name
    .normalize('NFKD')
    .replace(/[^\p{L}\p{N}]/gu, '')
    .toLowerCase();
