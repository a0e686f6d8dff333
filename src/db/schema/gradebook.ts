import { index, integer, real, sqliteTable, text } from 'drizzle-orm/sqlite-core';
import type { Curve, GroupCounting, LateRule } from '@/core/gradebook/courseTotal';
import { id, json, moment, reference } from './columns';
import { course, user } from './people';
import { sitting } from './sitting';

/** A weighted group of columns. */
export const gradeGroup = sqliteTable(
  'grade_group',
  {
    id: id(),
    courseId: reference('course_id', () => course.id),
    title: text('title').notNull(),
    /** Its share of the course total, relative to the others'. */
    weight: real('weight').notNull(),
    counting: text('counting').$type<GroupCounting>().notNull(),
    /** How many of a student's cells are dropped. */
    drop: integer('drop').notNull(),
    position: integer('position').notNull(),
  },
  (table) => [index('grade_group_course').on(table.courseId, table.position)],
);

/**
 * A column of the gradebook: a manual one, or what is set of a sitting's. A sitting without a row here has a column as
 * sittings have it unless something is set.
 */
export const gradeColumn = sqliteTable(
  'grade_column',
  {
    id: id(),
    courseId: reference('course_id', () => course.id),
    /** Null for a manual column. */
    sittingId: text('sitting_id').references(() => sitting.id),
    title: text('title').notNull(),
    /** Null: a sitting's own worth. */
    worth: real('worth'),
    groupId: text('group_id').references(() => gradeGroup.id),
    extraCredit: integer('extra_credit', { mode: 'boolean' }).notNull().default(false),
    curve: json<Curve>('curve'),
    late: json<LateRule>('late'),
    position: integer('position').notNull(),
    removedAt: moment('removed_at'),
  },
  (table) => [index('grade_column_course').on(table.courseId, table.position)],
);

/** What was entered into a cell, one row for each change; the newest that was not taken back counts. */
export const gradeEntry = sqliteTable(
  'grade_entry',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    /** A manual column, or a sitting. */
    columnId: text('column_id').notNull(),
    courseId: reference('course_id', () => course.id),
    userId: reference('user_id', () => user.id),
    /** Null where nothing is given. */
    points: real('points'),
    excused: integer('excused', { mode: 'boolean' }).notNull().default(false),
    reason: text('reason').notNull().default(''),
    /** Entries of one import share it, and are taken back together. */
    batch: text('batch'),
    takenBackAt: moment('taken_back_at'),
    at: moment('at').notNull(),
    by: reference('by', () => user.id),
  },
  (table) => [
    index('grade_entry_course').on(table.courseId, table.columnId, table.userId),
    index('grade_entry_batch').on(table.batch),
    // What stands in a course, in the order in which it was entered; and how much of it was taken back.
    index('grade_entry_standing').on(table.courseId, table.takenBackAt),
  ],
);
