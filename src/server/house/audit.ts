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
