import { dirname, join } from 'node:path';
import { and, count, eq } from 'drizzle-orm';
import { fileTypeFromBuffer } from 'file-type';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { permits } from '@/core/people/policy';
import type { QuestionContent } from '@/core/question/content';
import { type FileKind, fileKindNames } from '@/core/question/types/written/fileKinds';
import { attempt, markerAssignment, membership, paperSlot, responseFile, sitting } from '@/db/schema';
import { mediaFolder } from '../bank/media';
import { type Context, newId } from '../house/context';
import { keepFile, tidyFileName } from '../house/keepFile';
import { attemptWithRules } from '../sitting/audience';
import { endIfExpired } from './handIn';
import { frozenContents } from './paperContent';

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
export async function kindOf(bytes: Uint8Array): Promise<{ kind: FileKind; type: string } | null> {
  const found = (await fileTypeFromBuffer(bytes))?.mime as string | undefined;
  if (found) {
    const kind = kindOfType[found.replace(/;.*$/, '').replace('audio/vnd.wave', 'audio/wav')];
    return kind ? { kind, type: found } : null;
  }
  if (bytes.includes(0)) return null;
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(bytes);
    return { kind: 'text', type: 'text/plain; charset=utf-8' };
  } catch {
    return null;
  }
}

/**
 * Takes a file for a written answer of a running attempt. It belongs to the answer once a save names it; what it is, its
 * content decides.
 */
export async function takeAnswerFile(
  context: Context,
  attemptId: string,
  slotId: string,
  name: string,
  bytes: Uint8Array,
  folder = answerFolder(),
): Promise<Result<{ id: string }>> {
  const one = attemptWithRules(context.db, attemptId);
  if (!one || one.attempt.userId !== context.actor.userId) return notFound('attempt');
  const ended = context.db.transaction((tx) => endIfExpired(tx, one, context.now), { behavior: 'immediate' });
  if (ended || one.attempt.state !== 'running') return refused('too-late', 'This attempt has been handed in.');
  if (one.sitting.anonymous)
    return refused('bad-input', 'An anonymous exam takes no files: they could tell whose they are.');
  const slot = context.db
    .select({ versionId: paperSlot.versionId })
    .from(paperSlot)
    .where(and(eq(paperSlot.id, slotId), eq(paperSlot.attemptId, attemptId)))
    .get();
  const content = slot && (frozenContents(context.db, [slot.versionId]).get(slot.versionId) as QuestionContent);
  if (content?.type !== 'written' || !content.files) return notFound('question that takes files');
  const { kinds, megabytes, most } = content.files;
  if (bytes.length === 0) return refused('bad-input', 'The file is empty.');
  if (bytes.length > megabytes * 1_000_000) return refused('bad-input', `The file is larger than ${megabytes} MB.`);
  const found = await kindOf(bytes);
  if (!found || !kinds.includes(found.kind))
    return refused(
      'bad-input',
      `This file is none of what is asked for: ${kinds.map((kind) => fileKindNames[kind]).join(', ')}. What counts is its content, not its name.`,
    );
  const brought =
    context.db.select({ n: count() }).from(responseFile).where(eq(responseFile.slotId, slotId)).get()?.n ?? 0;
  if (brought >= most * 10) return refused('conflict', 'Too many files have been sent for this answer.');
  const hash = keepFile(folder, bytes);
  const id = newId();
  context.db
    .insert(responseFile)
    .values({
      id,
      slotId,
      name: tidyFileName(name),
      type: found.type,
      bytes: bytes.length,
      hash,
      receivedAt: context.now,
    })
    .run();
  return ok({ id });
}

/** A handed-in file for its student, and for those who mark the sitting. To everyone else it does not exist. */
export function openAnswerFile(
  context: Context,
  fileId: string,
): Result<{ name: string; type: string; bytes: number; hash: string }> {
  const row = context.db
    .select({ file: responseFile, userId: attempt.userId, sittingId: sitting.id, courseId: sitting.courseId })
    .from(responseFile)
    .innerJoin(paperSlot, eq(paperSlot.id, responseFile.slotId))
    .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
    .innerJoin(sitting, eq(sitting.id, attempt.sittingId))
    .where(eq(responseFile.id, fileId))
    .get();
  if (!row) return notFound('file');
  const { name, type, bytes, hash } = row.file;
  const { userId } = context.actor;
  if (row.userId === userId) return ok({ name, type, bytes, hash });
  const roles = context.db
    .select({ role: membership.role, removedAt: membership.removedAt })
    .from(membership)
    .where(and(eq(membership.courseId, row.courseId), eq(membership.userId, userId)))
    .all();
  const assigned =
    context.db
      .select({ userId: markerAssignment.userId })
      .from(markerAssignment)
      .where(and(eq(markerAssignment.sittingId, row.sittingId), eq(markerAssignment.userId, userId)))
      .get() !== undefined;
  return roles.some(({ role, removedAt }) => removedAt === null && permits('marking.mark', role, assigned))
    ? ok({ name, type, bytes, hash })
    : notFound('file');
}
