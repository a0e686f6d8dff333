import { and, asc, eq, inArray, isNotNull } from 'drizzle-orm';
import { gatheredSaid, type StudentSheets, sheetReplaces } from '@/core/answerSheet/gather';
import { markOnSheet } from '@/core/answerSheet/markRows';
import { responseOnSheet } from '@/core/answerSheet/questionRows';
import type { SheetRow } from '@/core/answerSheet/sheetRow';
import { grouped } from '@/core/base/grouped';
import { ok, type Result, refused } from '@/core/base/result';
import { counted, pointsSaid } from '@/core/base/words';
import type { RubricLevels } from '@/core/marking/marks';
import type { QuestionContent } from '@/core/question/content';
import { definitionOf } from '@/core/question/definitions';
import type { Presentation } from '@/core/question/presentation';
import { responseText } from '@/core/question/score';
import { forStudent, type QuestionResponse } from '@/core/question/student';
import type { Tx } from '@/db/client';
import { attempt, attemptEvent, mark, paperSlot, response, sheetPage, sheetReading } from '@/db/schema';
import { endAttempt, markAgain } from '../attempt/endAttempt';
import { drawNew } from '../attempt/startAttempt';
import { afterHandIn } from '../attempt/uponHandIn';
import { tell } from '../house/bus';
import { type Context, newId } from '../house/context';
import { fingerprint, previewKey, unlessAsSeen } from '../house/staged';
import { undoable } from '../house/undoable';
import { command } from '../house/useCase';
import { slotsToMark, takeBackMarks, takenBackSaid, writeMarks } from '../marking/giveMark';
import { studentPapers } from '../print/studentPapers';
import { attemptWithRules, type RunningAttempt, type SittingRow } from '../records/audience';
import { newestMark } from '../records/newestMarks';
import { frozenContents } from '../records/paperContent';
import { standingPublications } from '../records/published';
import { toNamedSitting } from '../sitting/toSitting';
import { type OpenedReading, openedReading, openReading } from './sheetPages';

/** One answer that would be another one afterwards. */
export type SheetChange = { number: number; before: string; after: string };

/** What would come in for a student. */
export type SheetTaking = {
  userId: string;
  name: string;
  /** A new attempt, an attempt that is there already, or one that was taken back before. */
  into: 'new' | 'existing' | 'again';
  /** How many questions have an answer on the sheet. */
  answered: number;
  /** Of an attempt that is there already: what changes. */
  changes: SheetChange[];
  /** The pages that say it. */
  pages: string[];
  /** Pages of the sheet that have not come. */
  missing: number[];
  /** What whoever takes it over should know: what cannot be an answer and counts as none; who is still writing. */
  notes: string[];
  /** Why nothing of it can come in; null where it can. */
  problem: string | null;
};

export type SheetsPreview = {
  takings: SheetTaking[];
  /** Students of the sitting of whom no sheet has come. */
  without: string[];
  said: string;
  /** Rows that wait for a person: nothing comes in while there are some. */
  doubts: number;
  key: string;
};

type Slot = {
  position: number;
  slotId: string | null;
  content: QuestionContent;
  presentation: Presentation;
  points: number;
};
type Write = { position: number; value: QuestionResponse | null };
type Points = { position: number; points: number; rubric: RubricLevels | null };
type Planned = SheetTaking & {
  attemptId: string | null;
  number: number;
  writes: Write[];
  marks: Points[];
};

type AttemptRow = typeof attempt.$inferSelect;
const isTakenBack = (row: AttemptRow): boolean => row.state === 'voided' && row.endedBy === 'answer-sheet';

