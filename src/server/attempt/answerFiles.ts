import { dirname, join } from 'node:path';
import { and, count, eq } from 'drizzle-orm';
import { z } from 'zod';
import { id } from '@/core/base/id';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { permits } from '@/core/people/policy';
import type { QuestionContent } from '@/core/question/content';
import { type FileKind, fileKindNames } from '@/core/question/types/written/fileKinds';
import { attempt, markerAssignment, membership, paperSlot, responseFile, sitting } from '@/db/schema';
import { mediaFolder } from '../bank/media';
import { askedWithin } from '../house/askedWithin';
import { newId } from '../house/context';
import { keepFile, tidyFileName } from '../house/keepFile';
import { bytes, command, query } from '../house/useCase';
import { readOutside } from '../outside/readOutside';
import { frozenContents } from '../records/paperContent';
import { toRunningAttempt } from './toOwnAttempt';

/** Where handed-in files lie: in the data folder, beside the files of the banks. */
export const answerFolder = (): string => join(dirname(mediaFolder()), 'answers');

/** The largest file that any question allows, in bytes. */
export const largestAnswerFile = 50_000_000;

const kindOfType: Record<string, FileKind> = {
  'application/pdf': 'pdf',
  'image/png': 'picture',
  'image/jpeg': 'picture',
  'image/webp': 'picture',
  'application/vnd.openxmlformats-officedocument.wordprocessingml.document': 'document',
  'application/vnd.oasis.opendocument.text': 'document',
  'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet': 'spreadsheet',
  'application/vnd.oasis.opendocument.spreadsheet': 'spreadsheet',
  'audio/mpeg': 'sound',
  'audio/ogg': 'sound',
  'audio/wav': 'sound',
};

/** What a file is, by its content; null for what no question can allow. */
export async function kindOf(file: Uint8Array): Promise<{ kind: FileKind; type: string } | null> {
  const read = await readOutside('mediaType', file);
  if (!read.ok) return null;
  const found = read.value;
  if (found) {
    const kind = kindOfType[(found.split(';')[0] as string).replace('audio/vnd.wave', 'audio/wav')];
    return kind ? { kind, type: found } : null;
  }
  if (file.includes(0)) return null;
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(file);
    return { kind: 'text', type: 'text/plain; charset=utf-8' };
  } catch {
    return null;
  }
}

/**
 * Takes a file for a written answer of a running attempt. It belongs to the answer once a save names it; what it is, its
 * content decides.
 */
export const takeAnswerFile = command({
  admits: toRunningAttempt,
  takes: [id('slot'), z.string().max(1_000), bytes],
  unlogged: 'when it came stands with the file',
  async prepares({ db, attemptId, own: one }, slotId, _name, file): Promise<Result<{ type: string }>> {
    if (one.sitting.anonymous)
      return refused('bad-input', 'An anonymous exam takes no files: they could tell whose they are.');
    const slot = db
      .select({ versionId: paperSlot.versionId })
      .from(paperSlot)
      .where(and(eq(paperSlot.id, slotId), eq(paperSlot.attemptId, attemptId)))
      .get();
    const content = slot && (frozenContents(db, [slot.versionId]).get(slot.versionId) as QuestionContent);
    const files = content && 'files' in content && content.files;
    if (!files) return notFound('question that takes files');
    const { kinds, megabytes, most } = files;
    if (file.length === 0) return refused('bad-input', 'The file is empty.');
    if (file.length > megabytes * 1_000_000) return refused('bad-input', `The file is larger than ${megabytes} MB.`);
    const found = await kindOf(file);
    if (!found || !kinds.includes(found.kind))
      return refused(
        'bad-input',
        `This file is none of what is asked for: ${kinds.map((kind) => fileKindNames[kind]).join(', ')}. What counts is its content, not its name.`,
      );
    const brought = db.select({ n: count() }).from(responseFile).where(eq(responseFile.slotId, slotId)).get()?.n ?? 0;
    if (brought >= most * 10) return refused('conflict', 'Too many files have been sent for this answer.');
    return ok({ type: found.type });
  },
  does({ tx, context, now, ready }, slotId, name, file): Result<{ id: string }> {
    const hash = keepFile(context.files ?? answerFolder(), file);
    const fileId = newId();
    tx.insert(responseFile)
      .values({
        id: fileId,
        slotId,
        name: tidyFileName(name),
        type: ready.type,
        bytes: file.length,
        hash,
        receivedAt: now,
      })
      .run();
    return ok({ id: fileId });
  },
});

/** A handed-in file for its student, and for those who mark the sitting. To everyone else it does not exist. */
export const openAnswerFile = query({
  admits: askedWithin('its student, and who marks its sitting'),
  takes: [id('file')],
  does({ db, actor: { userId } }, fileId): Result<{ name: string; type: string; bytes: number; hash: string }> {
    const row = db
      .select({ file: responseFile, userId: attempt.userId, sittingId: sitting.id, courseId: sitting.courseId })
      .from(responseFile)
      .innerJoin(paperSlot, eq(paperSlot.id, responseFile.slotId))
      .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
      .innerJoin(sitting, eq(sitting.id, attempt.sittingId))
      .where(eq(responseFile.id, fileId))
      .get();
    if (!row) return notFound('file');
    const { name, type, bytes: size, hash } = row.file;
    const opened = { name, type, bytes: size, hash };
    if (row.userId === userId) return ok(opened);
    const roles = db
      .select({ role: membership.role, removedAt: membership.removedAt })
      .from(membership)
      .where(and(eq(membership.courseId, row.courseId), eq(membership.userId, userId)))
      .all();
    const assigned =
      db
        .select({ userId: markerAssignment.userId })
        .from(markerAssignment)
        .where(and(eq(markerAssignment.sittingId, row.sittingId), eq(markerAssignment.userId, userId)))
        .get() !== undefined;
    return roles.some(({ role, removedAt }) => removedAt === null && permits('marking.mark', role, assigned))
      ? ok(opened)
      : notFound('file');
  },
});
