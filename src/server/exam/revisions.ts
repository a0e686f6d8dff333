import { and, desc, eq, ne, sql } from 'drizzle-orm';
import { notFound, ok, type Problem, type Result, refused } from '@/core/base/result';
import type { Instant } from '@/core/base/time';
import { usualPurpose } from '@/core/exam/design';
import { type DesignChange, designDifference } from '@/core/exam/designDifference';
import { neededFor } from '@/core/exam/snapshot';
import { attempt, examRevision, poolSnapshot, sitting } from '@/db/schema';
import { newId } from '../house/context';
import { command, query } from '../house/useCase';
import { phaseOf, type SittingPhase } from '../sitting/audience';
import { toSitting } from '../sitting/toSitting';
import { checkedPlan } from './checkedPlan';
import { designNames } from './designNames';
import { examWithRevision, toExam } from './toExam';

export type Revision = {
  number: number;
  createdAt: Instant;
  /** What changed since the one before; null for the first. */
  changes: DesignChange[] | null;
  /** The sittings that keep this revision. */
  sittings: { id: string; title: string; phase: SittingPhase; attempts: number }[];
};

export type ExamRevisions = { title: string; timeZone: string; newest: number; revisions: Revision[] };

/** Every revision of an exam, newest first, with what changed and which sittings keep it. */
export const examRevisions = query({
  admits: toExam('exam.see'),
  does({ db, now, courseId, examId, exam, timeZone, revision }): Result<ExamRevisions> {
    const rows = db
      .select()
      .from(examRevision)
      .where(eq(examRevision.examId, examId))
      .orderBy(desc(examRevision.number))
      .all();
    const given = db
      .select({ sitting, attempts: sql<number>`(select count(*) from attempt a where a.sitting_id = sitting.id)` })
      .from(sitting)
      .where(and(eq(sitting.examId, examId), ne(sitting.state, 'draft')))
      .orderBy(desc(sitting.opens))
      .all();
    const names = designNames(
      db,
      courseId,
      rows.map((row) => row.design),
    );
    return ok({
      title: exam.title,
      timeZone: timeZone,
      newest: revision.number,
      revisions: rows.map((row, i) => {
        const before = rows[i + 1];
        return {
          number: row.number,
          createdAt: row.createdAt,
          changes: before ? designDifference(before.design, row.design, names) : null,
          sittings: given
            .filter((one) => one.sitting.revisionId === row.id)
            .map(({ sitting: { id, title, ...rest }, attempts }) => ({
              id,
              title,
              phase: phaseOf({ id, title, ...rest }, now),
              attempts,
            })),
        };
      }),
    });
  },
});

/**
 * Lets a sitting take up the newest revision of its exam: every attempt that starts from then on is drawn by it, from the
 * bank of today. Papers already drawn stay as they are. Refused where papers cannot be drawn, and where it would change
 * what the sitting is for after someone has begun.
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
    const begun = tx.select({ id: attempt.id }).from(attempt).where(eq(attempt.sittingId, sittingId)).get();
    if (begun && (purpose.scored !== row.scored || purpose.anonymous !== row.anonymous))
      return refused(
        'conflict',
        'Someone has begun already: whether it is scored, and whether it is anonymous, cannot change any more.',
      );
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
