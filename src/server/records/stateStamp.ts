import { max } from 'drizzle-orm';
import type { Db } from '@/db/client';
import { attemptEvent, audit, mark, publication } from '@/db/schema';

/**
 * Differs whenever anything may have changed but what is just being typed: whatever a command does is in the log, whatever
 * is judged is a mark, every start and every end of an attempt is an event, and what a moment of a plan shows by itself is a
 * publication. Four look-ups of a last row.
 */
export function stateStamp(db: Db): string {
  const last = (table: typeof audit | typeof mark | typeof attemptEvent | typeof publication) =>
    db
      .select({ last: max(table.id) })
      .from(table)
      .get()?.last ?? 0;
  return [last(audit), last(mark), last(attemptEvent), last(publication)].join();
}
