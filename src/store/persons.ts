import { and, asc, desc, eq, gt, isNull, lt, ne, sql } from 'drizzle-orm';
import type { Doer, Reach, Role } from '@/core/people/doer';
import type { Instant } from '@/core/base/zones';
import { prepared, type Tx } from './database';
import { freshId } from './ids';
import { doings, invitations, persons, secondFactors, sessions, signIns, verifications } from './schema';

export type Person = typeof persons.$inferSelect;
export type Invitation = typeof invitations.$inferSelect;
export type Doing = typeof doings.$inferSelect;

/** A person by id, whether still here or not. */
export function personById(db: Tx, id: string): Person | null {
  return db.select().from(persons).where(eq(persons.id, id)).get() ?? null;
}

export function personByEmail(db: Tx, email: string): Person | null {
  return db.select().from(persons).where(eq(persons.email, email)).get() ?? null;
}

/** Everybody who may come in, by name. */
export function personsHere(db: Tx): Person[] {
  return db.select().from(persons).where(isNull(persons.leftAt)).orderBy(asc(persons.name)).all();
}

/** True where there is somebody who can sign in: a house without is nobody's yet. */
export function hasAccount(db: Tx): boolean {
  return (
    db
      .select({ id: persons.id })
      .from(persons)
      .innerJoin(signIns, eq(signIns.userId, persons.id))
      .where(isNull(persons.leftAt))
      .limit(1)
      .get() !== undefined
  );
}

/** True where a person has a password to sign in by. */
export function signsIn(db: Tx, personId: string): boolean {
  return db.select({ id: signIns.id }).from(signIns).where(eq(signIns.userId, personId)).get() !== undefined;
}

interface NewPerson {
  name: string;
  email: string;
  role: Role;
  only: Reach | null;
  /** The hash of a password; `null`: nobody can sign in as this person. */
  passwordHash: string | null;
}

/** Adds a person. Throws where the address is taken. */
export function addPerson(db: Tx, { passwordHash, ...person }: NewPerson, at: Date): Person {
  const id = freshId('p');
  db.insert(persons)
    .values({ id, ...person, createdAt: at, updatedAt: at })
    .run();
  if (passwordHash !== null) putPassword(db, id, passwordHash, at);
  const made = personById(db, id);
  if (!made) throw new Error(`person ${id} was not written`);
  return made;
}

/** Sets a person's password, whether there was one or not. */
export function putPassword(db: Tx, personId: string, hash: string, at: Date): void {
  db.delete(signIns).where(eq(signIns.userId, personId)).run();
  db.insert(signIns)
    .values({
      ...{ id: freshId('i'), accountId: personId, providerId: 'credential', userId: personId },
      ...{ password: hash, createdAt: at, updatedAt: at },
    })
    .run();
}

export function putRole(db: Tx, personId: string, role: Role, only: Reach | null, at: Date): void {
  db.update(persons).set({ role, only, updatedAt: at }).where(eq(persons.id, personId)).run();
}

/** Takes a person's second factor off, with its recovery codes. */
export function dropSecondFactor(db: Tx, personId: string): void {
  db.delete(secondFactors).where(eq(secondFactors.userId, personId)).run();
  db.update(persons).set({ twoFactorEnabled: false }).where(eq(persons.id, personId)).run();
}

/**
 * Takes a person out: sessions, password, second factor and what was being confirmed go, and the ways in that were
 * handed out to this person or by this person. The name stays, for the book.
 */
export function takeOut(db: Tx, person: Pick<Person, 'id' | 'email'>, at: Date): void {
  const { id, email } = person;
  endSessions(db, id);
  dropSecondFactor(db, id);
  db.delete(signIns).where(eq(signIns.userId, id)).run();
  db.delete(verifications).where(eq(verifications.value, id)).run();
  db.delete(invitations).where(eq(invitations.madeById, id)).run();
  db.delete(invitations).where(eq(invitations.personId, id)).run();
  db.delete(invitations).where(eq(invitations.email, email)).run();
  // The address is free for whoever is let in anew.
  db.update(persons)
    .set({ leftAt: at, updatedAt: at, email: `${id} ${email}` })
    .where(eq(persons.id, id))
    .run();
}

export type Session = Pick<
  typeof sessions.$inferSelect,
  'id' | 'userId' | 'createdAt' | 'expiresAt' | 'ipAddress' | 'userAgent'
