import { and, eq, inArray } from 'drizzle-orm';
import { gatheredSaid } from '@/core/answerSheet/gather';
import { ok, type Result, refused } from '@/core/base/result';
import { counted } from '@/core/base/words';
import type { Tx } from '@/db/client';
import { attempt, attemptEvent, paperSlot, response, sheetPage, sheetReading } from '@/db/schema';
import { endAttempt, markAgain } from '../attempt/endAttempt';
import { drawNew } from '../attempt/startAttempt';
import { afterHandIn } from '../attempt/uponHandIn';
import { tell } from '../house/bus';
import { type Context, newId } from '../house/context';
import { fingerprint, previewKey, unlessAsSeen } from '../house/staged';
import { undoable } from '../house/undoable';
import { command } from '../house/useCase';
import { slotsToMark, takeBackMarks, takenBackSaid, writeMarks } from '../marking/giveMark';
import { attemptWithRules, type RunningAttempt, type SittingRow } from '../records/audience';
import { fewestShown } from '../release/answerTally';
import { toSitting } from '../sitting/toSitting';
import { anonymousSheetsTaken, forgetPages, planAnonymousSheets, takeAnonymousSheets } from './anonymousSheets';
import { type AttemptRow, type PlannedSheet, planSheets, type SheetTaking } from './planSheets';
import { type OpenedReading, openedReading, openReading } from './sheetPages';

export type SheetsPreview = {
  takings: SheetTaking[];
  /** Students of the sitting of whom no sheet has come. */
  without: string[];
  /** Whether it cannot be taken back: so few sheets of an anonymous sitting that what is kept for it would tell whose they are. */
  isForGood: boolean;
  said: string;
  /** Rows that wait for a person: nothing comes in while there are some. */
  doubts: number;
  key: string;
};

/** What the sheets of a reading would bring in. */
const planOf = (tx: Tx, context: Context, sitting: SittingRow, opened: OpenedReading): Result<PlannedSheet[]> =>
  sitting.anonymous ? ok(planAnonymousSheets(tx, opened)) : planSheets(tx, context, sitting, opened);

const keyOf = (planned: readonly PlannedSheet[], doubts: number): string => fingerprint([planned, doubts]);

/** What the sheets that are looked through would bring in; nothing is changed. */
export const previewSheets = command({
  admits: toSitting('sitting.change'),
  unlogged: 'what is only looked at changes nothing that anybody sees',
  does({ tx, db, context, sitting }): Result<SheetsPreview> {
    const reading = openReading(tx, sitting.id);
    if (!reading) return refused('conflict', 'No sheets are being read in.');
    const opened = openedReading(db, tx, sitting, reading.id);
    const planned = planOf(tx, context, sitting, opened);
    if (!planned.ok) return planned;
    const coming = planned.value.filter((one) => one.problem === null).length;
    const came = new Set(planned.value.map((one) => one.userId));
    return ok({
      takings: planned.value.map(
        ({ userId, name, into, answered, changes, pages, missing, notes, problem }): SheetTaking => ({
          userId,
          name,
          into,
          answered,
          changes,
          pages,
          missing,
          notes,
          problem,
        }),
      ),
      isForGood: sitting.anonymous && coming < fewestShown,
      without: opened.students
        .filter((one) => !came.has(one.userId) && !opened.before.has(one.userId))
        .map((one) => one.name),
      said: gatheredSaid(opened.gathered, opened.of, opened.before.size),
      doubts: opened.gathered.doubts,
      key: keyOf(planned.value, opened.gathered.doubts),
    });
  },
});

type TakenSheets = {
  sittingId: string;
  courseId: string;
  readingId: string;
  batch: string;
  made: string[];
  again: string[];
  before: { slotId: string; attemptId: string; value: unknown; had: boolean }[];
  states: Pick<AttemptRow, 'id' | 'state' | 'endedAt' | 'endedBy'>[];
};

