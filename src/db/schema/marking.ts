import { index, integer, real, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core';
import type { MarkKind, PassageNote, RubricLevels } from '@/core/marking/marks';
import type { Unobserved } from '@/core/marking/observation';
import type { RemarkingPolicy } from '@/core/marking/remarkingPolicy';
import { attempt, paperSlot } from './attempt';
import { question, questionVersion } from './bank';
import { id, json, moment, reference } from './columns';
import { course } from './people';
import { sitting } from './sitting';

/** Marks are only ever added; the newest of a slot that stands counts, unless the response it judged has changed since. */
export const mark = sqliteTable(
  'mark',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    slotId: reference('slot_id', () => paperSlot.id),
    /** What it judged: 0 is an empty response. */
    responseRevision: integer('response_revision').notNull(),
    versionId: reference('version_id', () => questionVersion.id),
    kind: text('kind').$type<MarkKind>().notNull(),
    points: real('points').notNull(),
    comment: text('comment').notNull().default(''),
    /** The level chosen for each criterion of the rubric. */
    rubric: json<RubricLevels>('rubric'),
    /** What is said on passages of the answer. */
    notes: json<PassageNote[]>('notes'),
    /** Why a person gave it; empty for a rule. */
    reason: text('reason').notNull().default(''),
    /** Why it says nothing of how hard the question is; null where it does. */
    unobserved: text('unobserved').$type<Unobserved>(),
    markerId: text('marker_id'),
    at: moment('at').notNull(),
    /** Set when the attempt was opened again and the response is another one now: the mark stays to be read, and waits anew. */
    outdated: integer('outdated', { mode: 'boolean' }).notNull().default(false),
    /** Names what was done in one act, such as a group, an upload or a re-mark, and can be taken back in one. */
    batch: text('batch'),
    /** Set when it was taken back: it stays in the history, and what stood before counts again. */
    takenBackAt: moment('taken_back_at'),
  },
  (table) => [index('mark_slot').on(table.slotId, table.id), index('mark_batch').on(table.batch)],
);

/** Points added to or taken from a whole paper. Only ever added; the newest of an attempt holds. */
export const paperAdjustment = sqliteTable(
  'paper_adjustment',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    attemptId: reference('attempt_id', () => attempt.id),
    points: real('points').notNull(),
    reason: text('reason').notNull(),
    by: text('by').notNull(),
    at: moment('at').notNull(),
  },
  (table) => [index('paper_adjustment_attempt').on(table.attemptId, table.id)],
);

/** That a share of the answers of a sitting is marked a second time, blind. */
export const secondMarking = sqliteTable('second_marking', {
  sittingId: text('sitting_id')
    .primaryKey()
    .references(() => sitting.id),
  markerId: text('marker_id').notNull(),
  /** The share of the answers, in (0, 1]. */
  share: real('share').notNull(),
  /** The greatest difference in points that needs no settling. */
  threshold: real('threshold').notNull(),
  at: moment('at').notNull(),
});

/** What the second marker gave. It never counts by itself. Only ever added; the newest of a slot and marker holds. */
export const secondMark = sqliteTable(
  'second_mark',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    slotId: reference('slot_id', () => paperSlot.id),
    responseRevision: integer('response_revision').notNull(),
    points: real('points').notNull(),
    comment: text('comment').notNull().default(''),
    rubric: json<RubricLevels>('rubric'),
    notes: json<PassageNote[]>('notes'),
    markerId: text('marker_id').notNull(),
    at: moment('at').notNull(),
  },
  (table) => [index('second_mark_slot').on(table.slotId, table.id)],
);

/** A comment that is used again and again for the answers to one question. */
export const savedComment = sqliteTable(
  'saved_comment',
  {
    id: id(),
    courseId: reference('course_id', () => course.id),
    questionId: reference('question_id', () => question.id),
    text: text('text').notNull(),
    /** How many marks it was put into. */
    used: integer('used').notNull().default(0),
    createdBy: text('created_by').notNull(),
    createdAt: moment('created_at').notNull(),
  },
  (table) => [uniqueIndex('saved_comment_text').on(table.courseId, table.questionId, table.text)],
);

/** An annotated file that goes back to the student whose answer it belongs to. */
export const returnedFile = sqliteTable(
  'returned_file',
  {
    id: id(),
    slotId: reference('slot_id', () => paperSlot.id),
    name: text('name').notNull(),
    type: text('type').notNull(),
    bytes: integer('bytes').notNull(),
    hash: text('hash').notNull(),
    batch: text('batch').notNull(),
    at: moment('at').notNull(),
    takenBackAt: moment('taken_back_at'),
  },
  (table) => [index('returned_file_slot').on(table.slotId), index('returned_file_batch').on(table.batch)],
);

/** A question marked anew after its key was mended. The marks carry its id as their batch. */
export const remarking = sqliteTable(
  'remarking',
  {
    id: id(),
    courseId: reference('course_id', () => course.id),
    questionId: reference('question_id', () => question.id),
    /** The version whose key judged. */
    versionId: reference('version_id', () => questionVersion.id),
    policy: text('policy').$type<RemarkingPolicy>().notNull(),
    /** The sittings whose papers were marked anew; null for all of the course. */
    sittingIds: json<string[]>('sitting_ids'),
    reason: text('reason').notNull(),
    by: text('by').notNull(),
    at: moment('at').notNull(),
    takenBackAt: moment('taken_back_at'),
  },
  (table) => [index('remarking_question').on(table.questionId)],
);
