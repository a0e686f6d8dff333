import { and, desc, eq, inArray, sql } from 'drizzle-orm';
import { z } from 'zod';
import { id } from '@/core/base/id';
import { notFound, ok, type Result } from '@/core/base/result';
import type { Db, Tx } from '@/db/client';
import { attempt, paperSlot, savedComment, sitting } from '@/db/schema';
import { newId } from '../house/context';
import { command } from '../house/useCase';
import { type Marking, toMarking } from './toMarking';

export type SavedComment = { id: string; text: string; used: number };

/** The comments kept for some questions of a course, those used most first. */
export function savedComments(db: Db, courseId: string, questionIds: readonly string[]): Map<string, SavedComment[]> {
  const rows = db
    .select()
    .from(savedComment)
    .where(and(eq(savedComment.courseId, courseId), inArray(savedComment.questionId, [...questionIds])))
    .orderBy(desc(savedComment.used), savedComment.text)
    .all();
  const byQuestion = new Map<string, SavedComment[]>();
  for (const { id, questionId, text, used } of rows)
    byQuestion.set(questionId, [...(byQuestion.get(questionId) ?? []), { id, text, used }]);
  return byQuestion;
}

const commentText = z.string().trim().min(1, 'Write the comment first.').max(2_000, 'At most 2,000 characters.');

/** Whether a person marks answers to this question in this course. */
const marksAnswersTo = (db: Db, { courseId, mayMark }: Marking, questionId: string): boolean =>
  db
    .selectDistinct({ sittingId: sitting.id })
    .from(paperSlot)
    .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
    .innerJoin(sitting, eq(sitting.id, attempt.sittingId))
    .where(and(eq(paperSlot.questionId, questionId), eq(sitting.courseId, courseId)))
    .all()
    .some((row) => mayMark(row.sittingId));

/** Keeps a comment for the answers to a question; the same words are kept once. */
export const keepComment = command({
  admits: toMarking,
  takes: [id('question'), commentText],
  logs: 'marking.comment',
  does({ tx, context, courseId, record, ...marking }, questionId, text): Result<SavedComment> {
    if (!marksAnswersTo(context.db, { courseId, ...marking }, questionId)) return notFound('question');
    tx.insert(savedComment)
      .values({
        id: newId(),
        courseId,
        questionId,
        text,
        createdBy: context.actor.userId,
        createdAt: context.now,
      })
      .onConflictDoNothing()
      .run();
    const kept = tx
      .select({ id: savedComment.id, text: savedComment.text, used: savedComment.used })
      .from(savedComment)
      .where(
        and(eq(savedComment.courseId, courseId), eq(savedComment.questionId, questionId), eq(savedComment.text, text)),
      )
      .get();
    record({ subjectId: questionId, detail: { text } });
    return kept ? ok(kept) : notFound('comment');
  },
});

/** Drops a kept comment; marks that hold its words keep them. */
export const dropComment = command({
  admits: toMarking,
  takes: [id('comment')],
  logs: 'marking.comment-dropped',
  does({ tx, context, courseId, record, ...marking }, commentId): Result<null> {
    const row = tx
      .select()
      .from(savedComment)
      .where(and(eq(savedComment.id, commentId), eq(savedComment.courseId, courseId)))
      .get();
    if (!row || !marksAnswersTo(context.db, { courseId, ...marking }, row.questionId)) return notFound('comment');
    tx.delete(savedComment).where(eq(savedComment.id, commentId)).run();
    record({ subjectId: row.questionId, detail: { text: row.text } });
    return ok(null);
  },
});

/** Counts the kept comments that went into a mark. */
export function countUse(tx: Tx, courseId: string, commentIds: readonly string[]): void {
  if (commentIds.length === 0) return;
  tx.update(savedComment)
    .set({ used: sql`${savedComment.used} + 1` })
    .where(and(eq(savedComment.courseId, courseId), inArray(savedComment.id, [...commentIds])))
    .run();
}
