import { eq } from 'drizzle-orm';
import type { ExamDesign } from '@/core/exam/design';
import type { Tx } from '@/db/client';
import { exam, examRevision } from '@/db/schema';
import { type Context, newId } from '../house/context';
import type { ExamWithRevision } from './toExam';

/**
 * Stores a design: in place while no sitting has pinned the revision, else as the next one.
 *
 * @returns what now is the exam's revision
 */
export function storeDesign(
  tx: Tx,
  context: Context,
  { exam: { id: examId }, revision }: ExamWithRevision,
  { design, edit }: { design: ExamDesign; edit: number },
): { design: ExamDesign; edit: number; revision: number; revisionId: string } {
  const isNew = revision.frozenAt !== null && JSON.stringify(design) !== JSON.stringify(revision.design);
  const number = isNew ? revision.number + 1 : revision.number;
  const revisionId = isNew ? newId() : revision.id;
  if (isNew) {
    tx.insert(examRevision)
      .values({ id: revisionId, examId, number, design, edit: edit + 1, createdAt: context.now })
      .run();
    tx.update(exam).set({ currentRevisionId: revisionId }).where(eq(exam.id, examId)).run();
  } else
    tx.update(examRevision)
      .set({ design, edit: edit + 1 })
      .where(eq(examRevision.id, revision.id))
      .run();
  return { design, edit: edit + 1, revision: number, revisionId };
}
