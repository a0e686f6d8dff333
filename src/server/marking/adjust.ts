import { asc, desc, eq, inArray } from 'drizzle-orm';
import { z } from 'zod';
import { id } from '@/core/base/id';
import { notFound, ok, type Result } from '@/core/base/result';
import type { Instant } from '@/core/base/time';
import type { MarkKind } from '@/core/marking/marks';
import { attempt, mark, paperAdjustment, sitting, user } from '@/db/schema';
import type { Context } from '../house/context';
import { command } from '../house/useCase';
import { toCourse } from '../people/toCourse';
import { changedMeanwhile, commentInput, judgementRefused, pointsInput, slotsToMark, writeMarks } from './giveMark';

const reasonInput = z
  .string()
  .trim()
  .min(1, 'Give a reason: it stays with the mark.')
  .max(1_000, 'At most 1,000 characters.');

const markAdjustment = z.object({
  points: pointsInput,
  reason: reasonInput,
  comment: commentInput.default(''),
  revision: z.number().int(),
  before: z.number().int().nullable(),
});

/** Sets the points of any answer, also of one that a rule marked, with a reason. No re-mark changes it any more. */
export const adjustMark = command({
  admits: toCourse('marking.change'),
  takes: [id('slot'), markAdjustment],
  logs: 'marking.adjust',
  does(
    { tx, courseId, record, context },
    slotId,
    { revision, before, points, reason, comment },
  ): Result<{ points: number; markId: number }> {
    const row = slotsToMark(tx, courseId, [slotId]).get(slotId);
    if (row?.state !== 'handed-in') return notFound('answer');
    const wrong =
      judgementRefused(tx, row, { points, comment, rubric: {}, notes: [] }) ??
      changedMeanwhile(row, { revision, before });
    if (wrong) return wrong;
    const given = {
      points,
      reason,
      comment: comment || (row.newest?.comment ?? ''),
      notes: row.newest?.notes ?? [],
      kind: 'adjusted' as const,
    };
    const markId = writeMarks(tx, context, [{ row, given }]).get(slotId) as number;
    record({ subjectId: slotId, detail: { from: row.newest?.points ?? null, to: points, reason } });
    return ok({ points, markId });
  },
});

const paperInput = z.object({
  points: z
    .number({ message: 'Type the points as a number.' })
    .min(-100_000, 'That is more than any paper has.')
    .max(100_000, 'That is more than any paper has.'),
  reason: reasonInput,
  /** The adjustment that was seen; null for none. */
  before: z.number().int().nullable(),
});

/**
 * Adds points to a whole paper, or takes some away, with a reason. It replaces what was added before; the score stays
 * within 0 and what is possible.
 */
export const adjustPaper = command({
  admits: toCourse('marking.change'),
  takes: [id('attempt'), paperInput],
  logs: 'marking.adjust-paper',
  does({ tx, courseId, record, context }, attemptId, { points, reason, before }): Result<{ id: number }> {
    const row = tx
      .select({ state: attempt.state, courseId: sitting.courseId, scored: sitting.scored })
      .from(attempt)
      .innerJoin(sitting, eq(sitting.id, attempt.sittingId))
      .where(eq(attempt.id, attemptId))
      .get();
    if (row?.courseId !== courseId || row.state !== 'handed-in' || !row.scored) return notFound('paper');
    const last = tx
      .select({ id: paperAdjustment.id, points: paperAdjustment.points })
      .from(paperAdjustment)
      .where(eq(paperAdjustment.attemptId, attemptId))
      .orderBy(desc(paperAdjustment.id))
      .get();
    if ((last?.id ?? null) !== before)
      return {
        ok: false,
        problems: [
          { code: 'conflict', message: 'Someone else has adjusted this paper meanwhile. Open the page anew.' },
        ],
      };
    const { id } = tx
      .insert(paperAdjustment)
      .values({ attemptId, points, reason, by: context.actor.userId, at: context.now })
      .returning({ id: paperAdjustment.id })
      .get();
    record({ subjectId: attemptId, detail: { from: last?.points ?? 0, to: points, reason } });
    return ok({ id });
  },
});

/** One mark in the history of an answer. */
export type MarkInHistory = {
  id: number;
  at: Instant;
  /** Null for a rule. */
  by: string | null;
  kind: MarkKind;
  points: number;
  comment: string;
  reason: string;
  /** Why it does not count; null where it does, or a later one stands over it. */
  fallen: 'taken-back' | 'answer-changed' | null;
};

/** Every mark of some answers, the earliest first: who, when, from what to what, and why. */
export function historyOf(db: Context['db'], slotIds: readonly string[]): Map<string, MarkInHistory[]> {
  const rows = db
    .select({ row: mark, by: user.name })
    .from(mark)
    .leftJoin(user, eq(user.id, mark.markerId))
    .where(inArray(mark.slotId, [...slotIds]))
    .orderBy(asc(mark.id))
    .all();
  const bySlot = new Map<string, MarkInHistory[]>();
  for (const { row, by } of rows) {
    const one: MarkInHistory = {
      id: row.id,
      at: row.at,
      by,
      kind: row.kind,
      points: row.points,
      comment: row.comment,
      reason: row.reason,
      fallen: row.takenBackAt !== null ? 'taken-back' : row.outdated ? 'answer-changed' : null,
    };
    bySlot.set(row.slotId, [...(bySlot.get(row.slotId) ?? []), one]);
  }
  return bySlot;
}
