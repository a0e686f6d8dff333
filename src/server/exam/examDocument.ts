import { dirname, join } from 'node:path';
import { and, eq, isNull } from 'drizzle-orm';
import { fileTypeFromBuffer } from 'file-type';
import { PDFDocument } from 'pdf-lib';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import type { ExamDesign } from '@/core/exam/design';
import { permits } from '@/core/people/policy';
import { attempt, exam, examDocument, markerAssignment, membership, sitting } from '@/db/schema';
import { mediaFolder } from '../bank/media';
import { record } from '../house/audit';
import type { Context } from '../house/context';
import { keepFile, tidyFileName } from '../house/keepFile';
import { admitToExam } from './exams';
import { pinnedDesign } from './pinnedDesign';

/** The largest document that can be attached, in bytes. */
export const largestDocument = 30_000_000;

/** Where documents lie: in the data folder, beside the files of the banks. */
export const documentFolder = (): string => join(dirname(mediaFolder()), 'documents');

export type AttachedDocument = { hash: string; name: string; pages: number };

/**
 * Stores the paper of an off-screen exam, which its design then names. It must be a PDF by its content, one that opens
 * without a password; the one before stays with the revisions that name it.
 */
export async function attachDocument(
  context: Context,
  courseId: string,
  examId: string,
  { name, bytes }: { name: string; bytes: Uint8Array },
  folder = documentFolder(),
): Promise<Result<AttachedDocument>> {
  const admitted = admitToExam(context, courseId, examId, 'exam.change');
  if (!admitted.ok) return admitted;
  if (!admitted.value.revision.design.offScreen) return notFound('off-screen exam');
  if (bytes.length === 0) return refused('bad-input', 'The file is empty.', 'document');
  if (bytes.length > largestDocument)
    return refused('bad-input', `The document is larger than ${largestDocument / 1_000_000} MB.`, 'document');
  const pages = await pagesOf(bytes);
  if (pages === null)
    return refused(
      'bad-input',
      'This is not a PDF that can be opened: it is damaged, locked with a password, or something else.',
      'document',
    );
  const hash = keepFile(folder, bytes);
  const tidy = tidyFileName(name);
  context.db.transaction(
    (tx) => {
      tx.insert(examDocument)
        .values({ examId, hash, name: tidy, bytes: bytes.length, pages, storedAt: context.now })
        .onConflictDoUpdate({ target: [examDocument.examId, examDocument.hash], set: { name: tidy } })
        .run();
      record(tx, context, { action: 'exam.document', courseId, subjectId: examId, detail: { hash, pages } });
    },
    { behavior: 'immediate' },
  );
  return ok({ hash, name: tidy, pages });
}

async function pagesOf(bytes: Uint8Array): Promise<number | null> {
  if ((await fileTypeFromBuffer(bytes))?.mime !== 'application/pdf') return null;
  try {
    return (await PDFDocument.load(bytes, { updateMetadata: false })).getPageCount() || null;
  } catch {
    return null;
  }
}

/**
 * The document of an exam for who works with the exam or marks one of its sittings, and for a student while an attempt
 * runs whose design shows it. To everyone else it does not exist.
 */
export function openDocument(
  context: Context,
  examId: string,
  hash: string,
): Result<{ name: string; bytes: number; hash: string }> {
  const row = context.db
    .select({ document: examDocument, courseId: exam.courseId })
    .from(examDocument)
    .innerJoin(exam, eq(exam.id, examDocument.examId))
    .where(and(eq(examDocument.examId, examId), eq(examDocument.hash, hash)))
    .get();
  if (!row) return notFound('document');
  const { name, bytes } = row.document;
  const { userId } = context.actor;
  const role = context.db
    .select({ role: membership.role })
    .from(membership)
    .where(and(eq(membership.courseId, row.courseId), eq(membership.userId, userId), isNull(membership.removedAt)))
    .get()?.role;
  if (!role) return notFound('document');
  const marks = context.db
    .select({ id: sitting.id })
    .from(sitting)
    .innerJoin(markerAssignment, eq(markerAssignment.sittingId, sitting.id))
    .where(and(eq(sitting.examId, examId), eq(markerAssignment.userId, userId)))
    .get();
  if (permits('exam.see', role) || permits('marking.mark', role, marks !== undefined)) return ok({ name, bytes, hash });
  const running = context.db
    .select({ revisionId: attempt.revisionId })
    .from(attempt)
    .innerJoin(sitting, eq(sitting.id, attempt.sittingId))
    .where(and(eq(sitting.examId, examId), eq(attempt.userId, userId), eq(attempt.state, 'running')))
    .all();
  const shows = ({ offScreen }: ExamDesign) => offScreen?.document?.hash === hash && offScreen.document.shown;
  return running.some(({ revisionId }) => shows(pinnedDesign(context.db, revisionId)))
    ? ok({ name, bytes, hash })
    : notFound('document');
}