/** Sheets were taken over: attempts that they made are taken out, others get back what stood there. */
export const sheetsTaken = undoable<TakenSheets>('sitting.sheets-taken', {
  action: 'sitting.change',
  says: (_kept, { sheets }) => `${counted(Number(sheets), 'answer sheet')} read in`,
  apply(tx, context, { courseId, sittingId, readingId, batch, made, again, before, states }) {
    const { now, actor, db } = context;
    const marking = takeBackMarks(context, courseId, batch);
    for (const id of [...made, ...again]) {
      tx.update(attempt)
        .set({ state: 'voided', stateBefore: 'handed-in' })
        .where(and(eq(attempt.id, id), eq(attempt.state, 'handed-in')))
        .run();
      tx.insert(attemptEvent)
        .values({
          attemptId: id,
          at: now,
          kind: 'voided',
          actorId: actor.userId,
          detail: { reason: 'its answer sheet was taken back' },
        })
        .run();
    }
    for (const { slotId, value, had } of before) {
      const current = tx
        .select({ revision: response.revision })
        .from(response)
        .where(eq(response.slotId, slotId))
        .get();
      tx.update(response)
        .set({ value: had ? value : null, revision: (current?.revision ?? 0) + 1, savedAt: now })
        .where(eq(response.slotId, slotId))
        .run();
    }
    for (const { id, ...state } of states) tx.update(attempt).set(state).where(eq(attempt.id, id)).run();
    tx.update(sheetPage).set({ attemptId: null }).where(eq(sheetPage.readingId, readingId)).run();
    for (const { id } of states) {
      const one = attemptWithRules(db, id);
      if (one?.attempt.state === 'handed-in' && one.sitting.scored) markAgain(tx, one, now);
    }
    // Its pages can be looked through again.
    const other = openReading(tx, sittingId);
    tx.update(sheetReading)
      .set(other ? { endedAt: now } : { appliedAt: null })
      .where(eq(sheetReading.id, readingId))
      .run();
    const said = [`${counted(made.length + again.length, 'attempt')} taken out.`];
    if (before.length) said.push(`${counted(before.length, 'answer')} as before.`);
    if (marking.ok) said.push(takenBackSaid(marking.value));
    return ok(said.join(' '));
  },
});

/**
 * Takes the sheets over as they were looked at: all of them or nothing. Who has no attempt gets one, with the paper that
 * their sheet was printed for; then it is handed in and marked as every other. Those of an anonymous sitting are nobody's.
 *
 * @param key of the preview
 */
export const takeSheets = command({
  admits: toSitting('sitting.change'),
  takes: [previewKey],
  logs: 'sitting.take-sheets',
  does(
    { tx, db, context, courseId, sittingId, sitting, record, afterwards },
    key,
  ): Result<{ sheets: number; auditId: number; isForGood: boolean }> {
    const { now, actor } = context;
    const reading = openReading(tx, sittingId);
    if (!reading) return refused('conflict', 'These sheets have been taken over already, or given up.');
    const opened = openedReading(db, tx, sitting, reading.id);
    const anonymous = sitting.anonymous ? planAnonymousSheets(tx, opened) : null;
    const planned = anonymous ? ok(anonymous) : planSheets(tx, context, sitting, opened);
    if (!planned.ok) return planned;
    const seen = unlessAsSeen(key, keyOf(planned.value, opened.gathered.doubts), 'Sheets or answers have');
    if (seen) return seen;
    if (opened.gathered.doubts > 0)
      return refused(
        'conflict',
        `${counted(opened.gathered.doubts, 'row waits', 'rows wait')} for you: settle ${opened.gathered.doubts === 1 ? 'it' : 'them'}, or leave the page out.`,
      );
    const takings = planned.value.filter((one) => one.problem === null);
    if (takings.length === 0) return refused('bad-input', 'None of these sheets can come in.');
    tx.update(sheetReading).set({ appliedAt: now }).where(eq(sheetReading.id, reading.id)).run();
    const line = { subjectId: sittingId, detail: { sheets: takings.length, readingId: reading.id }, within: sittingId };
    if (anonymous) {
      const kept = takeAnonymousSheets(
        tx,
        sitting,
        anonymous.filter((one) => one.problem === null),
      );
      const auditId = record({ ...line, ...(kept ? { undo: anonymousSheetsTaken.of(kept) } : {}) });
      afterwards(forgetPages(tx, context, reading.id));
      return ok({ sheets: takings.length, auditId, isForGood: kept === null });
    }
    const kept: TakenSheets = {
      sittingId,
      courseId,
      readingId: reading.id,
      batch: newId(),
      made: [],
      again: [],
      before: [],
      states: [],
    };
    for (const taking of takings) {
      const taken = takeOne(tx, context, sitting, taking, kept);
      if (!taken.ok) return taken;
    }
    const auditId = record({ ...line, undo: sheetsTaken.of(kept) });
    afterwards(() => {
      for (const { userId } of takings) tell({ sittingId, what: 'attempt', userId });
      afterHandIn({ ...context, actor }, sittingId);
    });
    return ok({ sheets: takings.length, auditId, isForGood: false });
  },
});

