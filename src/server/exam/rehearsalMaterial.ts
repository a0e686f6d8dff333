import { and, count, eq, isNull } from 'drizzle-orm';
import { ok, type Result } from '@/core/base/result';
import type { RehearsalMaterial } from '@/core/exam/rehearsal';
import { neededFor } from '@/core/exam/snapshot';
import { membership } from '@/db/schema';
import { courseSnapshot } from '../bank/courseSnapshot';
import { query } from '../house/useCase';
import { questionNames } from './exams';
import { toExam } from './toExam';

/** What rehearsing an exam takes: its design as saved, and whatever it can draw from the bank of today. */
export const rehearsalMaterial = query({
  admits: toExam('exam.change'),
  does({ courseId, examId, revision, context }): Result<RehearsalMaterial> {
    const { design } = revision;
    const snapshot = neededFor(
      design,
      courseSnapshot(context.db, courseId, { design, examId, now: context.now }).snapshot,
    );
    const names = questionNames(
      context.db,
      snapshot.entries.map((entry) => entry.questionId),
    );
    return ok({
      design,
      snapshot,
      names: Object.fromEntries(Object.entries(names).map(([id, { name }]) => [id, name.slice(0, 120)])),
    });
  },
});

/** What a rehearsal of an exam begins with: its title, and as many students as the course has. */
export const rehearsalBeginning = query({
  admits: toExam('exam.change'),
  does({
    courseId,
    context,
    exam,
    revision,
  }): Result<{ title: string; students: number; lines: { id: string; number: string }[]; within: number | null }> {
    const enrolled = context.db
      .select({ students: count() })
      .from(membership)
      .where(
        and(
          eq(membership.courseId, courseId),
          eq(membership.role, 'student'),
          isNull(membership.removedAt),
          isNull(membership.onlySitting),
        ),
      )
      .get();
    return ok({
      title: exam.title,
      students: enrolled?.students ?? 0,
      within: revision.design.equalHardness?.within ?? null,
      lines: revision.design.parts.flatMap((part, p) =>
        part.lines.map((line, l) => ({ id: line.id, number: `${p + 1}.${l + 1}` })),
      ),
    });
  },
});
