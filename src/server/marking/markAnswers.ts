import { and, eq, inArray, sql } from 'drizzle-orm';
import katex from 'katex';
import { z } from 'zod';
import { parse } from '@/core/base/parse';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { emptyRich, type Rich } from '@/core/base/rich';
import { pointsText } from '@/core/base/rounding';
import { typeset } from '@/core/base/typeset';
import { markingOrder } from '@/core/marking/markingOrder';
import type { QuestionContent } from '@/core/question/content';
import { stemLine } from '@/core/question/content';
import { responseText } from '@/core/question/score';
import { readResponse } from '@/core/question/student';
import { type QuestionType, typesMarkedByHand } from '@/core/question/types';
import type { Rubric } from '@/core/question/types/written/content';
import type { WrittenText } from '@/core/question/types/written/student';
import { attempt, mark, paperSlot, question, response, sitting, user } from '@/db/schema';
import { frozenContents } from '../attempt/paperContent';
import { passageContents } from '../bank/passages';
import { pinnedDesign } from '../exam/pinnedDesign';
import { documentOf, type ShownDocument } from '../exam/shownDocument';
import { record } from '../house/audit';
import type { Context } from '../house/context';
import { markableSittings } from './markingQueue';
import { newestMark } from './newestMarks';

export type AnswerToMark = {
  slotId: string;
  /** Its place in this marker's order, from 1: all that stands for the student while names are hidden. */
  number: number;
  text: string;
  /** The same with its form, where the question lets students give it one. */
  rich: Rich | null;
  /** Whose it is, only where it stands on paper: whoever marks it has to find the paper. */
  whose: string | null;
  /** Files handed in with it. */
  files: { id: string; name: string }[];
  revision: number;
  outOf: number;
  points: number | null;
  comment: string;
};

export type MarkingPage = {
  sittingTitle: string;
  /** The paper of an off-screen exam. */
  document: ShownDocument | null;
  /** The passage that stands beside the question on the papers. */
  passage: Rich | null;
  stem: Rich;
  modelAnswer: Rich;
  rubric: Rubric | null;
  questionName: string;
  answers: AnswerToMark[];
};

/**
 * All answers to one written question of a sitting, names left out, in this marker's own fixed order; answers on paper by
 * the names on the papers.
 */
export function answersToMark(
  context: Context,
  courseId: string,
  sittingId: string,
  questionId: string,
): Result<MarkingPage> {
  const mine = markableSittings(context, courseId);
  if (!mine.ok) return mine;
  if (mine.value && !mine.value.has(sittingId)) return notFound('marking');
  const rows = context.db
    .select({
      slotId: paperSlot.id,
      versionId: paperSlot.versionId,
      passageVersionId: paperSlot.passageVersionId,
      outOf: paperSlot.points,
      presentation: paperSlot.presentation,
      value: response.value,
      revision: response.revision,
      points: mark.points,
      comment: mark.comment,
      markKind: mark.kind,
      sittingTitle: sitting.title,
      examId: sitting.examId,
      revisionId: sitting.revisionId,
      shortName: question.shortName,
      student: user.name,
    })
    .from(paperSlot)
    .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
    .innerJoin(user, eq(user.id, attempt.userId))
    .innerJoin(sitting, eq(sitting.id, attempt.sittingId))
    .innerJoin(question, eq(question.id, paperSlot.questionId))
    .leftJoin(response, eq(response.slotId, paperSlot.id))
    .leftJoin(mark, newestMark)
    .where(
      and(
        eq(sitting.id, sittingId),
        eq(sitting.courseId, courseId),
        eq(paperSlot.questionId, questionId),
        eq(attempt.state, 'handed-in'),
        inArray(question.type, typesMarkedByHand),
        // An empty answer has its 0 from the rule, and there is nothing to read; what stands on paper has none.
        sql`(${mark.kind} is null or ${mark.kind} = 'hand')`,
      ),
    )
    .all();
  const [first] = rows;
  if (!first) return notFound('marking');
  const contents = frozenContents(
    context.db,
    rows.map((row) => row.versionId),
  );
  const content = contents.get(first.versionId) as QuestionContent;
  const bySlot = new Map(rows.map((row) => [row.slotId, row]));
  const onPaper = content.type === 'written' && content.onPaper === true;
  // A pile of papers lies by name: hiding names or mixing the order would only cost the marker the search.
  const order = onPaper
    ? [...rows].sort((a, b) => a.student.localeCompare(b.student)).map((row) => row.slotId)
    : markingOrder([...bySlot.keys()], context.actor.userId, questionId);
  return ok({
    sittingTitle: first.sittingTitle,
    document: documentOf(first.examId, pinnedDesign(context.db, first.revisionId)),
    passage:
      [...passageContents(context.db, first.passageVersionId ? [first.passageVersionId] : []).values()][0] ?? null,
    stem: content.stem,
    modelAnswer: content.type === 'written' ? content.modelAnswer : emptyRich,
    rubric: (content.type === 'written' && content.rubric) || null,
    questionName: first.shortName || stemLine(content),
    answers: order.map((slotId, i) => {
      const row = bySlot.get(slotId) as (typeof rows)[number];
      return {
        slotId,
        number: i + 1,
        text: responseText(contents.get(row.versionId) as QuestionContent, row.presentation, row.value),
        ...handedIn(content.type, row.value),
        whose: onPaper ? row.student : null,
        revision: row.revision ?? 0,
        outOf: row.outOf,
        points: row.points,
        comment: row.comment ?? '',
      };
    }),
  });
}

