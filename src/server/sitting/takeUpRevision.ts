import { and, eq, sql } from 'drizzle-orm';
import { notFound, ok, type Problem, type Result, refused } from '@/core/base/result';
import { usualPurpose } from '@/core/exam/design';
import { neededFor } from '@/core/exam/snapshot';
import { attempt, examRevision, poolSnapshot, sheetLayout, sitting } from '@/db/schema';
import { checkedPlan } from '../exam/checkedPlan';
import { examWithRevision } from '../exam/toExam';
import { newId } from '../house/context';
import { command } from '../house/useCase';
import { toSitting } from './toSitting';

/**
 * Lets a sitting take up the newest revision of its exam: every attempt that starts from then on is drawn by it, from the
 * bank of today. Papers already drawn stay as they are. Refused where papers cannot be drawn, and where it would change
 * what the sitting is for after someone has begun, or sheets have been printed that say whose they are, or that they are
 * nobody's.
 */
export const takeUpRevision = command({
  admits: toSitting('sitting.change'),
  logs: 'sitting.take-up',
  does({ tx, now, courseId, record, sittingId, sitting: row }): Result<{ revision: number }> {
    const found = examWithRevision(tx, courseId, row.examId);
    if (!found || row.state !== 'scheduled') return notFound('sitting');
    const { revision } = found;
    if (revision.id === row.revisionId) return refused('conflict', 'This sitting has the newest revision already.');
    const { design } = revision;
    const { snapshot, check } = checkedPlan(tx, { courseId, examId: row.examId, design, now });
    const problems = check.problems.map((one): Problem => ({ code: 'conflict', message: one.message }));
    if (problems.length) return { ok: false, problems };
    const purpose = design.purpose ?? usualPurpose;
    if (purpose.scored !== row.scored || purpose.anonymous !== row.anonymous) {
      const begun = tx.select({ id: attempt.id }).from(attempt).where(eq(attempt.sittingId, sittingId)).get();
      const printed = tx
        .select({ id: sheetLayout.id })
        .from(sheetLayout)
        .where(eq(sheetLayout.sittingId, sittingId))
        .get();
      if (begun || printed)
        return refused(
          'conflict',
          `${begun ? 'Someone has begun' : 'Answer sheets have been printed'} already: whether it is scored, and whether it is anonymous, cannot change any more.`,
        );
    }
    tx.update(examRevision)
      .set({ frozenAt: now })
      .where(and(eq(examRevision.id, revision.id), sql`frozen_at is null`))
      .run();
    tx.update(sitting)
      .set({ revisionId: revision.id, ...purpose })
      .where(eq(sitting.id, sittingId))
      .run();
    // A pool that was fixed belongs to the design it was fixed for: from now on papers come from one of today.
    const fixed = tx
      .select({ id: poolSnapshot.id })
      .from(poolSnapshot)
      .where(eq(poolSnapshot.sittingId, sittingId))
      .get();
    if (fixed)
      tx.insert(poolSnapshot)
        .values({ id: newId(), sittingId, takenAt: now, snapshot: neededFor(design, snapshot) })
        .run();
    record({ subjectId: sittingId, detail: { from: row.revisionId, to: revision.id } });
    return ok({ revision: revision.number });
  },
});
