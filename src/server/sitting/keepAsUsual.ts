import { notFound, ok, type Result } from '@/core/base/result';
import { noUsualRules, sameUsual, usualFrom } from '@/core/sitting/lastingRules';
import { examWithRevision, storeDesign } from '../exam/exams';
import { record } from '../house/audit';
import type { Context } from '../house/context';
import { admit } from '../people/permission';
import { rulesOf, sittingOf } from './audience';

/**
 * Keeps the rules of a sitting as those its exam is usually given under: what the next sitting begins with. Moments,
 * entry code, networks and shut days belong to the sitting alone. What is the same already changes nothing.
 */
export function keepAsUsual(context: Context, courseId: string, sittingId: string): Result<null> {
  const admitted = admit(context, courseId, 'exam.change');
  if (!admitted.ok) return admitted;
  return context.db.transaction(
    (tx): Result<null> => {
      const row = sittingOf(tx, courseId, sittingId);
      const found = row && examWithRevision(tx, courseId, row.examId);
      if (!found) return notFound('sitting');
      const { design, edit } = found.revision;
      const usual = usualFrom(rulesOf(row), row.releasePlan);
      if (sameUsual(usual, design.usual ?? noUsualRules)) return ok(null);
      storeDesign(tx, context, found, { design: { ...design, usual }, edit });
      record(tx, context, {
        action: 'exam.usual',
        courseId,
        subjectId: row.examId,
        detail: { sittingId, usual, before: design.usual ?? null },
      });
      return ok(null);
    },
    { behavior: 'immediate' },
  );
}
