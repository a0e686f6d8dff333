import { index, integer, primaryKey, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core';
import type { ExamPurpose } from '@/core/exam/design';
import type { PoolSnapshot } from '@/core/exam/snapshot';
import type { Band } from '@/core/gradebook/bands';
import type { Completion } from '@/core/gradebook/completion';
import type { ReleasePlan, SelfPublish } from '@/core/release/plan';
import type { Acknowledged } from '@/core/sitting/preflight';
import type { AttemptCounts, FurtherRules } from '@/core/sitting/rules';
import { questionVersion } from './bank';
import { id, json, moment, reference } from './columns';
import { exam, examRevision } from './exam';
import { course, user } from './people';

export const sitting = sqliteTable(
  'sitting',
  {
    id: id(),
    courseId: reference('course_id', () => course.id),
    examId: reference('exam_id', () => exam.id),
    revisionId: reference('revision_id', () => examRevision.id),
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
    /** The rules that most sittings leave as they are; what is missing is as {@link noFurtherRules} says. */
    further: json<Partial<FurtherRules>>('further'),
    /** What students are told comes next, on the receipt; empty where nothing is set. */
    nextTask: text('next_task').notNull().default(''),
    /** The warnings of the preflight that somebody has read and takes the responsibility for. */
    acknowledged: json<Acknowledged[]>('acknowledged'),
    releasePlan: json<ReleasePlan>('release_plan').notNull(),
    /** Null: an instructor publishes. */
    selfPublish: json<SelfPublish>('self_publish'),
    /** Bands of its own; null where the course's hold. */
    bands: json<Band[]>('bands'),
    /** When a student is done with it; null where nothing is said. */
    completion: json<Completion>('completion'),
    /** What its exam is for, as it was when the sitting was scheduled; see the purpose of a design. */
    scored: integer('scored', { mode: 'boolean' }).notNull().default(true),
    counts: text('counts').$type<ExamPurpose['counts']>().notNull().default('score'),
    anonymous: integer('anonymous', { mode: 'boolean' }).notNull().default(false),
    /** Whether its opening and closing are acts: what else it has then stands under `round`. */
    isRound: integer('is_round', { mode: 'boolean' }).notNull().default(false),
    createdBy: text('created_by').notNull(),
    createdAt: moment('created_at').notNull(),
  },
  (table) => [index('sitting_course').on(table.courseId, table.opens), index('sitting_exam').on(table.examId)],
);

/** Who takes a sitting. The whole course is one row without a section. */
export const sittingAudience = sqliteTable(
  'sitting_audience',
  {
    sittingId: reference('sitting_id', () => sitting.id, 'cascade'),
    kind: text('kind').$type<'course' | 'section' | 'student' | 'link' | 'door'>().notNull(),
    /** The course, section or user it names; of a link, the secret in its address; of a door, the sitting itself. */
    refId: text('ref_id').notNull(),
  },
  (table) => [primaryKey({ columns: [table.sittingId, table.kind, table.refId] })],
);

/** What differs for one student in one sitting; see {@link ../../core/sitting/rules}. */
export const arrangement = sqliteTable(
  'arrangement',
  {
    sittingId: reference('sitting_id', () => sitting.id, 'cascade'),
    userId: reference('user_id', () => user.id),
    extraPercent: integer('extra_percent').notNull().default(0),
    extraMinutes: integer('extra_minutes').notNull().default(0),
    opens: moment('opens'),
    lastStart: moment('last_start'),
    due: moment('due'),
    closes: moment('closes'),
    extraAttempts: integer('extra_attempts').notNull().default(0),
    excused: integer('excused', { mode: 'boolean' }).notNull().default(false),
    entryCode: text('entry_code'),
    networks: json<string[]>('networks'),
    /** The number of the last attempt the instructor has let through. */
    letThrough: integer('let_through').notNull().default(0),
  },
  (table) => [primaryKey({ columns: [table.sittingId, table.userId] })],
);

/** The questions a sitting draws from, fixed when its first attempt starts. */
export const poolSnapshot = sqliteTable(
  'pool_snapshot',
  {
    id: id(),
    sittingId: reference('sitting_id', () => sitting.id),
    takenAt: moment('taken_at').notNull(),
    snapshot: json<PoolSnapshot>('snapshot').notNull(),
  },
  (table) => [uniqueIndex('pool_snapshot_sitting').on(table.sittingId, table.takenAt)],
);

/** What an invigilator wrote down about a sitting or one student, and what they told the room. */
export const sittingNote = sqliteTable(
  'sitting_note',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    sittingId: reference('sitting_id', () => sitting.id),
    kind: text('kind').$type<'incident' | 'message'>().notNull(),
    /** Whom it is about or to; null for everyone. */
    userId: text('user_id').references(() => user.id),
    text: text('text').notNull(),
    at: moment('at').notNull(),
    by: text('by').notNull(),
    /** When an incident was settled, and by whom; null while it waits. Messages wait for nobody. */
    settledAt: moment('settled_at'),
    settledBy: text('settled_by'),
  },
  (table) => [index('sitting_note_sitting').on(table.sittingId, table.id)],
);

/** A student's word that something is wrong with a question of their paper. */
export const questionReport = sqliteTable(
  'question_report',
  {
    id: id(),
    sittingId: reference('sitting_id', () => sitting.id),
    slotId: text('slot_id').notNull(),
    questionId: text('question_id').notNull(),
    versionId: reference('version_id', () => questionVersion.id),
    userId: reference('user_id', () => user.id),
    text: text('text').notNull(),
    at: moment('at').notNull(),
    answer: text('answer'),
    answeredAt: moment('answered_at'),
    answeredBy: text('answered_by'),
  },
  (table) => [
    index('question_report_sitting').on(table.sittingId, table.versionId),
    index('question_report_slot').on(table.slotId, table.userId),
  ],
);

/** A word on a question version that everyone who has it on a paper of the sitting sees from then on. */
export const correction = sqliteTable(
  'correction',
  {
    id: id(),
    sittingId: reference('sitting_id', () => sitting.id),
    versionId: reference('version_id', () => questionVersion.id),
    text: text('text').notNull(),
    at: moment('at').notNull(),
    by: text('by').notNull(),
    withdrawnAt: moment('withdrawn_at'),
  },
  (table) => [index('correction_sitting').on(table.sittingId, table.versionId)],
);
