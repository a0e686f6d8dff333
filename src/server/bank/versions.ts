import { eq, inArray } from 'drizzle-orm';
import { contentText, type QuestionContent } from '@/core/question/content';
import type { Tx } from '@/db/client';
import { media, mediaVersion, question, questionVersion } from '@/db/schema';
import { type Context, newId } from '../house/context';
import { keepWords } from './searchWords';

type QuestionHead = { id: string; currentVersionId: string; shortName: string };

/** Stores the first version of a new question. */
export function beginVersions(tx: Tx, context: Context, head: QuestionHead, content: QuestionContent): void {
  insertVersion(tx, context, { id: head.currentVersionId, questionId: head.id, number: 1, content });
  keepWords(tx, head.id, head.shortName, content);
}

/**
 * Stores changed content: in place while the version stands on no paper, else as the next version, which becomes the
 * question's current one.
 *
 * @returns the version that is now current, and whether it is a new one
 */
export function changeContent(
  tx: Tx,
  context: Context,
  head: QuestionHead,
  current: { id: string; number: number; frozenAt: number | null },
  content: QuestionContent,
): { id: string; number: number; isNew: boolean } {
  keepWords(tx, head.id, head.shortName, content);
  if (current.frozenAt === null) {
    tx.update(questionVersion)
      .set({ content, plainText: contentText(content) })
      .where(eq(questionVersion.id, current.id))
      .run();
    noteMedia(tx, current.id, content);
    return { id: current.id, number: current.number, isNew: false };
  }
  const next = { id: newId(), questionId: head.id, number: current.number + 1, content };
  insertVersion(tx, context, next);
  tx.update(question).set({ currentVersionId: next.id }).where(eq(question.id, head.id)).run();
  return { id: next.id, number: next.number, isNew: true };
}

function insertVersion(
  tx: Tx,
  context: Context,
  version: { id: string; questionId: string; number: number; content: QuestionContent },
) {
  tx.insert(questionVersion)
    .values({
      ...version,
      plainText: contentText(version.content),
      createdBy: context.actor.userId,
      createdAt: context.now,
    })
    .run();
  noteMedia(tx, version.id, version.content);
}

/**
 * Notes which stored files a version of a question or passage shows, so that those who see it may see them. Hashes of
 * files that are not there are left out: a table brought in from elsewhere can name them.
 */
export function noteMedia(tx: Tx, versionId: string, content: unknown): void {
  tx.delete(mediaVersion).where(eq(mediaVersion.versionId, versionId)).run();
  const hashes = [...mediaIn(content)];
  if (hashes.length === 0) return;
  const stored = tx.select({ hash: media.hash }).from(media).where(inArray(media.hash, hashes)).all();
  if (stored.length)
    tx.insert(mediaVersion)
      .values(stored.map(({ hash }) => ({ hash, versionId })))
      .run();
}

/** The hashes of the files that any part of a value shows. */
export function mediaIn(value: unknown): Set<string> {
  const found = new Set<string>();
  const walk = (part: unknown): void => {
    if (Array.isArray(part)) part.forEach(walk);
    else if (typeof part === 'object' && part !== null) {
      const node = part as { type?: unknown; attrs?: { hash?: unknown } };
      if (node.type === 'media' && typeof node.attrs?.hash === 'string') found.add(node.attrs.hash);
      else Object.values(part).forEach(walk);
    }
  };
  walk(value);
  return found;
}
