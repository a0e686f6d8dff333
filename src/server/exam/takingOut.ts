import { eq, inArray } from 'drizzle-orm';
import { ok, type Result, refused } from '@/core/base/result';
import { linesOf } from '@/core/exam/design';
import { putBack, type TakenOut, takenOutSaid } from '@/core/exam/takenOut';
import type { Db, Tx } from '@/db/client';
import { exam, examRevision, question } from '@/db/schema';
import { record } from '../house/audit';
import type { Context } from '../house/context';
import { undoable } from '../house/undoable';
import { storeDesign } from './storeDesign';

type Kept = { examId: string; taken: TakenOut };

const presentOf = (db: Db | Tx, examId: string) =>
  db
    .select({ exam, revision: examRevision })
    .from(exam)
    .innerJoin(examRevision, eq(examRevision.id, exam.currentRevisionId))
    .where(eq(exam.id, examId))
    .get();

/** Parts, lines or items were taken out of an exam: they come back to their places, as far as they are not there again. */
export const linesTakenOut = undoable<Kept>('exam.take-out', {
  action: 'exam.change',
  says: ({ taken }) => takenOutSaid(taken),
  hindered(tx, { examId, taken }) {
    const now = presentOf(tx, examId);
    if (!now) return 'The exam is gone.';
    return putBack(now.revision.design, taken) === now.revision.design ? 'All of it stands in the exam already.' : null;
  },
  apply(tx, context, { examId, taken }): Result<string> {
    const now = presentOf(tx, examId);
    if (!now) return refused('conflict', 'The exam is gone.');
    const design = putBack(now.revision.design, taken);
    storeDesign(tx, context, now, { design, edit: now.revision.edit });
    if (design.offScreen) {
      const questionIds = linesOf(design).flatMap((line) => (line.line.kind === 'fixed' ? [line.line.questionId] : []));
      // An item that was taken out is a retired question.
      tx.update(question).set({ retiredAt: null }).where(inArray(question.id, questionIds)).run();
    }
    return ok('');
  },
});

/** Writes down what was taken out of an exam, so that it can be taken back. */
export function recordTakenOut(
  tx: Tx,
  context: Context,
  { courseId, examId, taken }: Kept & { courseId: string },
): void {
  record(tx, context, {
    action: 'exam.take-out',
    courseId,
    subjectId: examId,
    undo: linesTakenOut.of({ examId, taken }),
    within: examId,
  });
}