>;
const sessionColumns = {
  id: sessions.id,
  userId: sessions.userId,
  createdAt: sessions.createdAt,
  expiresAt: sessions.expiresAt,
  ipAddress: sessions.ipAddress,
  userAgent: sessions.userAgent,
};

/** Sessions that are open, newest first: one person's, or everybody's. */
export function openSessions(db: Tx, now: Date, personId?: string): Session[] {
  const open = gt(sessions.expiresAt, now);
  return db
    .select(sessionColumns)
    .from(sessions)
    .where(personId === undefined ? open : and(open, eq(sessions.userId, personId)))
    .orderBy(desc(sessions.createdAt))
    .limit(500)
    .all();
}

/** The person whose session a token is, and the session's id; `null`: it has ended, or the person was taken out. */
export function personOfToken(db: Tx, token: string, now: Date): { person: Person; session: string } | null {
  const row = prepared(db, 'person of token', (at) =>
    at
      .select({ person: persons, session: sessions.id })
      .from(sessions)
      .innerJoin(persons, eq(sessions.userId, persons.id))
      .where(
        and(
          eq(sessions.token, sql.placeholder('token')),
          gt(sessions.expiresAt, sql.placeholder('now')),
          isNull(persons.leftAt),
        ),
      )
      .prepare(),
  ).get({ token, now: now.getTime() });
  return row ?? null;
}

/** Ends one session of a person; gives whether there was one. */
export function endSession(db: Tx, id: string, personId?: string): boolean {
  const mine = personId === undefined ? eq(sessions.id, id) : and(eq(sessions.id, id), eq(sessions.userId, personId));
  return db.delete(sessions).where(mine).run().changes > 0;
}

/** Ends every session of a person, but for one; and sign-ins that wait for a second factor. */
export function endSessions(db: Tx, personId: string, but: string | null = null): void {
  const mine = eq(sessions.userId, personId);
  db.delete(sessions)
    .where(but === null ? mine : and(mine, ne(sessions.id, but)))
    .run();
  db.delete(verifications).where(eq(verifications.value, personId)).run();
}

/** Forgets sessions, confirmations and ways in whose time is over. */
export function forgetLapsed(db: Tx, now: Date): void {
  db.delete(sessions).where(lt(sessions.expiresAt, now)).run();
  db.delete(verifications).where(lt(verifications.expiresAt, now)).run();
  db.delete(invitations).where(lt(invitations.until, now)).run();
}

/** Keeps a way in. Of several for one address, or for the first keeper, the newest alone is open. */
export function putInvitation(db: Tx, invitation: Invitation): void {
  if (invitation.sort === 'first') db.delete(invitations).where(eq(invitations.sort, 'first')).run();
  else if (invitation.email !== '') db.delete(invitations).where(eq(invitations.email, invitation.email)).run();
  db.insert(invitations).values(invitation).run();
}

export function invitationByHash(db: Tx, hash: string): Invitation | null {
  return db.select().from(invitations).where(eq(invitations.hash, hash)).get() ?? null;
}

/** Uses a way in up, or takes it back; gives whether it was there. */
export function dropInvitation(db: Tx, hash: string): boolean {
  return db.delete(invitations).where(eq(invitations.hash, hash)).run().changes > 0;
}

/** Ways in that were handed out and are open still, newest first. */
export function openInvitations(db: Tx, now: Date): Invitation[] {
  return db
    .select()
    .from(invitations)
    .where(gt(invitations.until, now))
    .orderBy(desc(invitations.madeAt))
    .limit(200)
    .all();
}

/** What sort of thing was done. */
export type DoingSort = 'sign-in' | 'refused' | 'people' | 'channel' | 'decision' | 'export' | 'directory';

/** Notes in the book what was done that is no revision and no dispatch. Give it inside a transaction. */
export function noteDoing(
  db: Tx,
  by: Pick<Doer, 'name' | 'id'>,
  doing: { at: Instant; sort: DoingSort; words: string; recordId?: string },
): void {
  const { at, sort, words, recordId = null } = doing;
  db.insert(doings)
    .values({ at, sort, words: words.slice(0, 400), recordId, doer: by.name, doerId: by.id })
    .run();
}

/** What was done of late, newest first: in the whole house, or about one record. */
export function doingsOf(db: Tx, most: number, recordId?: string): Doing[] {
  return db
    .select()
    .from(doings)
    .where(recordId === undefined ? undefined : eq(doings.recordId, recordId))
    .orderBy(desc(doings.id))
    .limit(most)
    .all();
}
