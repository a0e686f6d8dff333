import { and, asc, desc, eq, inArray, isNull, like, or, sql } from 'drizzle-orm';
import { z } from 'zod';
import { categoryPathNames, categoryPaths } from '@/core/bank/categoryTree';
import { parse } from '@/core/base/parse';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import type { Instant } from '@/core/base/time';
import { contentText, type QuestionContent, questionContent } from '@/core/question/content';
import { type Difficulty, difficulties, type QuestionType, questionTypes, usualPoints } from '@/core/question/types';
import type { Tx } from '@/db/client';
import { objective, question, questionObjective, questionVersion } from '@/db/schema';
import { record } from '../house/audit';
import { type Context, newId } from '../house/context';
import { admitToBank } from './banks';
import { categoryRows } from './categories';

export type QuestionRow = {
  id: string;
  type: QuestionType;
  shortName: string;
  text: string;
  category: string;
  difficulty: Difficulty | null;
  points: number;
};

export type QuestionFilter = { categoryId?: string; text?: string; type?: QuestionType };

/** The most rows a list carries at once. */
const longestList = 5_000;

/** The questions of a bank that match a filter: those of a category with everything below it, those with a text. */
export function listQuestions(
  context: Context,
  courseId: string,
  bankId: string,
  filter: QuestionFilter,
): Result<QuestionRow[]> {
  const admitted = admitToBank(context, courseId, bankId, 'bank.see');
  if (!admitted.ok) return admitted;
  const rows = categoryRows(context.db, bankId);
  const names = categoryPathNames(rows);
  const wanted = filter.categoryId
    ? [...categoryPaths(rows)].filter(([, path]) => path.includes(filter.categoryId as string)).map(([id]) => id)
    : null;
  const text = filter.text?.trim().slice(0, 200);
  const pattern = `%${text?.replace(/[\\%_]/g, (sign) => `\\${sign}`)}%`;
  const found = context.db
    .select({
      id: question.id,
      type: question.type,
      shortName: question.shortName,
      text: sql<string>`substr(${questionVersion.plainText}, 1, 160)`,
      categoryId: question.categoryId,
      difficulty: question.difficulty,
      points: question.points,
    })
    .from(question)
    .innerJoin(questionVersion, eq(questionVersion.id, question.currentVersionId))
    .where(
      and(
        eq(question.bankId, bankId),
        isNull(question.retiredAt),
        wanted ? inArray(question.categoryId, wanted.length ? wanted : ['']) : undefined,
        filter.type ? eq(question.type, filter.type) : undefined,
        text
          ? or(
              sql`${like(questionVersion.plainText, pattern)} escape '\\'`,
              sql`${like(question.shortName, pattern)} escape '\\'`,
            )
          : undefined,
      ),
    )
    .orderBy(asc(question.createdAt), asc(question.id))
    .limit(longestList)
    .all();
  return ok(
    found.map(({ categoryId, points, ...row }) => ({
      ...row,
      category: names.get(categoryId) ?? '',
      points: points ?? usualPoints[row.type],
    })),
  );
}

export type OpenQuestion = {
  id: string;
  bankId: string;
  categoryId: string;
  shortName: string;
  difficulty: Difficulty | null;
  points: number;
  /** The number to send back with a save: another's edit in between has raised it. */
  edit: number;
  version: number;
  /** Whether this version stands on a student's paper, so that an edit makes the next one. */
  frozen: boolean;
  content: QuestionContent;
  versions: { number: number; createdAt: Instant; frozen: boolean }[];
  objectives: { code: string; wording: string }[];
};

/** One question for its editor. */
export function openQuestion(
  context: Context,
  courseId: string,
  bankId: string,
  questionId: string,
): Result<OpenQuestion> {
  const admitted = admitToBank(context, courseId, bankId, 'bank.see');
  if (!admitted.ok) return admitted;
  const row = context.db
    .select()
    .from(question)
    .where(and(eq(question.id, questionId), eq(question.bankId, bankId), isNull(question.retiredAt)))
    .get();
  if (!row) return notFound('question');
  const versions = context.db
    .select()
    .from(questionVersion)
    .where(eq(questionVersion.questionId, questionId))
    .orderBy(desc(questionVersion.number))
    .all();
  const current = versions.find((one) => one.id === row.currentVersionId);
  if (!current) return notFound('question');
  const objectives = context.db
    .select({ code: objective.code, wording: objective.wording })
    .from(questionObjective)
    .innerJoin(objective, eq(objective.id, questionObjective.objectiveId))
    .where(eq(questionObjective.questionId, questionId))
    .all();
  return ok({
    id: row.id,
    bankId,
    categoryId: row.categoryId,
    shortName: row.shortName,
    difficulty: row.difficulty,
    points: row.points ?? usualPoints[row.type],
    edit: row.edit,
    version: current.number,
    frozen: current.frozenAt !== null,
    content: current.content,
    versions: versions.map((one) => ({ number: one.number, createdAt: one.createdAt, frozen: one.frozenAt !== null })),
    objectives,
  });
}

