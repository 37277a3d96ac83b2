'use server';

import { theDoer } from '@/app/who-asks';
import { orRefused } from '@/desk/house/refusal';
import { channelIdSchema } from '@/core/base/ids';
import { z } from 'zod';
import type { Artist, Entry, Venue } from '@/core/record/directory';
import type { HouseOwn } from '@/core/record/house-own';
import { fail, type Result } from '@/core/base/result';
import { whereUsed, type Use } from '@/desk/directory/directory-view';
import { keepOwn } from '@/desk/directory/keep-own';
import { keepPicture } from '@/desk/directory/picture-shelf';
import { makeVenue } from '@/desk/directory/make-venue';
import { mergeDuplicates } from '@/desk/directory/merge-duplicates';
import { savePerson, saveVenue, type FieldErrors } from '@/desk/directory/save-directory';
import { theHouse } from '@/desk/house/the-house';
import { verifyProfile } from '@/desk/directory/verify-profile';

const sortSchema = z.enum(['venue', 'artist', 'organiser']);
const text = z.string().max(100);

/** Saves a venue with its rooms. */
export async function saveVenueAction(id: string, input: unknown): Promise<Result<Venue, FieldErrors>> {
  const doer = await theDoer();
  return orRefused(
    () => saveVenue(theHouse(), doer, text.parse(id), input),
    (name) => fail({ name }),
  );
}

/** Saves an artist, organiser or wording. */
export async function savePersonAction(
  sort: 'artist' | 'organiser' | 'wording',
  input: unknown,
): Promise<Result<Entry, FieldErrors>> {
  const doer = await theDoer();
  const which = z.enum(['artist', 'organiser', 'wording']).parse(sort);
  return orRefused(
    () => savePerson(theHouse(), doer, which, input),
    (name) => fail({ name }),
  );
}

/** Keeps what is usual in the house. */
export async function keepOwnAction(input: unknown): Promise<Result<HouseOwn, FieldErrors>> {
  const doer = await theDoer();
  return orRefused(
    () => keepOwn(theHouse(), doer, input),
    (name) => fail({ name }),
  );
}

/** Says what a kept picture is called, whose it is, what it shows, and until when it may be used. */
export async function keepPictureAction(input: unknown): Promise<Result<null, FieldErrors>> {
  const doer = await theDoer();
  return orRefused(
    () => keepPicture(theHouse(), doer, input),
    (name) => fail({ name }),
  );
}

/** Makes a venue. */
export async function makeVenueAction(
  input: unknown,
): Promise<Result<{ venue: Venue; roomId: string | null }, FieldErrors>> {
  const doer = await theDoer();
  return orRefused(
    () => makeVenue(theHouse(), doer, input),
    (name) => fail({ name }),
  );
}

/** Makes one entry of two. */
export async function mergeAction(
  sort: 'venue' | 'artist' | 'organiser',
  from: string,
  into: string,
): Promise<Result<number, string>> {
  const doer = await theDoer();
  const [which, gone, stays] = [sortSchema.parse(sort), text.parse(from), text.parse(into)];
  return orRefused(() => mergeDuplicates(theHouse(), doer, which, gone, stays), fail);
}

/** Where an entry is used. */
export async function whereUsedAction(sort: 'venue' | 'artist' | 'organiser', id: string): Promise<Use[]> {
  const doer = await theDoer();
  return whereUsed(theHouse(), doer, sortSchema.parse(sort), text.parse(id));
}

/** Asks a channel whose profile an artist's link is. */
export async function verifyAction(artistId: string, channel: string): Promise<Result<Artist, string>> {
  const doer = await theDoer();
  return verifyProfile(theHouse(), doer, text.parse(artistId), channelIdSchema.parse(channel));
}
