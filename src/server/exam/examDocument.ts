import { dirname, join } from 'node:path';
import { and, eq, isNull } from 'drizzle-orm';
import { z } from 'zod';
import { id } from '@/core/base/id';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import type { ExamDesign } from '@/core/exam/design';
import { permits } from '@/core/people/policy';
import { attempt, exam, examDocument, markerAssignment, membership, sitting } from '@/db/schema';
import { mediaFolder } from '../bank/media';
import { askedWithin } from '../house/askedWithin';
import { keepFile, tidyFileName } from '../house/keepFile';
import { bytes, command, contentHash, query } from '../house/useCase';
import { readOutside } from '../outside/readOutside';
import { mayWriteHere } from '../records/allowedNetwork';
import { pinnedDesign } from '../records/pinnedDesign';
import { toExam } from './toExam';

/** The largest document that can be attached, in bytes. */
export const largestDocument = 30_000_000;

/** Where documents lie: in the data folder, beside the files of the banks. */
export const documentFolder = (): string => join(dirname(mediaFolder()), 'documents');

type AttachedDocument = { hash: string; name: string; pages: number };

/**
 * Stores the paper of an off-screen exam, which its design then names. It must be a PDF by its content, one that opens
 * without a password; the one before stays with the revisions that name it.
 */
export const attachDocument = command({
  admits: toExam('exam.change'),
  takes: [z.object({ name: z.string().max(1_000), bytes })],
  logs: 'exam.document',
  async prepares({ revision }, { bytes: file }) {
    if (!revision.design.offScreen) return notFound('off-screen exam');
    if (file.length === 0) return refused('bad-input', 'The file is empty.', 'document');
    if (file.length > largestDocument)
      return refused('bad-input', `The document is larger than ${largestDocument / 1_000_000} MB.`, 'document');
    const read = await readOutside('pages', file);
    if (!read.ok) return read;
    if (read.value !== null) return ok({ pages: read.value });
    return refused(
      'bad-input',
      'This is not a PDF that can be opened: it is damaged, locked with a password, or something else.',
      'document',
    );
  },
  does({ tx, examId, record, context, ready: { pages } }, { name, bytes: file }): Result<AttachedDocument> {
    const hash = keepFile(context.files ?? documentFolder(), file);
    const tidy = tidyFileName(name);
    tx.insert(examDocument)
      .values({ examId, hash, name: tidy, bytes: file.length, pages, storedAt: context.now })
      .onConflictDoUpdate({ target: [examDocument.examId, examDocument.hash], set: { name: tidy } })
      .run();
    record({ subjectId: examId, detail: { hash, pages } });
    return ok({ hash, name: tidy, pages });
  },
});

/**
 * The document of an exam for who works with the exam or marks one of its sittings, and for a student while an attempt
 * runs whose design shows it. To everyone else it does not exist.
 */
export const openDocument = query({
  admits: askedWithin('who works with the exam or marks it, and a student whose running attempt shows it'),
  takes: [id('exam'), contentHash],
  does({ context }, examId, hash): Result<{ name: string; bytes: number; hash: string }> {
    const row = context.db
      .select({ document: examDocument, courseId: exam.courseId })
      .from(examDocument)
      .innerJoin(exam, eq(exam.id, examDocument.examId))
      .where(and(eq(examDocument.examId, examId), eq(examDocument.hash, hash)))
      .get();
    if (!row) return notFound('document');
    const { name, bytes: size } = row.document;
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
    if (permits('exam.see', role) || permits('marking.mark', role, marks !== undefined))
      return ok({ name, bytes: size, hash });
    const running = context.db
      .select({ attemptId: attempt.id, revisionId: attempt.revisionId })
      .from(attempt)
      .innerJoin(sitting, eq(sitting.id, attempt.sittingId))
      .where(and(eq(sitting.examId, examId), eq(attempt.userId, userId), eq(attempt.state, 'running')))
      .all();
    const shows = ({ offScreen }: ExamDesign) => offScreen?.document?.hash === hash && offScreen.document.shown;
    return running.some(
      ({ attemptId, revisionId }) => shows(pinnedDesign(context.db, revisionId)) && mayWriteHere(context, attemptId),
    )
      ? ok({ name, bytes: size, hash })
      : notFound('document');
  },
});
