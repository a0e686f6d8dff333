import { eq } from 'drizzle-orm';
import type { Db } from '@/db/client';
import { attempt } from '@/db/schema';
import { tell } from '../house/bus';
import type { Context } from '../house/context';
import { noteContact } from './contacts';

const mostKept = 20_000;
const sittings = new Map<string, string>();

/** The sitting of an attempt; it never changes. */
function sittingIdOf(db: Db, attemptId: string): string | undefined {
  const known = sittings.get(attemptId);
  if (known) return known;
  const row = db.select({ id: attempt.sittingId }).from(attempt).where(eq(attempt.id, attemptId)).get();
  if (!row) return undefined;
  if (sittings.size > mostKept) sittings.clear();
  sittings.set(attemptId, row.id);
  return row.id;
}

/** Notes that an attempt goes on, and tells who watches its sitting. */
export function progressed(db: Db, attemptId: string, { actor, now }: Pick<Context, 'actor' | 'now'>): void {
  noteContact(attemptId, now);
  const sittingId = sittingIdOf(db, attemptId);
  if (sittingId) tell({ sittingId, what: 'progress', userId: actor.userId });
}
