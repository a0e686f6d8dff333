import { and, eq, isNull } from 'drizzle-orm';
import { z } from 'zod';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { permits } from '@/core/people/policy';
import { audit } from '@/db/schema';
import { categoryChanges } from './bank/categories';
import { manyEdited } from './bank/editMany';
import { questionCreated, questionRetired, questionsAdded } from './bank/questionChanges';
import { gradesEntered } from './gradebook/gradeSheets';
import type { Undoable } from './house/undoable';
import { command } from './house/useCase';
import { marksBroughtBack } from './marking/offlineUpload';
import { questionMarkedAnew } from './marking/remarking';
import { toMarking } from './marking/toMarking';
import { personRemoved } from './people/leaving';
import { rosterAdded } from './people/roster';

/** Every kind of change that can be taken back, from the stage that makes it. */
const undoables = new Map<string, Undoable<object>>(
  [
    ...categoryChanges,
    questionCreated,
    questionRetired,
    questionsAdded,
    manyEdited,
    personRemoved,
    rosterAdded,
    gradesEntered,
    marksBroughtBack,
    questionMarkedAnew,
  ].map((one) => [one.kind, one as Undoable<object>]),
);

/**
 * Takes one logged change back, once, and logs that. The door is that of markers, who bring marks back; each kind of change
 * then asks for what its maker had to be allowed.
 *
 * @returns what of it could be taken back, in words; empty where it is all
 */
export const undoChange = command({
  admits: toMarking,
  takes: [z.int()],
  logs: 'undo',
  does({ tx, context, courseId, role, record }, auditId): Result<{ said: string }> {
    const row = tx
      .select()
      .from(audit)
      .where(and(eq(audit.id, auditId), eq(audit.courseId, courseId)))
      .get();
    const one = undoables.get(String(row?.undo?.kind));
    if (!row?.undo || !one) return notFound('change to undo');
    if (!permits(one.action, role)) return refused('not-allowed', 'Your part in this course does not allow this.');
    const hindered = one.hindered(tx, row.undo);
    if (hindered) return refused('conflict', hindered);
    const marked = tx
      .update(audit)
      .set({ undoneAt: context.now })
      .where(and(eq(audit.id, auditId), isNull(audit.undoneAt)))
      .run();
    if (marked.changes === 0) return refused('conflict', 'This has been undone already.');
    const taken = one.apply(tx, context, row.undo);
    if (taken && !taken.ok) return taken;
    record({ subjectId: String(auditId), detail: { kind: one.kind, ...(taken ? { said: taken.value } : {}) } });
    return ok({ said: taken?.value ?? '' });
  },
});
