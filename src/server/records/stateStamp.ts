import { max } from 'drizzle-orm';
import type { Db } from '@/db/client';
import { attemptEvent, audit, mark } from '@/db/schema';

/**
 * Differs whenever anything may have changed but what is just being typed: whatever a command does is in the log, whatever
 * is judged is a mark, and every start and every end of an attempt is an event. Three look-ups of a last row.
 */
export function stateStamp(db: Db): string {
  const last = (table: typeof audit | typeof mark | typeof attemptEvent) =>
    db
      .select({ last: max(table.id) })
      .from(table)
      .get()?.last ?? 0;
  return [last(audit), last(mark), last(attemptEvent)].join();
}
