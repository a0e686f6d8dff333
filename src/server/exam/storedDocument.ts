import { and, eq } from 'drizzle-orm';
import type { Db, Tx } from '@/db/client';
import { examDocument } from '@/db/schema';

/** Whether an exam has been given a document: a design can name no other. */
export const hasDocument = (db: Db | Tx, examId: string, hash: string): boolean =>
  db
    .select({ hash: examDocument.hash })
    .from(examDocument)
    .where(and(eq(examDocument.examId, examId), eq(examDocument.hash, hash)))
    .get() !== undefined;

/** Lets another exam name a document that one has. */
export function shareDocument(tx: Tx, hash: string, examId: string): void {
  const row = tx.select().from(examDocument).where(eq(examDocument.hash, hash)).get();
  if (row)
    tx.insert(examDocument)
      .values({ ...row, examId })
      .onConflictDoNothing()
      .run();
}
