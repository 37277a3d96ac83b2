import type { Artist, Entry, Venue } from '@/core/record/directory';
import type { HouseOwn } from '@/core/record/house-own';
import type { Result } from '@/core/base/result';

type Errors = Record<string, string>;
type Sort = 'venue' | 'artist' | 'organiser';

/** What can be done with the directory; each answers with what to tell the person. */
export interface DirectoryDoings {
  saveVenue: (id: string, input: unknown) => Promise<Result<Venue, Errors>>;
  makeVenue: (input: unknown) => Promise<Result<{ venue: Venue; roomId: string | null }, Errors>>;
  savePerson: (sort: 'artist' | 'organiser' | 'wording', input: unknown) => Promise<Result<Entry, Errors>>;
  /** Makes one entry of two; gives how many events changed. */
  merge: (sort: Sort, from: string, into: string) => Promise<Result<number, string>>;
  whereUsed: (sort: Sort, id: string) => Promise<{ id: string; code: string; title: string; date: string }[]>;
  /** Says what a kept picture is called, whose it is, what it shows, and until when it may be used. */
  keepPicture: (input: unknown) => Promise<Result<null, Errors>>;
  /** Keeps what is usual in the house. */
  keepOwn: (input: unknown) => Promise<Result<HouseOwn, Errors>>;
  verify: (artistId: string, channel: string) => Promise<Result<Artist, string>>;
}
