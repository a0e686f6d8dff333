import { createHash } from 'node:crypto';
import { and, asc, eq, inArray, isNull, ne } from 'drizzle-orm';
import type { Instant } from '@/core/base/time';
import { type ExamDesign, linesOf } from '@/core/exam/design';
import type { Db, Tx } from '@/db/client';
import { examLook, examRemark, question, sitting, user } from '@/db/schema';

/** How a colleague's look at an exam stands. */
export type LookState = {
  id: string;
  colleague: string;
  colleagueId: string;
  askedAt: Instant;
  note: string;
  signedAt: Instant | null;
  /** Whether the exam or the rules of its sittings have changed since it was signed off. */
  changedSince: boolean;
};

/** The looks at an exam that were not withdrawn, the first asked first, with what has become of each. */
export function looksAt(db: Db | Tx, examId: string, design: ExamDesign): LookState[] {
  const rows = db
    .select({ look: examLook, name: user.name })
    .from(examLook)
    .innerJoin(user, eq(user.id, examLook.colleagueId))
    .where(and(eq(examLook.examId, examId), isNull(examLook.withdrawnAt)))
    .orderBy(asc(examLook.askedAt))
    .all();
  const now = rows.some(({ look }) => look.signedAt !== null) ? fingerprint(db, examId, design) : '';
  return rows.map(({ look, name }) => ({
    id: look.id,
    colleague: name,
    colleagueId: look.colleagueId,
    askedAt: look.askedAt,
    note: look.note,
    signedAt: look.signedAt,
    changedSince: look.signedAt !== null && look.signedOver?.fingerprint !== now,
  }));
}

/** How many remarks on an exam are not settled. */
export const openRemarks = (db: Db | Tx, examId: string): number =>
  db
    .select({ id: examRemark.id })
    .from(examRemark)
    .where(and(eq(examRemark.examId, examId), isNull(examRemark.settledAt)))
    .all().length;

/**
 * Tells whether what was signed off is still what stands there: the design, the versions of its fixed questions, and the
 * rules of its sittings. Questions that draws may take belong to the bank and are not part of it.
 */
export function fingerprint(db: Db | Tx, examId: string, design: ExamDesign): string {
  const fixed = linesOf(design).flatMap(({ line }) => (line.kind === 'fixed' ? [line.questionId] : []));
  const versions = db
    .select({ id: question.id, versionId: question.currentVersionId, edit: question.edit })
    .from(question)
    .where(inArray(question.id, fixed))
    .orderBy(asc(question.id))
    .all();
  const sittings = db
    .select({
      id: sitting.id,
      opens: sitting.opens,
      lastStart: sitting.lastStart,
      due: sitting.due,
      closes: sitting.closes,
      timeLimit: sitting.timeLimit,
      attemptsAllowed: sitting.attemptsAllowed,
      attemptCounts: sitting.attemptCounts,
    })
    .from(sitting)
    .where(and(eq(sitting.examId, examId), ne(sitting.state, 'cancelled')))
    .orderBy(asc(sitting.id))
    .all();
  return createHash('sha256')
    .update(JSON.stringify([design, versions, sittings]))
    .digest('hex');
}
