import { and, eq } from 'drizzle-orm';
import { z } from 'zod';
import { parse } from '@/core/base/parse';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import type { ExamDesign } from '@/core/exam/design';
import type { Tx } from '@/db/client';
import { exam, examRevision } from '@/db/schema';
import { record } from '../house/audit';
import { type Context, newId } from '../house/context';
import { admit } from '../people/permission';
import { examWithRevision } from './exams';
import { copyItems } from './items';
import { shareDocument } from './storedDocument';

const label = z.string().trim().max(40, 'At most 40 characters.');
const labelsInput = z.object({ year: label, subject: label, level: label });

/** Says what finds an exam again next year. Labels are no part of the design, so a given exam can be labelled too. */
export function labelExam(context: Context, courseId: string, examId: string, input: unknown): Result<null> {
  const admitted = admit(context, courseId, 'exam.change');
  if (!admitted.ok) return admitted;
  const parsed = parse(labelsInput, input);
  if (!parsed.ok) return parsed;
  return context.db.transaction(
    (tx) => {
      const { changes } = tx
        .update(exam)
        .set(parsed.value)
        .where(and(eq(exam.id, examId), eq(exam.courseId, courseId)))
        .run();
      if (changes === 0) return notFound('exam');
      record(tx, context, { action: 'exam.label', courseId, subjectId: examId, detail: parsed.value });
      return ok(null);
    },
    { behavior: 'immediate' },
  );
}

/** Puts an exam out of sight, or back. Its sittings go on, and exams that draw from its questions still do. */
export function archiveExam(context: Context, courseId: string, examId: string, archived: boolean): Result<null> {
  const admitted = admit(context, courseId, 'exam.change');
  if (!admitted.ok) return admitted;
  return context.db.transaction(
    (tx) => {
      const found = examWithRevision(tx, courseId, examId);
      if (!found) return notFound('exam');
      if ((found.exam.archivedAt !== null) === archived)
        return refused('conflict', archived ? 'This exam is archived already.' : 'This exam is not archived.');
      tx.update(exam)
        .set({ archivedAt: archived ? context.now : null })
        .where(eq(exam.id, examId))
        .run();
      record(tx, context, { action: archived ? 'exam.archive' : 'exam.unarchive', courseId, subjectId: examId });
      return ok(null);
    },
    { behavior: 'immediate' },
  );
}

/** A copy of an exam with parts and lines of its own, under a title that tells it apart. It has been given to no one. */
export function duplicateExam(context: Context, courseId: string, examId: string): Result<{ examId: string }> {
  const admitted = admit(context, courseId, 'exam.change');
  if (!admitted.ok) return admitted;
  return context.db.transaction(
    (tx) => {
      const found = examWithRevision(tx, courseId, examId);
      if (!found) return notFound('exam');
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
      const { year, subject, level, title } = found.exam;
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
          design: copyDesign(tx, context, found.revision.design, { examId: copyId, title }),
          createdAt: context.now,
        })
        .run();
      record(tx, context, { action: 'exam.duplicate', courseId, subjectId: copyId, detail: { from: examId } });
      return ok({ examId: copyId });
    },
    { behavior: 'immediate' },
  );
}

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
