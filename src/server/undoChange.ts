import { and, eq, inArray, isNull, or } from 'drizzle-orm';
import { z } from 'zod';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { permits } from '@/core/people/policy';
import type { Tx } from '@/db/client';
import { audit, courseBank } from '@/db/schema';
import { anonymousSheetsTaken } from './answerSheet/anonymousSheets';
import { sheetsTaken } from './answerSheet/takeSheets';
import { bankBroughtIn, bankTakenOut } from './bank/banks';
import { categoryChanges } from './bank/categories';
import { manyEdited } from './bank/editMany';
import { passageDropped } from './bank/passages';
import { questionCreated, questionRetired, questionsAdded } from './bank/questionChanges';
import { linesTakenOut } from './exam/takingOut';
import { scoresPasted, scoreTyped } from './gradebook/entries';
import { gradesEntered } from './gradebook/gradeSheets';
import type { Undoable } from './house/undoable';
import { command } from './house/useCase';
import { groupMarked } from './marking/groups';
import { marksBroughtBack } from './marking/offlineUpload';
import { questionMarkedAnew } from './marking/remarking';
import { toMarking } from './marking/toMarking';
import { personRemoved } from './people/leaving';
import { rosterAdded } from './people/roster';
import { peoplePasted, personTyped } from './people/typePeople';
import { namesMatched } from './round/people';

/** Every kind of change that can be taken back, from the stage that makes it. */
export const undoables = new Map<string, Undoable<object>>(
  [
    ...categoryChanges,
    bankBroughtIn,
    bankTakenOut,
    passageDropped,
    questionCreated,
    questionRetired,
    questionsAdded,
    manyEdited,
    personRemoved,
    rosterAdded,
    personTyped,
    peoplePasted,
    gradesEntered,
    scoreTyped,
    scoresPasted,
    groupMarked,
    linesTakenOut,
    marksBroughtBack,
    namesMatched,
    questionMarkedAnew,
    anonymousSheetsTaken,
    sheetsTaken,
  ].map((one) => [one.kind, one as Undoable<object>]),
);

/** The banks of a course: what was done to them from another course can be taken back from here too. */
const banksOf = (tx: Tx, courseId: string) =>
  tx.select({ id: courseBank.bankId }).from(courseBank).where(eq(courseBank.courseId, courseId));

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
      .where(and(eq(audit.id, auditId), or(eq(audit.courseId, courseId), inArray(audit.within, banksOf(tx, courseId)))))
      .get();
    const one = undoables.get(String(row?.undo?.kind));
    if (!row?.undo || !one) return notFound('change to undo');
    // What is whose in marking, the taking back itself looks at.
    if (!permits(one.action, role, true))
      return refused('not-allowed', 'Your role in this course does not allow this.');
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
