import { and, desc, eq, ne, sql } from 'drizzle-orm';
import { ok, type Result } from '@/core/base/result';
import type { Instant } from '@/core/base/time';
import { type DesignChange, designDifference } from '@/core/exam/designDifference';
import { examRevision, sitting } from '@/db/schema';
import { query } from '../house/useCase';
import { phaseOf, type SittingPhase } from '../records/audience';
import { designNames } from './designNames';
import { toExam } from './toExam';

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
