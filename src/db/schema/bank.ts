import { index, integer, primaryKey, real, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core';
import type { MediaKind, Rich } from '@/core/base/rich';
import type { QuestionContent } from '@/core/question/content';
import type { Difficulty, QuestionType } from '@/core/question/types';
import { id, json, moment, reference } from './columns';
import { course } from './people';

export const bank = sqliteTable('bank', {
  id: id(),
  name: text('name').notNull(),
  /** Points a question of a type begins with here, where they differ from the usual ones. */
  usualPoints: json<Partial<Record<QuestionType, number>>>('usual_points'),
  /** The off-screen exam whose items it holds; such a bank serves no course and stands in no list of banks. */
  examId: text('exam_id').unique(),
  createdBy: text('created_by').notNull(),
  createdAt: moment('created_at').notNull(),
});

/** Which banks a course uses; a bank may serve many. */
export const courseBank = sqliteTable(
  'course_bank',
  {
    courseId: reference('course_id', () => course.id),
    bankId: reference('bank_id', () => bank.id),
  },
  (table) => [primaryKey({ columns: [table.courseId, table.bankId] }), index('course_bank_bank').on(table.bankId)],
);

export const category = sqliteTable(
  'category',
  {
    id: id(),
    bankId: reference('bank_id', () => bank.id),
    parentId: text('parent_id'),
    name: text('name').notNull(),
    position: integer('position').notNull(),
  },
  (table) => [index('category_bank').on(table.bankId, table.parentId, table.position)],
);

export const objective = sqliteTable(
  'objective',
  {
    id: id(),
    bankId: reference('bank_id', () => bank.id),
    code: text('code').notNull(),
    wording: text('wording').notNull(),
  },
  (table) => [uniqueIndex('objective_code').on(table.bankId, table.code)],
);

/** A text, table or figure that several questions share. Versioned like questions. */
export const passage = sqliteTable(
  'passage',
  {
    id: id(),
    bankId: reference('bank_id', () => bank.id),
    shortName: text('short_name').notNull(),
    currentVersionId: text('current_version_id'),
    /** Raised by every save, so that nobody saves over what they have not seen. */
    edit: integer('edit').notNull().default(1),
    /** When it was deleted: it stays for papers that hold it, and for taking the deletion back. */
    deletedAt: moment('deleted_at'),
  },
  (table) => [index('passage_bank').on(table.bankId)],
);

export const passageVersion = sqliteTable(
  'passage_version',
  {
    id: id(),
    passageId: reference('passage_id', () => passage.id),
    number: integer('number').notNull(),
    content: json<Rich>('content').notNull(),
    createdAt: moment('created_at').notNull(),
    frozenAt: moment('frozen_at'),
  },
  (table) => [uniqueIndex('passage_version_number').on(table.passageId, table.number)],
);

export const question = sqliteTable(
  'question',
  {
    id: id(),
    bankId: reference('bank_id', () => bank.id),
    categoryId: reference('category_id', () => category.id),
    type: text('type').$type<QuestionType>().notNull(),
    /** Private: for the bank's keepers, never shown to students. */
    shortName: text('short_name').notNull().default(''),
    difficulty: text('difficulty').$type<Difficulty>(),
    /** Points it usually carries; null is the usual of its type. */
    points: real('points'),
    passageId: text('passage_id').references(() => passage.id),
    currentVersionId: text('current_version_id').notNull(),
    /** Counts edits of any kind, so that the second of two editors is told. */
    edit: integer('edit').notNull().default(1),
    createdBy: text('created_by').notNull(),
    createdAt: moment('created_at').notNull(),
    updatedAt: moment('updated_at').notNull(),
    retiredAt: moment('retired_at'),
  },
  (table) => [
    index('question_category').on(table.categoryId, table.createdAt),
    index('question_bank').on(table.bankId, table.createdAt),
    index('question_passage').on(table.passageId),
    index('question_changed').on(table.bankId, table.updatedAt),
  ],
);

export const questionVersion = sqliteTable(
  'question_version',
  {
    id: id(),
    questionId: reference('question_id', () => question.id),
    number: integer('number').notNull(),
    content: json<QuestionContent>('content').notNull(),
    /** The words of stem and choices, for lists and search. */
    plainText: text('plain_text').notNull(),
    createdBy: text('created_by').notNull(),
    createdAt: moment('created_at').notNull(),
    /** Set when it first stands on a student's paper; from then on nothing here changes. */
    frozenAt: moment('frozen_at'),
  },
  (table) => [uniqueIndex('question_version_number').on(table.questionId, table.number)],
);

export const questionObjective = sqliteTable(
  'question_objective',
  {
    questionId: reference('question_id', () => question.id, 'cascade'),
    objectiveId: reference('objective_id', () => objective.id),
  },
  (table) => [
    primaryKey({ columns: [table.questionId, table.objectiveId] }),
    index('question_objective_objective').on(table.objectiveId),
  ],
);

/** Free words on a question, besides difficulty and objectives. */
export const questionTag = sqliteTable(
  'question_tag',
  {
    questionId: reference('question_id', () => question.id, 'cascade'),
    tag: text('tag').notNull(),
  },
  (table) => [primaryKey({ columns: [table.questionId, table.tag] }), index('question_tag_tag').on(table.tag)],
);

/** The row of the full-text table that holds a question's words: that table knows its rows by number only. */
export const questionWords = sqliteTable('question_words', {
  row: integer('row').primaryKey(),
  questionId: text('question_id')
    .notNull()
    .unique()
    .references(() => question.id, { onDelete: 'cascade' }),
});

/** A filter of a bank under a name, for one person. */
export const savedFilter = sqliteTable(
  'saved_filter',
  {
    id: id(),
    userId: text('user_id').notNull(),
    bankId: reference('bank_id', () => bank.id),
    name: text('name').notNull(),
    /** As it stands in the address. */
    query: text('query').notNull(),
  },
  (table) => [uniqueIndex('saved_filter_name').on(table.userId, table.bankId, table.name)],
);

/** What a person has typed into a question sheet and not saved yet. */
export const questionDraft = sqliteTable(
  'question_draft',
  {
    userId: text('user_id').notNull(),
    bankId: reference('bank_id', () => bank.id),
    /** The question, or `new/` and a type. */
    subject: text('subject').notNull(),
    /** The edit of the question it was begun from. */
    edit: integer('edit').notNull(),
    fields: json<unknown>('fields').notNull(),
    savedAt: moment('saved_at').notNull(),
  },
  (table) => [primaryKey({ columns: [table.userId, table.bankId, table.subject] })],
);

/** A file of the data folder, known by the hash of its content. */
export const media = sqliteTable('media', {
  hash: text('hash').primaryKey(),
  type: text('type').notNull(),
  kind: text('kind').$type<MediaKind>().notNull(),
  bytes: integer('bytes').notNull(),
  width: integer('width'),
  height: integer('height'),
  createdAt: moment('created_at').notNull(),
});

/** Where a file may be seen: the bank it was brought into, and the versions that show it. */
export const mediaBank = sqliteTable(
  'media_bank',
  {
    hash: reference('hash', () => media.hash),
    bankId: reference('bank_id', () => bank.id),
  },
  (table) => [primaryKey({ columns: [table.hash, table.bankId] })],
);

export const mediaVersion = sqliteTable(
  'media_version',
  {
    hash: reference('hash', () => media.hash),
    versionId: text('version_id').notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.hash, table.versionId] }),
    index('media_version_version').on(table.versionId),
  ],
);
