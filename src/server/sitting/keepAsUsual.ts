import { notFound, ok, type Result } from '@/core/base/result';
import { noUsualRules, sameUsual, usualFrom } from '@/core/sitting/lastingRules';
import { storeDesign } from '../exam/storeDesign';
import { examWithRevision } from '../exam/toExam';
import { command } from '../house/useCase';
import { rulesOf } from '../records/audience';
import { toSitting } from './toSitting';

/**
 * Keeps the rules of a sitting as those its exam is usually given under: what the next sitting begins with. Moments,
 * entry code, networks and shut days belong to the sitting alone. What is the same already changes nothing.
 */
export const keepAsUsual = command({
  admits: toSitting('exam.change'),
  logs: 'exam.usual',
  does({ tx, courseId, record, context, sittingId, sitting: row }): Result<null> {
    const found = examWithRevision(tx, courseId, row.examId);
    if (!found) return notFound('sitting');
    const { design, edit } = found.revision;
    const usual = usualFrom(rulesOf(row), row.releasePlan);
    if (sameUsual(usual, design.usual ?? noUsualRules)) return ok(null);
    storeDesign(tx, context, found, { design: { ...design, usual }, edit });
    record({ subjectId: row.examId, detail: { sittingId, usual, before: design.usual ?? null } });
    return ok(null);
  },
});
