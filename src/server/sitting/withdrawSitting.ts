import { and, count, eq, ne } from 'drizzle-orm';
import { ok, type Result, refused } from '@/core/base/result';
import { counted, oneOrMany } from '@/core/base/words';
import type { Tx } from '@/db/client';
import { attempt, markerAssignment, poolSnapshot, questionReport, sitting, sittingNote } from '@/db/schema';
import { tell } from '../house/bus';
import { command } from '../house/useCase';
import { audienceOf } from '../records/audience';
import { tellCalledOff } from './tellStudents';
import { toSitting } from './toSitting';

/** How many attempts a sitting has; those that were voided only where they stand in the way of removing it. */
const attemptsOf = (tx: Tx, sittingId: string, withVoided: boolean): number =>
  tx
    .select({ n: count() })
    .from(attempt)
    .where(and(eq(attempt.sittingId, sittingId), withVoided ? undefined : ne(attempt.state, 'voided')))
    .get()?.n ?? 0;

/**
 * Calls a scheduled sitting off, before anybody has begun it: nobody can start it any more, it leaves the gradebook, and
 * those who were told of it are told.
 *
 * @returns how many were told
 */
export const callOffSitting = command({
  admits: toSitting('sitting.change'),
  logs: 'sitting.call-off',
  does({ tx, context, courseId, courseName, sittingId, sitting: row, record, afterwards }): Result<{ told: number }> {
    if (row.state !== 'scheduled') return refused('conflict', 'Only a scheduled sitting can be called off.');
    const begun = attemptsOf(tx, sittingId, false);
    if (begun > 0)
      return refused(
        'conflict',
        `${counted(begun, 'attempt')} ${oneOrMany(begun, 'has', 'have')} been made: let it close, or void ${oneOrMany(begun, 'it', 'them')} first.`,
      );
    tx.update(sitting).set({ state: 'cancelled' }).where(eq(sitting.id, sittingId)).run();
    const told = tellCalledOff(tx, context, { row, audience: audienceOf(tx, row), courseId, courseName });
    record({ subjectId: sittingId, detail: { told } });
    afterwards(() => tell({ sittingId, what: 'rules' }));
    return ok({ told });
  },
});

/** Makes a draft again of a sitting that was called off: it can be changed, and scheduled anew. */
export const redraftSitting = command({
  admits: toSitting('sitting.change'),
  logs: 'sitting.redraft',
  does({ tx, sittingId, sitting: row, record }): Result<null> {
    if (row.state !== 'cancelled')
      return refused('conflict', 'Only a sitting that was called off becomes a draft again.');
    tx.update(sitting).set({ state: 'draft' }).where(eq(sitting.id, sittingId)).run();
    record({ subjectId: sittingId });
    return ok(null);
  },
});

/** Removes a draft, or a sitting that was called off and that nobody ever began. */
export const removeSitting = command({
  admits: toSitting('sitting.change'),
  logs: 'sitting.remove',
  does({ tx, sittingId, sitting: row, record }): Result<null> {
    if (row.state === 'scheduled')
      return refused('conflict', 'A scheduled sitting is called off before it is removed.');
    if (attemptsOf(tx, sittingId, true) > 0)
      return refused('conflict', 'Attempts were made in this sitting: it stays, so that nothing of them is lost.');
    for (const table of [markerAssignment, poolSnapshot, sittingNote, questionReport])
      tx.delete(table).where(eq(table.sittingId, sittingId)).run();
    tx.delete(sitting).where(eq(sitting.id, sittingId)).run();
    record({ subjectId: sittingId, detail: { title: row.title } });
    return ok(null);
  },
});
