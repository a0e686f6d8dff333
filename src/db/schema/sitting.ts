import { index, integer, primaryKey, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core';
import type { ExamPurpose } from '@/core/exam/design';
import type { PoolSnapshot } from '@/core/exam/snapshot';
import type { ReleasePlan } from '@/core/release/visibleTo';
import type { AttemptCounts } from '@/core/sitting/rules';
import { id, json, moment } from './columns';
import { exam, examRevision } from './exam';
import { course, user } from './people';

export const sitting = sqliteTable(
  'sitting',
  {
    id: id(),
    courseId: text('course_id')
      .notNull()
      .references(() => course.id),
    examId: text('exam_id')
      .notNull()
      .references(() => exam.id),
    revisionId: text('revision_id')
      .notNull()
      .references(() => examRevision.id),
    title: text('title').notNull(),
    state: text('state').$type<'draft' | 'scheduled' | 'cancelled'>().notNull(),
    opens: moment('opens'),
    lastStart: moment('last_start'),
    due: moment('due'),
    closes: moment('closes'),
    timeLimit: integer('time_limit'),
    fullTimeOnceStarted: integer('full_time_once_started', { mode: 'boolean' }).notNull().default(false),
    attemptsAllowed: integer('attempts_allowed'),
    attemptCounts: text('attempt_counts').$type<AttemptCounts>().notNull().default('best'),
    releasePlan: json<ReleasePlan>('release_plan').notNull(),
    /** What its exam is for, as it was when the sitting was scheduled; see the purpose of a design. */
    scored: integer('scored', { mode: 'boolean' }).notNull().default(true),
    counts: text('counts').$type<ExamPurpose['counts']>().notNull().default('score'),
    anonymous: integer('anonymous', { mode: 'boolean' }).notNull().default(false),
    createdBy: text('created_by').notNull(),
    createdAt: moment('created_at').notNull(),
  },
  (table) => [index('sitting_course').on(table.courseId, table.opens), index('sitting_exam').on(table.examId)],
);

/** Who takes a sitting. The whole course is one row without a section. */
export const sittingAudience = sqliteTable(
  'sitting_audience',
  {
    sittingId: text('sitting_id')
      .notNull()
      .references(() => sitting.id, { onDelete: 'cascade' }),
    kind: text('kind').$type<'course' | 'section' | 'student'>().notNull(),
    /** The course, section or user it names. */
    refId: text('ref_id').notNull(),
  },
  (table) => [primaryKey({ columns: [table.sittingId, table.kind, table.refId] })],
);

/** What differs for one student in one sitting; see {@link ../../core/sitting/rules}. */
export const arrangement = sqliteTable(
  'arrangement',
  {
    sittingId: text('sitting_id')
      .notNull()
      .references(() => sitting.id, { onDelete: 'cascade' }),
    userId: text('user_id')
      .notNull()
      .references(() => user.id),
    extraPercent: integer('extra_percent').notNull().default(0),
    extraMinutes: integer('extra_minutes').notNull().default(0),
    opens: moment('opens'),
    closes: moment('closes'),
    extraAttempts: integer('extra_attempts').notNull().default(0),
    excused: integer('excused', { mode: 'boolean' }).notNull().default(false),
  },
  (table) => [primaryKey({ columns: [table.sittingId, table.userId] })],
);

/** The questions a sitting draws from, fixed when its first attempt starts. */
export const poolSnapshot = sqliteTable(
  'pool_snapshot',
  {
    id: id(),
    sittingId: text('sitting_id')
      .notNull()
      .references(() => sitting.id),
    takenAt: moment('taken_at').notNull(),
    snapshot: json<PoolSnapshot>('snapshot').notNull(),
  },
  (table) => [uniqueIndex('pool_snapshot_sitting').on(table.sittingId, table.takenAt)],
);