/** Writes one student's sheet into their attempt, and hands it in. */
function takeOne(tx: Tx, context: Context, sitting: SittingRow, taking: PlannedSheet, kept: TakenSheets): Result<null> {
  const { db, now, actor } = context;
  let { attemptId } = taking;
  if (attemptId === null) {
    const before = tx
      .select()
      .from(attempt)
      .where(and(eq(attempt.sittingId, sitting.id), eq(attempt.userId, taking.userId)))
      .all();
    const drawn = drawNew(tx, context, sitting, taking.userId, before, taking.number, undefined);
    if (!drawn.ok) return drawn;
    attemptId = drawn.value.attemptId;
    tx.insert(attemptEvent)
      .values({ attemptId, at: now, kind: 'started', actorId: actor.userId, detail: { by: 'answer-sheet' } })
      .run();
    kept.made.push(attemptId);
  } else if (taking.into === 'again') {
    tx.update(attempt)
      .set({ state: 'running', stateBefore: null, endedAt: null, endedBy: null })
      .where(eq(attempt.id, attemptId))
      .run();
    kept.again.push(attemptId);
  } else {
    const row = tx.select().from(attempt).where(eq(attempt.id, attemptId)).get() as AttemptRow;
    kept.states.push({ id: attemptId, state: row.state, endedAt: row.endedAt, endedBy: row.endedBy });
  }
  const slots = new Map(
    tx
      .select({ id: paperSlot.id, position: paperSlot.position, value: response.value, revision: response.revision })
      .from(paperSlot)
      .leftJoin(response, eq(response.slotId, paperSlot.id))
      .where(eq(paperSlot.attemptId, attemptId))
      .all()
      .map((slot) => [slot.position, slot]),
  );
  for (const { position, value } of taking.writes) {
    const slot = slots.get(position);
    if (!slot || (value === null && slot.revision === null)) continue;
    if (taking.into === 'existing')
      kept.before.push({ slotId: slot.id, attemptId, value: slot.value, had: slot.revision !== null });
    tx.insert(response)
      .values({ slotId: slot.id, attemptId, value, comeBack: false, revision: 1, epoch: 0, sequence: 0, savedAt: now })
      .onConflictDoUpdate({ target: response.slotId, set: { value, revision: (slot.revision ?? 0) + 1, savedAt: now } })
      .run();
  }
  // What was answered on paper is known before it is marked.
  tx.update(sheetPage).set({ attemptId }).where(inArray(sheetPage.id, taking.pages)).run();
  const one = attemptWithRules(db, attemptId) as RunningAttempt;
  if (one.attempt.state === 'handed-in') {
    if (sitting.scored) markAgain(tx, one, now);
  } else endAttempt(tx, one, 'answer-sheet', now, actor.userId);
  if (taking.marks.length) {
    const rows = slotsToMark(
      tx,
      sitting.courseId,
      taking.marks.flatMap(({ position }) => slots.get(position)?.id ?? []),
    );
    writeMarks(
      tx,
      context,
      taking.marks.flatMap(({ position, points, rubric }) => {
        const row = rows.get(slots.get(position)?.id ?? '');
        const given = { points, kind: 'hand' as const, batch: kept.batch, ...(rubric ? { rubric } : {}) };
        return row ? [{ row, given }] : [];
      }),
    );
  }
  return ok(null);
}
