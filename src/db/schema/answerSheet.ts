import { index, integer, primaryKey, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core';
import type { BroughtPage } from '@/core/answerSheet/gather';
import type { SheetPlan } from '@/core/answerSheet/sheetRow';
import type { Presentation } from '@/core/question/presentation';
import { attempt } from './attempt';
import { id, json, moment, reference } from './columns';
import { exam } from './exam';
import { user } from './people';
import { sitting } from './sitting';

/** Which question of a paper a row of its answer sheet belongs to. */
export type SheetRowOf = { position: number; byHand: boolean };

/** A question of a paper that is the same for everyone, as it was printed. */
export type SheetPaperSlot = {
  partTitle: string;
  questionId: string;
  versionId: string;
  points: number;
  presentation: Presentation;
};

/** How answer sheets of a sitting were printed: what was printed is read by it for ever. */
export const sheetLayout = sqliteTable(
  'sheet_layout',
  {
    /** The signs by which a printed code names it. */
    id: id(),
    sittingId: reference('sitting_id', () => sitting.id),
    plan: json<SheetPlan>('plan').notNull(),
    rows: json<SheetRowOf[]>('rows').notNull(),
    /** Of an anonymous sitting, the paper that its sheets answer; null where each student's attempt has it. */
    paper: json<SheetPaperSlot[]>('paper'),
    /** The highest copy printed so far. */
    copies: integer('copies').notNull(),
    createdAt: moment('created_at').notNull(),
    createdBy: text('created_by').notNull(),
  },
  (table) => [index('sheet_layout_sitting').on(table.sittingId)],
);

/** A sheet on which the key of an off-screen exam is filled in, as it was printed. */
export const keySheet = sqliteTable(
  'key_sheet',
  {
    /** The signs by which its printed code names it. */
    id: id(),
    examId: reference('exam_id', () => exam.id),
    plan: json<SheetPlan>('plan').notNull(),
    /** Which item each row belongs to. */
    questionIds: json<string[]>('question_ids').notNull(),
    createdAt: moment('created_at').notNull(),
  },
  (table) => [index('key_sheet_exam').on(table.examId, table.createdAt)],
);

/** A copy of a layout that was made out for somebody. Copies without a row are blanks. */
export const madeOutSheet = sqliteTable(
  'made_out_sheet',
  {
    layoutId: reference('layout_id', () => sheetLayout.id),
    copy: integer('copy').notNull(),
    userId: reference('user_id', () => user.id),
    /** Which attempt of theirs has the paper that it was printed for. */
    number: integer('number').notNull(),
  },
  (table) => [primaryKey({ columns: [table.layoutId, table.copy] })],
);

/**
 * A copy of an anonymous sitting's sheet that was taken over, so that it is told when it is read once more. Nothing leads
 * from it to what it said, nor to a person.
 */
export const takenCopy = sqliteTable(
  'taken_copy',
  {
    layoutId: reference('layout_id', () => sheetLayout.id),
    copy: integer('copy').notNull(),
  },
  (table) => [primaryKey({ columns: [table.layoutId, table.copy] })],
);

/** Sheets of a sitting that are being read in: looked through, then taken over in one act. */
export const sheetReading = sqliteTable(
  'sheet_reading',
  {
    id: id(),
    sittingId: reference('sitting_id', () => sitting.id),
    startedAt: moment('started_at').notNull(),
    startedBy: text('started_by').notNull(),
    /** When it was taken over; null while it is looked through. */
    appliedAt: moment('applied_at'),
    /** When it was given up, or taken back. */
    endedAt: moment('ended_at'),
  },
  (table) => [index('sheet_reading_sitting').on(table.sittingId, table.startedAt)],
);

/** A page of a file that was brought in. */
export const sheetPage = sqliteTable(
  'sheet_page',
  {
    id: id(),
    readingId: reference('reading_id', () => sheetReading.id),
    position: integer('position').notNull(),
    /** The file it came in, and which page of it. */
    source: text('source').notNull(),
    problem: text('problem').$type<NonNullable<BroughtPage['problem']>>(),
    code: json<BroughtPage['code']>('code'),
    rows: json<BroughtPage['rows']>('rows').notNull(),
    settled: json<BroughtPage['settled']>('settled').notNull(),
    named: text('named').references(() => user.id),
    leftOut: integer('left_out', { mode: 'boolean' }).notNull().default(false),
    /** How often it was typed by hand; 0 where it was read from a picture. */
    typed: integer('typed').notNull().default(0),
    /** The picture of the sheet, straightened, by the hash of its content. */
    picture: text('picture'),
    /** The attempt whose evidence it is, once it was taken over. */
    attemptId: text('attempt_id').references(() => attempt.id),
  },
  (table) => [
    uniqueIndex('sheet_page_position').on(table.readingId, table.position),
    index('sheet_page_attempt').on(table.attemptId),
  ],
);
