import { z } from 'zod';
import { fail, ok, type Result } from '@/core/base/result';
import { line } from '@/core/base/scalars';
import { toFollowSchema, type RecordContent } from '@/core/record/record';
import { commonRoles } from '@/core/record/roles';
import { questionSchema } from '@/core/record/ticket-schema';
import type { House } from '@/house/house';
import type { HouseWords } from '@/views/record';
import { followWords, followSetting } from '@/house/follow-words';
import { parseJson, transaction, type Tx } from '@/store/database';
import { setting, putSetting } from '@/store/settings';

const rolesName = 'roles';
const setsName = 'question-sets';
const mostRoles = 100;
const mostSets = 60;

const rolesSchema = z.array(line(40)).max(mostRoles);
const setSchema = z.object({
  name: line(80).min(1, 'Give the set a name.'),
  questions: z.array(questionSchema).min(1, 'Ask a question first.').max(30),
});
const setsSchema = z.array(setSchema).max(mostSets);

function kept<T>(db: Tx, name: string, schema: z.ZodType<T>, none: T): T {
  const text = setting(db, name);
  return text === null ? none : schema.parse(parseJson(text));
}

/** What the house keeps, for a record's screen. */
export function houseWords({ db }: Pick<House, 'db'>): HouseWords {
  return {
    roles: [...commonRoles, ...kept(db, rolesName, rolesSchema, [])],
    questionSets: kept(db, setsName, setsSchema, []),
    follow: followWords(db),
  };
}

/** Keeps the roles of a record that the house did not know. */
export function noteRoles(tx: Tx, { lineUp, programme }: Pick<RecordContent, 'lineUp' | 'programme'>): void {
  const before = kept(tx, rolesName, rolesSchema, []);
  const known = new Set([...commonRoles, ...before]);
  const fresh = [...lineUp, ...programme]
    .map((item) => item.role.trim())
    .filter((role) => role !== '' && !known.has(role));
  if (fresh.length > 0) putSetting(tx, rolesName, JSON.stringify([...before, ...new Set(fresh)].slice(-mostRoles)));
}

/** Keeps a set of questions under its name; one of the same name is replaced. The error is for the user. */
export function keepQuestions(house: House, input: unknown): Result<null, string> {
  const parsed = setSchema.safeParse(input);
  if (!parsed.success) return fail(parsed.error.issues[0]?.message ?? 'These questions cannot be kept.');
  return transaction(house.db, (tx) => {
    const others = kept(tx, setsName, setsSchema, []).filter((candidate) => candidate.name !== parsed.data.name);
    if (others.length >= mostSets) return fail(`At most ${mostSets} sets are kept.`);
    putSetting(tx, setsName, JSON.stringify([...others, parsed.data]));
    return ok(null);
  });
}

/** Says what the public reads in this house in place of what is not known yet. */
export function keepFollowWords(house: House, input: unknown): Result<null, string> {
  const parsed = toFollowSchema.safeParse(input);
  if (!parsed.success) return fail('These words are too long: at most 120 characters each.');
  return transaction(house.db, (tx) => {
    putSetting(tx, followSetting, JSON.stringify(parsed.data));
    return ok(null);
  });
}