/** Works out what every sheet of a reading would change. */
function workOut(tx: Tx, context: Context, sitting: SittingRow, opened: OpenedReading): Result<Planned[]> {
  const drawn = studentPapers(tx, context, sitting);
  if (!drawn.ok) return drawn;
  const papers = new Map(drawn.value.papers.map((paper) => [paper.student.userId, paper]));
  const attempts = grouped(
    tx.select().from(attempt).where(eq(attempt.sittingId, sitting.id)).orderBy(asc(attempt.number)).all(),
    (row) => row.userId,
  );
  const chosen = opened.gathered.students.map((sheets) => ({
    sheets,
    ...attemptFor(sheets, opened, attempts, papers.get(sheets.userId)?.number ?? 1),
  }));
  const stored = storedSlots(
    tx,
    chosen.flatMap((one) => one.row?.id ?? []),
  );
  const readBefore = new Set(
    tx
      .selectDistinct({ id: sheetPage.attemptId })
      .from(sheetPage)
      .where(and(isNotNull(sheetPage.attemptId), inArray(sheetPage.attemptId, [...stored.keys()])))
      .all()
      .map((one) => one.id),
  );
  const names = new Map(opened.students.map((one) => [one.userId, one.name]));
  const published = standingPublications(tx, sitting.id);
  return ok(
    chosen
      .map(({ sheets, row, number, problem }): Planned => {
        const own = row ? stored.get(row.id) : undefined;
        const slots: Slot[] =
          own?.slots ??
          (papers.get(sheets.userId)?.sources ?? []).map((source, position) => ({ ...source, position, slotId: null }));
        const read = readPaper(sheets, opened, slots);
        const taking = {
          userId: sheets.userId,
          name: names.get(sheets.userId) ?? '',
          into: row ? (isTakenBack(row) ? ('again' as const) : ('existing' as const)) : ('new' as const),
          missing: sheets.missing,
          attemptId: row?.id ?? null,
          number,
          pages: sheets.pages,
        };
        const wrong = problem ?? read.problem;
        if (wrong) return { ...taking, answered: 0, changes: [], notes: [], problem: wrong, writes: [], marks: [] };
        const isAgain = row !== undefined && (readBefore.has(row.id) || isTakenBack(row));
        const writes = read.writes.filter(({ position, value }) =>
          sheetReplaces(value, own?.values.get(position), isAgain),
        );
        const marks = read.marks.filter((one) => !sameMark(own?.marks.get(one.position), one));
        const changes = row && !isTakenBack(row) ? changesOf(slots, writes, marks, own) : [];
        const isTold = changes.length > 0 && published.has(sheets.userId);
        return {
          ...taking,
          answered: read.writes.filter((one) => one.value !== null).length + read.marks.length,
          changes,
          notes: [
            ...(row?.state === 'running' ? ['Is writing on a screen now: that is handed in with it.'] : []),
            ...(isTold ? ['Their result is published: what they read changes when you publish again.'] : []),
            ...read.notes,
            ...(read.waiting
              ? [`${counted(read.waiting, 'question waits', 'questions wait')} to be marked: no points are filled in.`]
              : []),
          ],
          problem: null,
          writes,
          marks,
        };
      })
      .sort((a, b) => a.name.localeCompare(b.name)),
  );
}

type Chosen = { row: AttemptRow | undefined; number: number; problem: string | null };

/** The attempt that a student's sheet belongs to: the one it was printed for, or of a blank the latest. */
function attemptFor(
  sheets: StudentSheets,
  { layouts, pages }: OpenedReading,
  attempts: ReadonlyMap<string, AttemptRow[]>,
  next: number,
): Chosen {
  const own = attempts.get(sheets.userId) ?? [];
  const copy = pages.find((page) => page.id === sheets.pages[0])?.code?.copy ?? 0;
  const printedFor =
    layouts.get(sheets.layout)?.owners.get(copy) === sheets.userId
      ? layouts.get(sheets.layout)?.numbers.get(copy)
      : undefined;
  const latest = own.findLast((one) => one.state !== 'voided') ?? own.findLast(isTakenBack);
  const number = printedFor ?? latest?.number ?? next;
  const row = own.find((one) => one.number === number);
  if (row?.state === 'voided' && !isTakenBack(row))
    return { row: undefined, number, problem: 'The attempt that this sheet was printed for has been voided.' };
  if (!row && number !== next)
    return { row: undefined, number, problem: 'This sheet was printed for another paper of this student.' };
  return { row, number, problem: null };
}

type Stored = { slots: Slot[]; values: Map<number, unknown>; marks: Map<number, Omit<Points, 'position'>> };

/** Whether a mark says what a sheet says: points, and the levels of a rubric where it names some. */
const sameMark = (stands: Omit<Points, 'position'> | undefined, { points, rubric }: Points): boolean =>
  stands?.points === points && (rubric === null || JSON.stringify(stands.rubric) === JSON.stringify(rubric));

/** The papers of attempts, with what stands on them. */
function storedSlots(tx: Tx, attemptIds: readonly string[]): Map<string, Stored> {
  const rows = tx
    .select({ slot: paperSlot, value: response.value, newest: mark })
    .from(paperSlot)
    .leftJoin(response, eq(response.slotId, paperSlot.id))
    .leftJoin(mark, newestMark)
    .where(inArray(paperSlot.attemptId, [...attemptIds]))
    .orderBy(asc(paperSlot.position))
    .all();
  const contents = frozenContents(tx, [...new Set(rows.map(({ slot }) => slot.versionId))]);
  const stored = new Map<string, Stored>();
  for (const { slot, value, newest } of rows) {
    const own: Stored = stored.get(slot.attemptId) ?? { slots: [], values: new Map(), marks: new Map() };
    own.slots.push({
      position: slot.position,
      slotId: slot.id,
      content: contents.get(slot.versionId) as QuestionContent,
      presentation: slot.presentation,
      points: slot.points,
    });
    if (value !== null) own.values.set(slot.position, value);
    if (newest?.kind === 'hand') own.marks.set(slot.position, { points: newest.points, rubric: newest.rubric });
    stored.set(slot.attemptId, own);
  }
  return stored;
}

type ReadPaper = {
  writes: Write[];
  marks: Points[];
  notes: string[];
  /** Questions for which no points were filled in: they wait for a marker. */
  waiting: number;
  problem: string | null;
};