/** What a written answer holds besides its words. */
function handedIn(type: QuestionType, value: unknown): Pick<AnswerToMark, 'rich' | 'files'> {
  const response = type === 'written' ? (readResponse(type, value) as WrittenText | null | undefined) : null;
  return {
    rich: response?.rich ? typeset(response.rich, katex) : null,
    files: (response?.files ?? []).map(({ id, name }) => ({ id, name })),
  };
}

const markInput = z.object({
  points: z.number({ message: 'Type the points as a number.' }).min(0, 'Points cannot be negative.'),
  comment: z.string().max(10_000, 'At most 10,000 characters.'),
  /** The response the marker had in front of them. */
  revision: z.number().int(),
  /** The points this marker saw before, null if none: another's mark in between is not overwritten unseen. */
  before: z.number().nullable(),
});

/** Adds a mark to an answer. The newest mark counts; earlier ones stay as history. */
export function giveMark(
  context: Context,
  courseId: string,
  slotId: string,
  input: unknown,
): Result<{ points: number }> {
  const mine = markableSittings(context, courseId);
  if (!mine.ok) return mine;
  const parsed = parse(markInput, input);
  if (!parsed.ok) return parsed;
  const { points, comment, revision, before } = parsed.value;
  return context.db.transaction(
    (tx) => {
      const row = tx
        .select({
          slot: paperSlot,
          sittingId: sitting.id,
          state: attempt.state,
          type: question.type,
          revision: response.revision,
          newest: mark,
        })
        .from(paperSlot)
        .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
        .innerJoin(sitting, eq(sitting.id, attempt.sittingId))
        .innerJoin(question, eq(question.id, paperSlot.questionId))
        .leftJoin(response, eq(response.slotId, paperSlot.id))
        .leftJoin(mark, newestMark)
        .where(and(eq(paperSlot.id, slotId), eq(sitting.courseId, courseId)))
        .get();
      if (row?.state !== 'handed-in' || !typesMarkedByHand.includes(row.type)) return notFound('answer');
      if (mine.value && !mine.value.has(row.sittingId)) return notFound('answer');
      if (points > row.slot.points)
        return refused('bad-input', `This question carries ${pointsText(row.slot.points)} points at most.`, 'points');
      if (revision !== (row.revision ?? 0))
        return refused('conflict', 'The answer has changed since you opened it. Open the page anew.');
      if ((row.newest?.points ?? null) !== before)
        return refused(
          'conflict',
          `Someone else has given this answer ${pointsText(row.newest?.points ?? 0)} points meanwhile. Open the page anew to see it.`,
          'points',
        );
      tx.insert(mark)
        .values({
          slotId,
          responseRevision: revision,
          versionId: row.slot.versionId,
          kind: 'hand',
          points,
          comment,
          markerId: context.actor.userId,
          at: context.now,
        })
        .run();
      record(tx, context, { action: 'marking.mark', courseId, subjectId: slotId, detail: { points, before } });
      return ok({ points });
    },
    { behavior: 'immediate' },
  );
}
