import { asks } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import { z } from 'zod';
import { fail, ok, type Result } from '@/core/base/result';
import { line } from '@/core/base/scalars';
import { toFollowSchema, type RecordContent } from '@/core/record/record';
import { eventTypes } from '@/core/record/choices';
import { commonRoles } from '@/core/record/roles';
import { questionSchema } from '@/core/record/ticket-schema';
import type { House } from '@/house/house';
import type { HouseWords } from '@/views/record';
import { houseOwn } from '@/house/house-own';
import { zoneOfHouse } from '@/house/house-zone';
import { followWords } from '@/house/follow-words';
import { transaction, type Tx } from '@/store/database';
import { jsonSetting } from '@/store/settings';

const mostRoles = 100;
const mostSets = 60;

const setSchema = z.object({
  name: line(80).min(1, 'Give the set a name.'),
  questions: z.array(questionSchema).min(1, 'Ask a question first.').max(30),
});
const roles = jsonSetting('roles', z.array(line(40)).max(mostRoles), []);
const sets = jsonSetting('question-sets', z.array(setSchema).max(mostSets), []);

/** What the house keeps, for a record's screen. */
export function houseWords({ db }: Pick<House, 'db'>): HouseWords {
  const own = houseOwn.of(db);
  return {
    roles: [...commonRoles, ...roles.of(db)],
    questionSets: sets.of(db),
    follow: followWords.of(db),
    zone: zoneOfHouse(db),
    doorsBefore: own.doorsBefore,
    types: [...new Set([...eventTypes, ...own.types])],
    closedTypes: own.closedTypes,
  };
}

/** Keeps the roles of a record that the house did not know. */
export function noteRoles(tx: Tx, { lineUp, programme }: Pick<RecordContent, 'lineUp' | 'programme'>): void {
  const before = roles.of(tx);
  const known = new Set([...commonRoles, ...before]);
  const fresh = [...lineUp, ...programme]
    .map((item) => item.role.trim())
    .filter((role) => role !== '' && !known.has(role));
  if (fresh.length > 0) roles.put(tx, [...before, ...new Set(fresh)].slice(-mostRoles));
}

/** Keeps a set of questions under its name; one of the same name is replaced. The error is for the user. */
export function keepQuestions(house: House, doer: Doer, input: unknown): Result<null, string> {
  asks(doer, 'keepQuestions');
  const parsed = setSchema.safeParse(input);
  if (!parsed.success) return fail(parsed.error.issues[0]?.message ?? 'These questions cannot be kept.');
  return transaction(house.db, (tx) => {
    const others = sets.of(tx).filter((candidate) => candidate.name !== parsed.data.name);
    if (others.length >= mostSets) return fail(`At most ${mostSets} sets are kept.`);
    sets.put(tx, [...others, parsed.data]);
    return ok(null);
  });
}

/** Says what the public reads in this house in place of what is not known yet. */
export function keepFollowWords(house: House, doer: Doer, input: unknown): Result<null, string> {
  asks(doer, 'keepFollowWords');
  const parsed = toFollowSchema.safeParse(input);
  if (!parsed.success) return fail('These words are too long: at most 120 characters each.');
  return transaction(house.db, (tx) => {
    followWords.put(tx, parsed.data);
    return ok(null);
  });
}
