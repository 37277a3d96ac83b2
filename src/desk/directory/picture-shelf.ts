import { asks } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import { z } from 'zod';
import { houseOwn } from '@/house/house-own';
import { issueWords } from '@/core/base/issue-words';
import { fail, ok, type Result } from '@/core/base/result';
import { isoDate, line } from '@/core/base/scalars';
import type { House } from '@/house/house';
import { transaction } from '@/store/database';
import { describePicture, pictureById, somePictures, type Picture } from '@/store/pictures';
import { markHouse } from '@/store/pulse';
import { allRecords } from '@/store/records';
import type { KeptPicture } from '@/views/pictures';
import type { FieldErrors } from './save-directory';

/** So many are told at once. */
const mostTold = 120;

const editSchema = z.object({
  id: z.string().regex(/^[0-9a-f]{64}$/),
  name: line(120),
  credit: line(200),
  alt: line(400),
  until: isoDate.nullable(),
});

/** A file's name as a person reads it: without its ending, and with blanks. */
function spoken({ name, fileName }: Pick<Picture, 'name' | 'fileName'>): string {
  return name || fileName.replace(/\.[a-z0-9]{1,5}$/i, '').replace(/[-_]+/g, ' ');
}

const told = (picture: Picture): Omit<KeptPicture, 'uses' | 'logo'> => ({
  id: picture.id,
  name: spoken(picture),
  width: picture.width,
  height: picture.height,
  credit: picture.credit,
  alt: picture.alt,
  until: picture.until,
});

/** So many are offered to be picked. */
const mostOffered = 40;

/** Pictures to pick from, the newest first: no record is read for it, for it is asked as one types. */
export function offeredPictures(house: House, doer: Doer, find: string): Omit<KeptPicture, 'uses' | 'logo'>[] {
  asks(doer, 'offeredPictures');
  return somePictures(house.db, find, mostOffered).map(told);
}

/** Pictures that are kept, the newest first, with where each is used. `find`: words of name, credit or description. */
export function pictureShelf(house: House, doer: Doer, find = '', most = mostTold): KeptPicture[] {
  asks(doer, 'pictureShelf');
  const kept = somePictures(house.db, find, most);
  const uses = new Map<string, KeptPicture['uses']>(kept.map(({ id }) => [id, []]));
  for (const { id, content } of allRecords(house.db))
    for (const { pictureId } of content.pictures) uses.get(pictureId)?.push({ id, title: content.title });
  const { logoId } = houseOwn.of(house.db);
  return kept.map((picture) => ({
    ...told(picture),
    logo: picture.id === logoId,
    uses: uses.get(picture.id) ?? [],
  }));
}

/** Says what a kept picture is called, whose it is, what it shows, and until when it may be used. Errors by field. */
export function keepPicture(house: House, doer: Doer, input: unknown): Result<null, FieldErrors> {
  asks(doer, 'keepPicture');
  const parsed = editSchema.safeParse(input);
  if (!parsed.success)
    return fail(Object.fromEntries(parsed.error.issues.map((issue) => [issue.path.join('.'), issueWords(issue)])));
  const { id, ...part } = parsed.data;
  return transaction(house.db, (tx) => {
    const before = pictureById(tx, id);
    if (!before) return fail({ name: 'This picture is not kept any more.' });
    describePicture(tx, id, part);
    // Events that use it are told of its last day.
    const isLogo = houseOwn.of(tx).logoId === id;
    if (before.until !== part.until || before.name !== part.name || (isLogo && before.alt !== part.alt)) markHouse(tx);
    return ok(null);
  });
}