const propertiesInput = z.object({
  categoryId: z.string().max(40),
  shortName: z.string().trim().max(120, 'At most 120 characters.').default(''),
  difficulty: z.enum(difficulties).nullable().default(null),
  points: z
    .number({ message: 'Give the points as a number.' })
    .gt(0, 'Points must be more than 0.')
    .max(1_000, 'At most 1000 points.')
    .nullable()
    .default(null),
  content: questionContent,
});

/** Adds a question. A question that cannot be scored is refused, with a message at each field. */
export function createQuestion(
  context: Context,
  courseId: string,
  bankId: string,
  input: unknown,
): Result<{ questionId: string }> {
  const admitted = admitToBank(context, courseId, bankId, 'bank.change');
  if (!admitted.ok) return admitted;
  const parsed = parse(propertiesInput, input);
  if (!parsed.ok) return parsed;
  const { content, ...properties } = parsed.value;
  return context.db.transaction(
    (tx) => {
      if (!categoryRows(tx, bankId).some((row) => row.id === properties.categoryId)) return notFound('category');
      const questionId = newId();
      const versionId = newId();
      tx.insert(question)
        .values({
          id: questionId,
          bankId,
          ...properties,
          type: content.type,
          currentVersionId: versionId,
          createdBy: context.actor.userId,
          createdAt: context.now,
          updatedAt: context.now,
        })
        .run();
      insertVersion(tx, context, { id: versionId, questionId, number: 1, content });
      const undo = { kind: 'question.create', questionId };
      record(tx, context, { action: 'question.create', courseId, subjectId: questionId, undo });
      return ok({ questionId });
    },
    { behavior: 'immediate' },
  );
}

const saveInput = propertiesInput.extend({ edit: z.number().int() });

/**
 * Saves an edited question. While its version stands on no paper it is changed in place; once frozen, the edit makes the
 * next version. An edit that another person's has overtaken is refused and nothing is overwritten.
 */
export function saveQuestion(
  context: Context,
  courseId: string,
  bankId: string,
  questionId: string,
  input: unknown,
): Result<{ edit: number; version: number; newVersion: boolean }> {
  const admitted = admitToBank(context, courseId, bankId, 'bank.change');
  if (!admitted.ok) return admitted;
  const parsed = parse(saveInput, input);
  if (!parsed.ok) return parsed;
  const { content, edit, ...properties } = parsed.value;
  return context.db.transaction(
    (tx) => {
      const row = tx
        .select()
        .from(question)
        .where(and(eq(question.id, questionId), eq(question.bankId, bankId), isNull(question.retiredAt)))
        .get();
      const current =
        row && tx.select().from(questionVersion).where(eq(questionVersion.id, row.currentVersionId)).get();
      if (!row || !current) return notFound('question');
      if (!categoryRows(tx, bankId).some((one) => one.id === properties.categoryId)) return notFound('category');
      if (content.type !== row.type)
        return refused('bad-input', 'The type of a question cannot be changed.', 'content');
      if (edit !== row.edit)
        return refused(
          'conflict',
          'Someone else has changed this question since you opened it. Your text is kept here; open the question anew beside it and bring the two together.',
        );
      const changed = JSON.stringify(current.content) !== JSON.stringify(content);
      const newVersion = changed && current.frozenAt !== null;
      const versionId = newVersion ? newId() : current.id;
      const number = newVersion ? current.number + 1 : current.number;
      if (newVersion) insertVersion(tx, context, { id: versionId, questionId, number, content });
      else if (changed)
        tx.update(questionVersion)
          .set({ content, plainText: contentText(content) })
          .where(eq(questionVersion.id, current.id))
          .run();
      tx.update(question)
        .set({ ...properties, currentVersionId: versionId, edit: edit + 1, updatedAt: context.now })
        .where(eq(question.id, questionId))
        .run();
      record(tx, context, { action: 'question.save', courseId, subjectId: questionId, detail: { version: number } });
      return ok({ edit: edit + 1, version: number, newVersion });
    },
    { behavior: 'immediate' },
  );
}

/** Takes a question out of use. Papers that hold it keep it. */
export function retireQuestion(
  context: Context,
  courseId: string,
  bankId: string,
  questionId: string,
): Result<{ auditId: number }> {
  const admitted = admitToBank(context, courseId, bankId, 'bank.change');
  if (!admitted.ok) return admitted;
  return context.db.transaction(
    (tx) => {
      const retired = tx
        .update(question)
        .set({ retiredAt: context.now })
        .where(and(eq(question.id, questionId), eq(question.bankId, bankId), isNull(question.retiredAt)))
        .run();
      if (retired.changes === 0) return notFound('question');
      const undo = { kind: 'question.retire', questionId };
      return ok({ auditId: record(tx, context, { action: 'question.retire', courseId, subjectId: questionId, undo }) });
    },
    { behavior: 'immediate' },
  );
}

function insertVersion(
  tx: Tx,
  context: Context,
  version: { id: string; questionId: string; number: number; content: QuestionContent },
) {
  tx.insert(questionVersion)
    .values({
      ...version,
      plainText: contentText(version.content),
      createdBy: context.actor.userId,
      createdAt: context.now,
    })
    .run();
}

export const isQuestionType = (text: string | undefined): text is QuestionType =>
  questionTypes.includes(text as QuestionType);
