import { eq } from 'drizzle-orm';
import { z } from 'zod';
import { ok, type Result, refused } from '@/core/base/result';
import type { ExamDesign } from '@/core/exam/design';
import type { Tx } from '@/db/client';
import { exam, examRevision } from '@/db/schema';
import { type Context, newId } from '../house/context';
import { command } from '../house/useCase';
import { copyItems } from './items';
import { shareDocument } from './storedDocument';
import { toExam } from './toExam';

const label = z.string().trim().max(40, 'At most 40 characters.');
const labelsInput = z.object({ year: label, subject: label, level: label });

/** Says what finds an exam again next year. Labels are no part of the design, so a given exam can be labelled too. */
export const labelExam = command({
  admits: toExam('exam.change'),
  takes: [labelsInput],
  logs: 'exam.label',
  does({ tx, examId, record }, input): Result<null> {
    tx.update(exam).set(input).where(eq(exam.id, examId)).run();
    record({ subjectId: examId, detail: input });
    return ok(null);
  },
});

/** Puts an exam out of sight, or back. Its sittings go on, and exams that draw from its questions still do. */
export const archiveExam = command({
  admits: toExam('exam.change'),
  takes: [z.boolean()],
  logs: 'exam.archive',
  does({ tx, now, examId, exam: row, record }, archived): Result<null> {
    if ((row.archivedAt !== null) === archived)
      return refused('conflict', archived ? 'This exam is archived already.' : 'This exam is not archived.');
    tx.update(exam)
      .set({ archivedAt: archived ? now : null })
      .where(eq(exam.id, examId))
      .run();
    record({ subjectId: examId, ...(archived ? {} : { action: 'exam.unarchive' }) });
    return ok(null);
  },
});

/** A copy of an exam with parts and lines of its own, under a title that tells it apart. It has been given to no one. */
export const duplicateExam = command({
  admits: toExam('exam.change'),
  logs: 'exam.duplicate',
  does({ tx, courseId, examId, exam: row, revision, record, context }): Result<{ examId: string }> {
    const titles = new Set(
      tx
        .select({ title: exam.title })
        .from(exam)
        .where(eq(exam.courseId, courseId))
        .all()
        .map((row) => row.title),
    );
    const copyId = newId();
    const revisionId = newId();
    const { year, subject, level, title } = row;
    tx.insert(exam)
      .values({
        id: copyId,
        courseId,
        title: freeTitle(title, titles),
        year,
        subject,
        level,
        currentRevisionId: revisionId,
        createdBy: context.actor.userId,
        createdAt: context.now,
      })
      .run();
    tx.insert(examRevision)
      .values({
        id: revisionId,
        examId: copyId,
        number: 1,
        design: copyDesign(tx, context, revision.design, { examId: copyId, title }),
        createdAt: context.now,
      })
      .run();
    record({ subjectId: copyId, detail: { from: examId } });
    return ok({ examId: copyId });
  },
});

const longestTitle = 160;

function freeTitle(title: string, taken: ReadonlySet<string>): string {
  for (let n = 1; ; n++) {
    const ending = n === 1 ? ' (copy)' : ` (copy ${n})`;
    const free = `${title.slice(0, longestTitle - ending.length)}${ending}`;
    if (!taken.has(free)) return free;
  }
}

/** A design for a copy of its exam: with parts, lines and items of its own, and the same document. */
export function copyDesign(
  tx: Tx,
  context: Context,
  design: ExamDesign,
  to: { examId: string; title: string },
): ExamDesign {
  const own = withOwnIds(design);
  if (!own.offScreen) return own;
  const { document } = own.offScreen;
  if (document) shareDocument(tx, document.hash, to.examId);
  return copyItems(tx, context, own, to.examId, to.title);
}

/** Ids of parts and lines name places on stored papers: a copy must not share them. */
const withOwnIds = (design: ExamDesign): ExamDesign => ({
  ...design,
  parts: design.parts.map((part) => ({
    ...part,
    id: newId(),
    lines: part.lines.map((line) => ({ ...line, id: newId() })),
  })),
});
