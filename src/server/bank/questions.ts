import { and, desc, eq, isNull } from 'drizzle-orm';
import { z } from 'zod';
import { id } from '@/core/base/id';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import type { Instant } from '@/core/base/time';
import { type QuestionContent, questionContent } from '@/core/question/content';
import { type Difficulty, difficulties, type QuestionType, questionTypes } from '@/core/question/types';
import { variationProblems } from '@/core/question/variables/inspectQuestion';
import type { Tx } from '@/db/client';
import { objective, passage, question, questionObjective, questionVersion } from '@/db/schema';
import { newId } from '../house/context';
import { command, query } from '../house/useCase';
import { categoryRows } from './categories';
import { type Draft, draftOf, dropDraft } from './drafts';
import { setLabels, tagsInput, tagsOf } from './labels';
import { pointsIn } from './points';
import { questionCreated, questionRetired } from './questionChanges';
import { type QuestionUsage, questionUsage, whatChanged } from './questionUsage';
import { rememberChoices } from './remembered';
import { keepWords } from './searchWords';
import { toBank } from './toBank';
import { beginVersions, changeContent } from './versions';

export type OpenQuestion = {
  id: string;
  bankId: string;
  categoryId: string;
  shortName: string;
  difficulty: Difficulty | null;
  points: number;
  /** Null where the points of its bank hold, which `usualPoints` says. */
  ownPoints: number | null;
  usualPoints: number;
  /** The number to send back with a save: another's edit in between has raised it. */
  edit: number;
  version: number;
  /** Whether this version stands on a student's paper, so that an edit makes the next one. */
  frozen: boolean;
  content: QuestionContent;
  versions: { number: number; createdAt: Instant; frozen: boolean; changed: string[] }[];
  objectives: { id: string; code: string; wording: string }[];
  passageId: string | null;
  tags: string[];
  usage: QuestionUsage | null;
  /** What this person typed into its sheet and did not save. */
  draft: Draft | null;
  /** When it was retired; null while it is in use. */
  retiredAt: Instant | null;
};

/** One question for its editor. */
export const openQuestion = query({
  admits: toBank('bank.see'),
  takes: [id('question')],
  does({ bankId, context }, questionId): Result<OpenQuestion> {
    const row = context.db
      .select()
      .from(question)
      .where(and(eq(question.id, questionId), eq(question.bankId, bankId)))
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
    const usual = pointsIn(context.db, bankId)(row.type);
    const objectives = context.db
      .select({ id: objective.id, code: objective.code, wording: objective.wording })
      .from(questionObjective)
      .innerJoin(objective, eq(objective.id, questionObjective.objectiveId))
      .where(eq(questionObjective.questionId, questionId))
      .all();
    return ok({
      id: row.id,
      bankId,
      retiredAt: row.retiredAt,
      categoryId: row.categoryId,
      shortName: row.shortName,
      difficulty: row.difficulty,
      points: row.points ?? usual,
      ownPoints: row.points,
      usualPoints: usual,
      edit: row.edit,
      version: current.number,
      frozen: current.frozenAt !== null,
      content: current.content,
      versions: versions.map((one, i) => ({
        number: one.number,
        createdAt: one.createdAt,
        frozen: one.frozenAt !== null,
        changed: whatChanged(versions[i + 1]?.content, one.content),
      })),
      passageId: row.passageId,
      objectives,
      tags: tagsOf(context.db, questionId),
      usage: questionUsage(context.db, questionId),
      draft: draftOf(context, bankId, questionId),
    });
  },
});

const propertiesInput = z.object({
  categoryId: id('category'),
  shortName: z.string().trim().max(120, 'At most 120 characters.').default(''),
  difficulty: z.enum(difficulties).nullable().default(null),
  points: z
    .number({ message: 'Give the points as a number.' })
    .gt(0, 'Points must be more than 0.')
    .max(1_000, 'At most 1000 points.')
    .nullable()
    .default(null),
  content: questionContent,
  /** The passage it shares; left as it is where absent. */
  passageId: id('passage').nullable().optional(),
  /** Left as they are where absent. */
  objectives: z.array(id('objective')).max(50).optional(),
  tags: tagsInput.optional(),
});

