import type { RecordId } from '@/core/base/ids';
import { mayDo, type Doer, type Reach } from '@/core/people/doer';
import { roleSchema } from '@/core/people/person';
import { fieldErrors } from '@/core/base/issue-words';
import { fail, ok, type Result } from '@/core/base/result';
import type { House } from '@/house/house';
import { transaction, type Tx } from '@/store/database';
import { recordAt, recordOfCode } from '@/store/records';
import { allTours } from '@/store/tours';
import {
  doingsOf,
  endSession,
  endSessions,
  noteDoing,
  openInvitations,
  openSessions,
  personById,
  personsHere,
  putRole,
  signsIn,
  takeOut,
  type Person,
} from '@/store/persons';
import type { PeopleView, SessionRow } from '@/views/people';
import { asks } from './rights-of-verbs';

type FieldErrors = Record<string, string>;

/** How much of the book is shown. */
const mostDoings = 200;

/** A session as it is shown: since when, until when, and with what. */
export function sessionRow({
  id,
  createdAt,
  expiresAt,
  userAgent,
}: ReturnType<typeof openSessions>[number]): SessionRow {
  return { id, since: createdAt.getTime(), until: expiresAt.getTime(), browser: browserWords(userAgent) };
}

/** A browser's own name for itself, as short as it can be told apart. */
function browserWords(agent: string | null): string {
  if (agent === null || agent === '') return 'an unnamed program';
  const system = /\b(Windows|Android|iPhone|iPad|Macintosh|Linux)\b/.exec(agent)?.[1];
  const name = /^Mozilla\//.test(agent) ? 'a browser' : (/^[\w.-]+/.exec(agent)?.[0] ?? 'a program');
  return system === undefined ? name : `${name} on ${system}`;
}

/** Everybody who may come in, with their sessions; ways in that are open; and what was done of late. */
export function peopleView(house: House, doer: Doer): PeopleView {
  asks(doer, 'peopleView');
  const { db } = house;
  const now = new Date();
  const sessions = openSessions(db, now);
  return {
    persons: personsHere(db).map((person) => ({
      ...{ id: person.id, name: person.name, email: person.email, role: person.role, only: person.only },
      secondFactor: person.twoFactorEnabled,
      signsIn: signsIn(db, person.id),
      self: person.id === doer.id,
      sessions: sessions.filter((session) => session.userId === person.id).map(sessionRow),
    })),
    invitations: openInvitations(db, now).map(({ hash, sort, name, email, role, only, madeBy, until }) => ({
      ...{ hash, sort, name, email, role, only, by: madeBy },
      until: until.getTime(),
    })),
    doings: doingsOf(db, mostDoings).map(({ id, at, doer: who, words }) => ({ id, at, doer: who, words })),
    tours: allTours(db).map(({ id, name }) => ({ id, name })),
    codes: codesOf(db),
  };
}

/** The codes of events for which alone somebody is or will be let in, by the events' ids. */
function codesOf(db: Tx): Record<string, string> {
  const ids = [...personsHere(db), ...openInvitations(db, new Date())].flatMap(({ only }) => only?.records ?? []);
  return Object.fromEntries(
    [...new Set(ids)].flatMap((id) => {
      const record = recordAt(db, id as RecordId);
      return record ? [[id, record.code]] : [];
    }),
  );
}

/**
 * The events that somebody is let in for, by the codes that were typed, or their ids; the error names the first code that
 * there is not.
 */
export function reachOf(db: Tx, only: Reach | null): Result<Reach | null, string> {
  if (only === null) return ok(null);
  const found = only.records.map((code) => {
    const known = recordOfCode(db, code.trim().toUpperCase()) ?? recordAt(db, code as RecordId);
    return { code, id: known?.id ?? null };
  });
  const missing = found.find(({ id }) => id === null);
  if (missing) return fail(`There is no event with the code ${missing.code}.`);
  return ok({ tours: only.tours, records: found.flatMap(({ id }) => id ?? []) });
}

/** A person who is here, and not the last who keeps the house. */
function changeable(tx: Tx, id: string, stays: boolean): Result<Person, string> {
  const person = personById(tx, id);
  if (person?.leftAt !== null) return fail('This person is not here any more.');
  const others = personsHere(tx).filter((other) => other.id !== id && other.role === 'keeper' && signsIn(tx, other.id));
  if (!stays && person.role === 'keeper' && signsIn(tx, id) && others.length === 0)
    return fail(`${person.name} is the only keeper. Make somebody else a keeper first.`);
  return ok(person);
}

/** Gives somebody another role, or lets him in elsewhere; it holds from the next request on. */
export function changeRole(house: House, doer: Doer, id: string, input: unknown): Result<null, FieldErrors> {
  asks(doer, 'changeRole');
  const parsed = roleSchema.safeParse(input);
  if (!parsed.success) return fail(fieldErrors(parsed.error));
  const { role } = parsed.data;
  return transaction(house.db, (tx) => {
    const reach = reachOf(tx, parsed.data.only);
    if (!reach.ok) return fail({ only: reach.error });
    const only = reach.value;
    const found = changeable(tx, id, role === 'keeper');
    if (!found.ok) return fail({ role: found.error });
    putRole(tx, id, role, only, new Date());
    const where = only === null ? '' : ', for some events alone';
    noteDoing(tx, doer, { at: house.clock.now(), sort: 'people', words: `made ${found.value.name} ${role}${where}` });
    return ok(null);
  });
}

/** Takes somebody out: at once nothing of theirs works. What they did stays in the book. */
export function takePersonOut(house: House, doer: Doer, id: string): Result<null, string> {
  asks(doer, 'takePersonOut');
  if (id === doer.id) return fail('Nobody takes himself out. Ask another keeper.');
  return transaction(house.db, (tx) => {
    const found = changeable(tx, id, false);
    if (!found.ok) return found;
    takeOut(tx, found.value, new Date());
    noteDoing(tx, doer, { at: house.clock.now(), sort: 'people', words: `took ${found.value.name} out` });
    return ok(null);
  });
}

/** Ends a session, or with `null` all of a person's: one's own, or as a keeper anybody's. */
export function endSessionOf(house: House, doer: Doer, personId: string, session: string | null): Result<null, string> {
  asks(doer, 'endSessionOf');
  if (personId !== doer.id && !mayDo(doer, 'keep')) return fail('Only keepers end the sessions of others.');
  return transaction(
    house.db,
    (tx) => {
      const person = personById(tx, personId);
      if (!person) return fail('This person is not here any more.');
      if (session === null) endSessions(tx, personId);
      else if (!endSession(tx, session, personId)) return fail('This session has ended already.');
      const whose = personId === doer.id ? '' : ` of ${person.name}`;
      noteDoing(tx, doer, { at: house.clock.now(), sort: 'people', words: `ended a session${whose}` });
      return ok(null);
    },
    { quiet: true },
  );
}
