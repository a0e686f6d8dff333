import { and, eq, isNull } from 'drizzle-orm';
import type { Tx } from '@/db/client';
import { audit } from '@/db/schema';
import type { Context } from './context';

/** What took place, for the log. `undo` is what the undo use-case needs to take it back. */
export type AuditEntry = {
  action: string;
  courseId: string | null;
  subjectId: string;
  detail?: Record<string, unknown>;
  undo?: Record<string, unknown>;
  /** The bank, exam or sitting in whose list of what was done lately it stands; left out for the course itself. */
  within?: string;
};

type Kept = Pick<AuditEntry, 'detail' | 'undo'>;

/**
 * Goes on with something that was begun in several steps and stands in one line of the log, with one undo: by the same
 * person, and as long as it was not taken back.
 *
 * @param more what stands in the line from now on, made of what stands there
 * @returns whether there is such a line
 */
export function recordMore(
  tx: Tx,
  context: Context,
  { id, action, within }: { id: number; action: string; within: string },
  more: (before: Kept) => Kept,
): boolean {
  const its = and(
    eq(audit.id, id),
    eq(audit.action, action),
    eq(audit.within, within),
    eq(audit.actorId, context.actor.userId),
    isNull(audit.undoneAt),
  );
  const row = tx.select({ detail: audit.detail, undo: audit.undo }).from(audit).where(its).get();
  if (!row) return false;
  tx.update(audit)
    .set(more({ detail: row.detail ?? {}, undo: row.undo ?? {} }))
    .where(its)
    .run();
  if (context.under) context.under.lines += 1;
  return true;
}

/** Writes the log row of a change; called inside the change's own transaction. @returns the id by which it is undone */
export function record(tx: Tx, context: Context, entry: AuditEntry): number {
  const row = tx
    .insert(audit)
    .values({ at: context.now, actorId: context.actor.userId, ...entry })
    .returning({ id: audit.id })
    .get();
  if (context.under) context.under.lines += 1;
  return row.id;
}