/** Adds a question. A question that cannot be scored is refused, with a message at each field. */
export const createQuestion = command({
  admits: toBank('bank.change'),
  takes: [propertiesInput],
  logs: 'question.create',
  does({ tx, bankId, record, context }, { content, objectives, tags, ...properties }): Result<{ questionId: string }> {
    const varied = variationProblems(content);
    if (varied.length) return { ok: false, problems: varied };
    if (!categoryRows(tx, bankId).some((row) => row.id === properties.categoryId)) return notFound('category');
    if (!passageFits(tx, bankId, properties.passageId)) return notFound('passage');
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
    beginVersions(
      tx,
      context,
      { id: questionId, currentVersionId: versionId, shortName: properties.shortName },
      content,
    );
    setLabels(tx, bankId, questionId, { objectives, tags });
    rememberChoices(tx, context, bankId, content, properties);
    dropDraft(tx, context, bankId, `new/${content.type}`);
    const undo = questionCreated.of({ questionId });
    record({ subjectId: questionId, detail: { name: properties.shortName }, undo, within: bankId });
    return ok({ questionId });
  },
});

const saveInput = propertiesInput.extend({ edit: z.number().int() });

/**
 * Saves an edited question. While its version stands on no paper it is changed in place; once frozen, the edit makes the
 * next version. An edit that another person's has overtaken is refused and nothing is overwritten.
 */
export const saveQuestion = command({
  admits: toBank('bank.change'),
  takes: [id('question'), saveInput],
  logs: 'question.save',
  does(
    { tx, bankId, record, context },
    questionId,
    { content, edit, objectives, tags, ...properties },
  ): Result<{ edit: number; version: number; newVersion: boolean }> {
    const varied = variationProblems(content);
    if (varied.length) return { ok: false, problems: varied };
    const row = tx
      .select()
      .from(question)
      .where(and(eq(question.id, questionId), eq(question.bankId, bankId), isNull(question.retiredAt)))
      .get();
    const current = row && tx.select().from(questionVersion).where(eq(questionVersion.id, row.currentVersionId)).get();
    if (!row || !current) return notFound('question');
    if (!categoryRows(tx, bankId).some((one) => one.id === properties.categoryId)) return notFound('category');
    if (properties.passageId !== row.passageId && !passageFits(tx, bankId, properties.passageId))
      return notFound('passage');
    if (content.type !== row.type) return refused('bad-input', 'The type of a question cannot be changed.', 'content');
    if (edit !== row.edit)
      return refused(
        'conflict',
        'Someone else has changed this question since you opened it. Your text is kept here; open the question anew beside it and bring the two together.',
      );
    const changed = JSON.stringify(current.content) !== JSON.stringify(content);
    const head = { id: questionId, currentVersionId: current.id, shortName: properties.shortName };
    const kept = changed
      ? changeContent(tx, context, head, current, content)
      : { id: current.id, number: current.number, isNew: false };
    if (!changed && properties.shortName !== row.shortName)
      keepWords(tx, questionId, properties.shortName, current.content);
    tx.update(question)
      .set({ ...properties, edit: edit + 1, updatedAt: context.now })
      .where(eq(question.id, questionId))
      .run();
    setLabels(tx, bankId, questionId, { objectives, tags });
    rememberChoices(tx, context, bankId, content, properties);
    dropDraft(tx, context, bankId, questionId);
    const { number, isNew: newVersion } = kept;
    record({ subjectId: questionId, detail: { version: number } });
    return ok({ edit: edit + 1, version: number, newVersion });
  },
});

/** Takes a question out of use. Papers that hold it keep it. */
export const retireQuestion = command({
  admits: toBank('bank.change'),
  takes: [id('question')],
  logs: 'question.retire',
  does({ tx, bankId, record, context }, questionId): Result<{ auditId: number }> {
    const retired = tx
      .update(question)
      .set({ retiredAt: context.now })
      .where(and(eq(question.id, questionId), eq(question.bankId, bankId), isNull(question.retiredAt)))
      .returning({ name: question.shortName })
      .get();
    if (!retired) return notFound('question');
    const undo = questionRetired.of({ questionId });
    return ok({ auditId: record({ subjectId: questionId, detail: { name: retired.name }, undo, within: bankId }) });
  },
});

/** Whether a passage is of this bank and not deleted, or none is named. */
const passageFits = (tx: Tx, bankId: string, passageId: string | null | undefined): boolean =>
  !passageId ||
  tx
    .select({ id: passage.id })
    .from(passage)
    .where(and(eq(passage.id, passageId), eq(passage.bankId, bankId), isNull(passage.deletedAt)))
    .get() !== undefined;

export const isQuestionType = (text: string | undefined): text is QuestionType =>
  questionTypes.includes(text as QuestionType);
