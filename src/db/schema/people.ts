import { index, integer, primaryKey, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core';
import type { SheetLayout } from '@/core/gradebook/feedbackSheet';
import type { GradebookRules } from '@/core/gradebook/gradebookRules';
import type { Role } from '@/core/people/policy';
import type { Arrangement } from '@/core/sitting/rules';
import type { FreeDays } from '@/core/sitting/teachingWeeks';
import { id, json, moment, reference } from './columns';

const date = (name: string) => integer(name, { mode: 'timestamp_ms' });

/** The four tables of the sign-in library keep its column names. */
export const user = sqliteTable('user', {
  id: id(),
  /** As people say it: first names first. */
  name: text('name').notNull(),
  /** The part of the name by which they are sorted; empty where nobody has said and the last word is taken for it. */
  lastName: text('last_name').notNull().default(''),
  /** Null where they have none: then they sign in by `signInName`, and no message reaches them. */
  email: text('email').unique(),
  /** What they may sign in with besides an email, in small letters: a student number, or a name. */
  signInName: text('sign_in_name').unique(),
  /** Whether they may set what the whole school shares. */
  keepsSchool: integer('keeps_school', { mode: 'boolean' }).notNull().default(false),
  emailVerified: integer('email_verified', { mode: 'boolean' }).notNull().default(false),
  image: text('image'),
  createdAt: date('created_at').notNull(),
  updatedAt: date('updated_at').notNull(),
});

export const session = sqliteTable(
  'session',
  {
    id: id(),
    token: text('token').notNull().unique(),
    userId: reference('user_id', () => user.id, 'cascade'),
    expiresAt: date('expires_at').notNull(),
    ipAddress: text('ip_address'),
    userAgent: text('user_agent'),
    createdAt: date('created_at').notNull(),
    updatedAt: date('updated_at').notNull(),
  },
  (table) => [index('session_user').on(table.userId)],
);

export const account = sqliteTable(
  'account',
  {
    id: id(),
    accountId: text('account_id').notNull(),
    providerId: text('provider_id').notNull(),
    userId: reference('user_id', () => user.id, 'cascade'),
    password: text('password'),
    accessToken: text('access_token'),
    refreshToken: text('refresh_token'),
    idToken: text('id_token'),
    accessTokenExpiresAt: date('access_token_expires_at'),
    refreshTokenExpiresAt: date('refresh_token_expires_at'),
    scope: text('scope'),
    createdAt: date('created_at').notNull(),
    updatedAt: date('updated_at').notNull(),
  },
  (table) => [index('account_user').on(table.userId)],
);

export const verification = sqliteTable('verification', {
  id: id(),
  identifier: text('identifier').notNull(),
  value: text('value').notNull(),
  expiresAt: date('expires_at').notNull(),
  createdAt: date('created_at').notNull(),
  updatedAt: date('updated_at').notNull(),
});

/**
 * A one-time address with which an added person sets a password; where it names an offer, it also takes that up. Only the
 * hash of its token is kept.
 */
export const invitation = sqliteTable(
  'invitation',
  {
    tokenHash: text('token_hash').primaryKey(),
    userId: reference('user_id', () => user.id, 'cascade'),
    expiresAt: moment('expires_at').notNull(),
    usedAt: moment('used_at'),
    offerId: text('offer_id').references(() => offer.id, { onDelete: 'cascade' }),
  },
  (table) => [index('invitation_user').on(table.userId), index('invitation_offer').on(table.offerId)],
);

export const course = sqliteTable('course', {
  id: id(),
  name: text('name').notNull(),
  term: text('term').notNull().default(''),
  timeZone: text('time_zone').notNull(),
  /** A day of the first week of teaching, `2026-09-07`; null where nobody has said. */
  firstDay: text('first_day'),
  /** When there is no teaching. */
  freeDays: json<FreeDays[]>('free_days'),
  /** How its gradebook is computed and shown; null where nothing has been set. */
  gradebook: json<GradebookRules>('gradebook'),
  /** What its feedback sheets hold; null where nothing has been set. */
  sheetLayout: json<SheetLayout>('sheet_layout'),
  createdAt: moment('created_at').notNull(),
  archivedAt: moment('archived_at'),
});

/** Something that needs a look after a course was begun from an earlier one. */
export const courseNote = sqliteTable(
  'course_note',
  {
    id: id(),
    courseId: reference('course_id', () => course.id),
    about: text('about').$type<'course' | 'exam' | 'sitting'>().notNull(),
    subjectId: text('subject_id').notNull(),
    text: text('text').notNull(),
    createdAt: moment('created_at').notNull(),
    doneAt: moment('done_at'),
  },
  (table) => [index('course_note_course').on(table.courseId, table.doneAt)],
);

export const section = sqliteTable(
  'section',
  {
    id: id(),
    courseId: reference('course_id', () => course.id),
    name: text('name').notNull(),
    position: integer('position').notNull(),
  },
  (table) => [uniqueIndex('section_name').on(table.courseId, table.name)],
);

export const membership = sqliteTable(
  'membership',
  {
    id: id(),
    courseId: reference('course_id', () => course.id),
    userId: reference('user_id', () => user.id),
    role: text('role').$type<Role>().notNull(),
    sectionId: text('section_id').references(() => section.id),
    studentNumber: text('student_number'),
    /** The standing arrangement: it applies to every sitting by itself. */
    standing: json<Partial<Arrangement>>('standing'),
    /** The one sitting of a person who came by its link and only typed a name; they are on no list of the course. */
    onlySitting: text('only_sitting'),
    addedAt: moment('added_at').notNull(),
    removedAt: moment('removed_at'),
  },
  (table) => [
    uniqueIndex('membership_person').on(table.courseId, table.userId),
    index('membership_user').on(table.userId),
    index('membership_number').on(table.studentNumber),
  ],
);

/**
 * A part in a course that waits for its owner's word: somebody who has an account already is to be more than a student. It
 * is taken up with an address made for it, so that whoever opened the account before its owner gets nothing by it.
 */
export const offer = sqliteTable(
  'offer',
  {
    id: id(),
    courseId: reference('course_id', () => course.id),
    userId: reference('user_id', () => user.id),
    role: text('role').$type<Role>().notNull(),
    offeredAt: moment('offered_at').notNull(),
    offeredBy: reference('offered_by', () => user.id),
  },
  (table) => [
    uniqueIndex('offer_person').on(table.courseId, table.userId),
    index('offer_user').on(table.userId),
    index('offer_by').on(table.offeredBy),
  ],
);

/** Which markers may mark which sittings. */
export const markerAssignment = sqliteTable(
  'marker_assignment',
  {
    sittingId: text('sitting_id').notNull(),
    userId: reference('user_id', () => user.id),
  },
  (table) => [
    primaryKey({ columns: [table.sittingId, table.userId] }),
    index('marker_assignment_user').on(table.userId),
  ],
);
