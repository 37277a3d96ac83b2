import { index, integer, sqliteTable, text } from 'drizzle-orm/sqlite-core';
import { guestReachSchema } from '@/core/people/person';
import { roles } from '@/core/people/doer';
import { jsonText } from './json-text';

/**
 * Who may come in, as the sign-in keeps it. Moments are of the machine's own clock: a session ends by real time, whatever
 * a simulated clock says.
 */
const moment = (name: string) => integer(name, { mode: 'timestamp_ms' });

export const persons = sqliteTable('persons', {
  id: text().primaryKey(),
  name: text().notNull(),
  email: text().notNull().unique(),
  emailVerified: integer('email_verified', { mode: 'boolean' }).notNull().default(false),
  image: text(),
  createdAt: moment('created_at').notNull(),
  updatedAt: moment('updated_at').notNull(),
  twoFactorEnabled: integer('two_factor_enabled', { mode: 'boolean' }).notNull().default(false),
  role: text({ enum: roles }).notNull(),
  /** The tours and events for which alone somebody is let in; `null`: the whole house. */
  only: jsonText(guestReachSchema),
  /** When somebody was taken out: the name stays in the book, and nothing else works. */
  leftAt: moment('left_at'),
});

export const sessions = sqliteTable(
  'sessions',
  {
    id: text().primaryKey(),
    token: text().notNull().unique(),
    userId: text('user_id')
      .notNull()
      .references(() => persons.id),
    expiresAt: moment('expires_at').notNull(),
    createdAt: moment('created_at').notNull(),
    updatedAt: moment('updated_at').notNull(),
    ipAddress: text('ip_address'),
    userAgent: text('user_agent'),
  },
  (t) => [index('sessions_person').on(t.userId)],
);

/** How a person proves who it is: one row, with a password's hash. */
export const signIns = sqliteTable(
  'sign_ins',
  {
    id: text().primaryKey(),
    accountId: text('account_id').notNull(),
    providerId: text('provider_id').notNull(),
    userId: text('user_id')
      .notNull()
      .references(() => persons.id),
    accessToken: text('access_token'),
    refreshToken: text('refresh_token'),
    idToken: text('id_token'),
    accessTokenExpiresAt: moment('access_token_expires_at'),
    refreshTokenExpiresAt: moment('refresh_token_expires_at'),
    scope: text(),
    password: text(),
    createdAt: moment('created_at').notNull(),
    updatedAt: moment('updated_at').notNull(),
  },
  (t) => [index('sign_ins_person').on(t.userId)],
);

/** What waits to be confirmed, such as a sign-in that waits for its second factor. */
export const verifications = sqliteTable(
  'verifications',
  {
    id: text().primaryKey(),
    identifier: text().notNull(),
    value: text().notNull(),
    expiresAt: moment('expires_at').notNull(),
    createdAt: moment('created_at').notNull(),
    updatedAt: moment('updated_at').notNull(),
  },
  (t) => [index('verifications_identifier').on(t.identifier)],
);

export const secondFactors = sqliteTable(
  'second_factors',
  {
    id: text().primaryKey(),
    /** Both are sealed with the house's key. */
    secret: text().notNull(),
    backupCodes: text('backup_codes').notNull(),
    userId: text('user_id')
      .notNull()
      .references(() => persons.id),
    verified: integer({ mode: 'boolean' }).default(true),
    failedVerificationCount: integer('failed_verification_count').default(0),
    lockedUntil: moment('locked_until'),
  },
  (t) => [index('second_factors_person').on(t.userId)],
);

/** Ways in that were handed out and not used yet: of each only the hash is kept. */
export const invitations = sqliteTable('invitations', {
  /** SHA-256 of the code. */
  hash: text().primaryKey(),
  /** The first keeper of an empty house; somebody new; or a person who comes in anew. */
  sort: text({ enum: ['first', 'new', 'again'] }).notNull(),
  email: text().notNull().default(''),
  name: text().notNull().default(''),
  role: text({ enum: roles }).notNull(),
  only: jsonText(guestReachSchema),
  /** Whose way in it is, where somebody comes in anew. */
  personId: text('person_id'),
  /** Who invited; `null`: the machine. */
  madeById: text('made_by_id'),
  madeBy: text('made_by').notNull(),
  madeAt: moment('made_at').notNull(),
  until: moment('until_at').notNull(),
});

/** What was done that is no revision and no dispatch, with its doer: sign-ins, roles, connections, decisions, exports. */
export const doings = sqliteTable(
  'doings',
  {
    id: integer().primaryKey({ autoIncrement: true }),
    /** By the house's clock, in ms since 1970. */
    at: integer().notNull(),
    doer: text().notNull(),
    doerId: text('doer_id'),
    /** A word for what sort of thing it was. */
    sort: text().notNull(),
    words: text().notNull(),
    recordId: text('record_id'),
  },
  (t) => [index('doings_record').on(t.recordId)],
);

/** How often somebody may still guess: kept by the limiter. */
export const guesses = sqliteTable('guesses', {
  key: text().primaryKey(),
  points: integer().notNull().default(0),
  expire: integer(),
});
