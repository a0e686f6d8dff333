import { index, integer, primaryKey, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core';
import type { ExamDesign } from '@/core/exam/design';
import { id, json, moment, reference } from './columns';
import { course, user } from './people';

export const exam = sqliteTable(
  'exam',
  {
    id: id(),
    courseId: reference('course_id', () => course.id),
    title: text('title').notNull(),
    currentRevisionId: text('current_revision_id').notNull(),
    createdBy: text('created_by').notNull(),
    createdAt: moment('created_at').notNull(),
    archivedAt: moment('archived_at'),
    /** What finds it again next year: all free text, empty where it does not matter. */
    year: text('year').notNull().default(''),
    subject: text('subject').notNull().default(''),
    level: text('level').notNull().default(''),
  },
  (table) => [index('exam_course').on(table.courseId, table.createdAt)],
);

/** What an exam looked like at one time. A sitting pins one; a pinned revision never changes. */
export const examRevision = sqliteTable(
  'exam_revision',
  {
    id: id(),
    examId: reference('exam_id', () => exam.id),
    number: integer('number').notNull(),
    design: json<ExamDesign>('design').notNull(),
    /** Counts edits, so that the second of two editors is told. */
    edit: integer('edit').notNull().default(1),
    createdAt: moment('created_at').notNull(),
    frozenAt: moment('frozen_at'),
  },
  (table) => [uniqueIndex('exam_revision_number').on(table.examId, table.number)],
);

/** The paper of an off-screen exam as a document; the file lies in the data folder under the hash of its content. */
export const examDocument = sqliteTable(
  'exam_document',
  {
    examId: reference('exam_id', () => exam.id),
    hash: text('hash').notNull(),
    name: text('name').notNull(),
    bytes: integer('bytes').notNull(),
    pages: integer('pages').notNull(),
    storedAt: moment('stored_at').notNull(),
  },
  (table) => [primaryKey({ columns: [table.examId, table.hash] })],
);

/** A colleague who was asked to look at an exam, and what came of it. */
export const examLook = sqliteTable(
  'exam_look',
  {
    id: id(),
    examId: reference('exam_id', () => exam.id),
    colleagueId: reference('colleague_id', () => user.id),
    askedBy: reference('asked_by', () => user.id),
    askedAt: moment('asked_at').notNull(),
    note: text('note').notNull().default(''),
    signedAt: moment('signed_at'),
    /** What stood there when it was signed off, so that a later change shows. */
    signedOver: json<{ revision: number; fingerprint: string }>('signed_over'),
    withdrawnAt: moment('withdrawn_at'),
  },
  (table) => [index('exam_look_exam').on(table.examId), index('exam_look_colleague').on(table.colleagueId)],
);

/** A remark on an exam, or on one of its parts or lines, or on one of its sittings. */
export const examRemark = sqliteTable(
  'exam_remark',
  {
    id: id(),
    examId: reference('exam_id', () => exam.id),
    authorId: reference('author_id', () => user.id),
    /** The part, line or sitting it is about; null for the exam as a whole. */
    aboutId: text('about_id'),
    text: text('text').notNull(),
    at: moment('at').notNull(),
    settledAt: moment('settled_at'),
    settledBy: text('settled_by'),
  },
  (table) => [index('exam_remark_exam').on(table.examId, table.at)],
);
