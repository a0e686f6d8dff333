import { and, desc, eq, inArray, sql } from 'drizzle-orm';
import { z } from 'zod';
import { parse } from '@/core/base/parse';
import { notFound, ok, type Result } from '@/core/base/result';
import type { Db, Tx } from '@/db/client';
import { attempt, paperSlot, savedComment, sitting } from '@/db/schema';
import { record } from '../house/audit';
import { type Context, newId } from '../house/context';
import { markableSittings } from './markingQueue';

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
function mayMark(context: Context, courseId: string, questionId: string): Result<null> {
  const mine = markableSittings(context, courseId);
  if (!mine.ok) return mine;
  const found = context.db
    .selectDistinct({ sittingId: sitting.id })
    .from(paperSlot)
    .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
    .innerJoin(sitting, eq(sitting.id, attempt.sittingId))
    .where(and(eq(paperSlot.questionId, questionId), eq(sitting.courseId, courseId)))
    .all();
  return found.some((row) => mine.value === null || mine.value.has(row.sittingId)) ? ok(null) : notFound('question');
}

/** Keeps a comment for the answers to a question; the same words are kept once. */
export function keepComment(
  context: Context,
  courseId: string,
  questionId: string,
  input: unknown,
): Result<SavedComment> {
  const may = mayMark(context, courseId, questionId);
  if (!may.ok) return may;
  const text = parse(commentText, input);
  if (!text.ok) return text;
  return context.db.transaction(
    (tx): Result<SavedComment> => {
      tx.insert(savedComment)
        .values({
          id: newId(),
          courseId,
          questionId,
          text: text.value,
          createdBy: context.actor.userId,
          createdAt: context.now,
        })
        .onConflictDoNothing()
        .run();
      const kept = tx
        .select({ id: savedComment.id, text: savedComment.text, used: savedComment.used })
        .from(savedComment)
        .where(
          and(
            eq(savedComment.courseId, courseId),
            eq(savedComment.questionId, questionId),
            eq(savedComment.text, text.value),
          ),
        )
        .get();
      record(tx, context, { action: 'marking.comment', courseId, subjectId: questionId, detail: { text: text.value } });
      return kept ? ok(kept) : notFound('comment');
    },
    { behavior: 'immediate' },
  );
}

/** Drops a kept comment; marks that hold its words keep them. */
export function dropComment(context: Context, courseId: string, commentId: string): Result<null> {
  const row = context.db
    .select()
    .from(savedComment)
    .where(and(eq(savedComment.id, commentId), eq(savedComment.courseId, courseId)))
    .get();
  const may = mayMark(context, courseId, row?.questionId ?? '');
  if (!may.ok) return may;
  context.db.transaction(
    (tx) => {
      tx.delete(savedComment).where(eq(savedComment.id, commentId)).run();
      record(tx, context, {
        action: 'marking.comment-dropped',
        courseId,
        subjectId: row?.questionId ?? '',
        detail: { text: row?.text },
      });
    },
    { behavior: 'immediate' },
  );
  return ok(null);
}

/** Counts the kept comments that went into a mark. */
export function countUse(tx: Tx, courseId: string, commentIds: readonly string[]): void {
  if (commentIds.length === 0) return;
  tx.update(savedComment)
    .set({ used: sql`${savedComment.used} + 1` })
    .where(and(eq(savedComment.courseId, courseId), inArray(savedComment.id, [...commentIds])))
    .run();
}
