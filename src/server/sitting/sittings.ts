import { desc, eq, sql } from 'drizzle-orm';
import { z } from 'zod';
import { id } from '@/core/base/id';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { minute } from '@/core/base/time';
import { usualPurpose } from '@/core/exam/design';
import { scoreOnPublishing } from '@/core/release/visibleTo';
import { noUsualRules } from '@/core/sitting/lastingRules';
import { noFurtherRules } from '@/core/sitting/rules';
import { attempt, sitting, sittingAudience } from '@/db/schema';
import { examWithRevision } from '../exam/toExam';
import { newId } from '../house/context';
import { command, query } from '../house/useCase';
import { toCourse } from '../people/toCourse';
import { audienceSizes, phaseOf, type SittingPhase } from '../records/audience';

export type SittingListRow = {
  id: string;
  title: string;
  phase: SittingPhase;
  isRound: boolean;
  opens: number | null;
  closes: number | null;
  students: number;
  running: number;
  handedIn: number;
};

/** The sittings of a course, the latest opening first. */
export const listSittings = query({
  admits: toCourse('sitting.see'),
  does({ courseId, context }): Result<SittingListRow[]> {
    const sizes = audienceSizes(context.db, courseId);
    const counted = context.db
      .select({
        sittingId: attempt.sittingId,
        running: sql<number>`count(distinct case when ${attempt.state} = 'running' then ${attempt.userId} end)`,
        handedIn: sql<number>`count(distinct case when ${attempt.state} = 'handed-in' then ${attempt.userId} end)`,
      })
      .from(attempt)
      .innerJoin(sitting, eq(sitting.id, attempt.sittingId))
      .where(eq(sitting.courseId, courseId))
      .groupBy(attempt.sittingId)
      .all();
    const counts = new Map(counted.map((row) => [row.sittingId, row]));
    const rows = context.db
      .select()
      .from(sitting)
      .where(eq(sitting.courseId, courseId))
      .orderBy(desc(sitting.opens), desc(sitting.createdAt))
      .all();
    return ok(
      rows.map((row) => ({
        id: row.id,
        title: row.title,
        phase: phaseOf(row, context.now),
        isRound: row.isRound,
        opens: row.opens,
        closes: row.closes,
        students: sizes.get(row.id) ?? 0,
        running: counts.get(row.id)?.running ?? 0,
        handedIn: counts.get(row.id)?.handedIn ?? 0,
      })),
    );
  },
});

/** Begins a sitting of an exam as a draft: for the whole course, under the exam's usual rules, without dates yet. */
export const createSitting = command({
  admits: toCourse('sitting.change'),
  takes: [z.object({ examId: id('exam') })],
  logs: 'sitting.create',
  does({ tx, courseId, record, context }, { examId }): Result<{ sittingId: string }> {
    const found = examWithRevision(tx, courseId, examId);
    if (!found) return notFound('exam');
    if (found.exam.archivedAt !== null)
      return refused('conflict', 'This exam is archived: bring it back before it is given.');
    const sittingId = newId();
    const usual = found.revision.design.usual ?? noUsualRules;
    const { timeLimitMinutes, attemptsAllowed, attemptCounts } = usual;
    tx.insert(sitting)
      .values({
        id: sittingId,
        courseId,
        examId: found.exam.id,
        revisionId: found.revision.id,
        title: found.exam.title,
        state: 'draft',
        timeLimit: timeLimitMinutes === null ? null : timeLimitMinutes * minute,
        fullTimeOnceStarted: usual.fullTimeOnceStarted ?? false,
        attemptsAllowed,
        attemptCounts,
        further: usual.further ? { ...noFurtherRules, ...usual.further } : null,
        releasePlan: usual.releasePlan ?? scoreOnPublishing,
        ...(found.revision.design.purpose ?? usualPurpose),
        createdBy: context.actor.userId,
        createdAt: context.now,
      })
      .run();
    tx.insert(sittingAudience).values({ sittingId, kind: 'course', refId: courseId }).run();
    record({ subjectId: sittingId });
    return ok({ sittingId });
  },
});
