import { index, integer, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core';
import type { ExamDesign } from '@/core/exam/design';
import { id, json, moment } from './columns';
import { course } from './people';

export const exam = sqliteTable(
  'exam',
  {
    id: id(),
    courseId: text('course_id')
      .notNull()
      .references(() => course.id),
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
    examId: text('exam_id')
      .notNull()
      .references(() => exam.id),
    number: integer('number').notNull(),
    design: json<ExamDesign>('design').notNull(),
    /** Counts edits, so that the second of two editors is told. */
    edit: integer('edit').notNull().default(1),
    createdAt: moment('created_at').notNull(),
    frozenAt: moment('frozen_at'),
  },
  (table) => [uniqueIndex('exam_revision_number').on(table.examId, table.number)],
);