/** What a sheet says, question by question. */
function readPaper(sheets: StudentSheets, { layouts }: OpenedReading, slots: readonly Slot[]): ReadPaper {
  const { rowsOf = [], plan } = layouts.get(sheets.layout) ?? {};
  const byPosition = grouped([...rowsOf.keys()], (row) => rowsOf[row]?.position ?? -1);
  const read: ReadPaper = { writes: [], marks: [], notes: [], waiting: 0, problem: null };
  for (const { position, content, presentation, points: worth } of slots) {
    const rows = byPosition.get(position) ?? [];
    const signs = rows.map((row) => sheets.rows.get(row));
    // A page that has not come says nothing.
    if (rows.length === 0 || signs.some((one) => one === undefined)) continue;
    if (rowsOf[rows[0] as number]?.byHand) {
      const { rubric } = definitionOf(content.type).markingAids(content);
      const said = markOnSheet(
        rows.map((row) => plan?.rows[row] as SheetRow),
        signs as string[][],
        rubric,
        worth,
      );
      if ('waits' in said) {
        read.waiting += 1;
        if (said.waits) read.notes.push(`Question ${position + 1} waits to be marked: ${said.waits}`);
        continue;
      }
      const { points } = said;
      if (points > worth)
        read.problem ??= `Question ${position + 1} carries ${pointsSaid(worth)}; the sheet says ${points}.`;
      read.marks.push({ position, ...said });
      continue;
    }
    const said = responseOnSheet(forStudent(content, presentation), signs as string[][]);
    if ('unclear' in said) read.notes.push(`Question ${position + 1} counts as not answered: ${said.unclear}`);
    read.writes.push({ position, value: 'response' in said ? said.response : null });
  }
  return read;
}

function changesOf(
  slots: readonly Slot[],
  writes: readonly Write[],
  marks: readonly Points[],
  own: Stored | undefined,
): SheetChange[] {
  const bySlot = new Map(slots.map((slot) => [slot.position, slot]));
  const text = (position: number, value: unknown): string => {
    const slot = bySlot.get(position);
    return slot && value ? responseText(slot.content, slot.presentation, value as QuestionResponse) : 'nothing';
  };
  return [
    ...writes.map(({ position, value }) => ({
      number: position + 1,
      before: text(position, own?.values.get(position)),
      after: text(position, value),
    })),
    ...marks.map(({ position, points }) => ({
      number: position + 1,
      before: own?.marks.has(position) ? pointsSaid(own.marks.get(position)?.points ?? 0) : 'no points',
      after: pointsSaid(points),
    })),
  ];
}

const keyOf = (planned: readonly Planned[], doubts: number): string => fingerprint([planned, doubts]);

/** What the sheets that are looked through would bring in; nothing is changed. */
export const previewSheets = command({
  admits: toNamedSitting('sitting.change'),
  unlogged: 'what is only looked at changes nothing that anybody sees',
  does({ tx, db, context, sitting }): Result<SheetsPreview> {
    const reading = openReading(tx, sitting.id);
    if (!reading) return refused('conflict', 'No sheets are being read in.');
    const opened = openedReading(db, tx, sitting, reading.id);
    const planned = workOut(tx, context, sitting, opened);
    if (!planned.ok) return planned;
    const came = new Set(planned.value.map((one) => one.userId));
    return ok({
      takings: planned.value.map(({ attemptId: _a, number: _n, writes: _w, marks: _m, ...taking }) => taking),
      without: opened.students
        .filter((one) => !came.has(one.userId) && !opened.before.has(one.userId))
        .map((one) => one.name),
      said: gatheredSaid(opened.gathered, opened.students.length, opened.before.size),
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
 * their sheet was printed for; then it is handed in and marked as every other.
 *
 * @param key of the preview
 */
export const takeSheets = command({
  admits: toNamedSitting('sitting.change'),
  takes: [previewKey],
  logs: 'sitting.take-sheets',
  does(
    { tx, db, context, courseId, sittingId, sitting, record, afterwards },
    key,
  ): Result<{ sheets: number; auditId: number }> {
    const { now, actor } = context;
    const reading = openReading(tx, sittingId);
    if (!reading) return refused('conflict', 'These sheets have been taken over already, or given up.');
    const opened = openedReading(db, tx, sitting, reading.id);
    const planned = workOut(tx, context, sitting, opened);
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
    tx.update(sheetReading).set({ appliedAt: now }).where(eq(sheetReading.id, reading.id)).run();
    const auditId = record({
      subjectId: sittingId,
      detail: { sheets: takings.length, readingId: reading.id },
      undo: sheetsTaken.of(kept),
      within: sittingId,
    });
    afterwards(() => {
      for (const { userId } of takings) tell({ sittingId, what: 'attempt', userId });
      afterHandIn({ ...context, actor }, sittingId);
    });
    return ok({ sheets: takings.length, auditId });
  },
});

/** Writes one student's sheet into their attempt, and hands it in. */
function takeOne(tx: Tx, context: Context, sitting: SittingRow, taking: Planned, kept: TakenSheets): Result<null> {
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
