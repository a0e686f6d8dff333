import { and, asc, eq, inArray, isNotNull } from 'drizzle-orm';
import { type StudentSheets, sheetReplaces } from '@/core/answerSheet/gather';
import { markOnSheet } from '@/core/answerSheet/markRows';
import { responseOnSheet } from '@/core/answerSheet/questionRows';
import type { SheetRow } from '@/core/answerSheet/sheetRow';
import { grouped } from '@/core/base/grouped';
import { ok, type Result } from '@/core/base/result';
import { counted, pointsSaid } from '@/core/base/words';
import type { RubricLevels } from '@/core/marking/marks';
import type { QuestionContent } from '@/core/question/content';
import { definitionOf } from '@/core/question/definitions';
import type { Presentation } from '@/core/question/presentation';
import { responseText } from '@/core/question/score';
import { forStudent, type QuestionResponse } from '@/core/question/student';
import type { Tx } from '@/db/client';
import { attempt, mark, paperSlot, response, sheetPage } from '@/db/schema';
import type { Context } from '../house/context';
import { studentPapers } from '../print/studentPapers';
import type { SittingRow } from '../records/audience';
import { newestMark } from '../records/newestMarks';
import { frozenContents } from '../records/paperContent';
import { standingPublications } from '../records/published';
import type { OpenedReading } from './sheetPages';

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

/** A question of the paper that a sheet answers. */
export type SheetSlot = {
  position: number;
  slotId: string | null;
  content: QuestionContent;
  presentation: Presentation;
  points: number;
};
type Write = { position: number; value: QuestionResponse | null };
type Points = { position: number; points: number; rubric: RubricLevels | null };
/** What a student's sheet would change, with all that carrying it out needs. */
export type PlannedSheet = SheetTaking & {
  attemptId: string | null;
  number: number;
  writes: Write[];
  marks: Points[];
};

/** An attempt as it is stored. */
export type AttemptRow = typeof attempt.$inferSelect;
const isTakenBack = (row: AttemptRow): boolean => row.state === 'voided' && row.endedBy === 'answer-sheet';

/** Works out what every sheet of a reading would change. */
export function planSheets(
  tx: Tx,
  context: Context,
  sitting: SittingRow,
  opened: OpenedReading,
): Result<PlannedSheet[]> {
  const drawn = studentPapers(tx, context, sitting);
  if (!drawn.ok) return drawn;
  const papers = new Map(drawn.value.papers.map((paper) => [paper.student.userId, paper]));
  const attempts = grouped(
    tx.select().from(attempt).where(eq(attempt.sittingId, sitting.id)).orderBy(asc(attempt.number)).all(),
    (row) => row.userId,
  );
  const chosen = opened.gathered.students.map((sheets) => ({
    sheets,
    ...attemptFor(sheets, attempts, papers.get(sheets.userId)?.number ?? 1),
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
  const { names } = opened;
  const published = standingPublications(tx, sitting.id);
  return ok(
    chosen
      .map(({ sheets, row, number, problem }): PlannedSheet => {
        const own = row ? stored.get(row.id) : undefined;
        const slots: SheetSlot[] =
          own?.slots ??
          (papers.get(sheets.userId)?.sources ?? []).map((source, position) => ({ ...source, position, slotId: null }));
        const read = readPaper(sheets, opened, slots);
        const taking = {
          userId: sheets.userId,
          name: `${names.get(sheets.userId) ?? ''}${number > 1 ? `, attempt ${number}` : ''}`,
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
function attemptFor(sheets: StudentSheets, attempts: ReadonlyMap<string, AttemptRow[]>, next: number): Chosen {
  const own = attempts.get(sheets.userId) ?? [];
  const latest = own.findLast((one) => one.state !== 'voided') ?? own.findLast(isTakenBack);
  const number = sheets.number ?? latest?.number ?? next;
  const row = own.find((one) => one.number === number);
  if (row?.state === 'voided' && !isTakenBack(row))
    return { row: undefined, number, problem: 'The attempt that this sheet was printed for has been voided.' };
  if (!row && number !== next)
    return { row: undefined, number, problem: 'This sheet was printed for another paper of this student.' };
  return { row, number, problem: null };
}

type Stored = { slots: SheetSlot[]; values: Map<number, unknown>; marks: Map<number, Omit<Points, 'position'>> };

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
export function readPaper(sheets: StudentSheets, { layouts }: OpenedReading, slots: readonly SheetSlot[]): ReadPaper {
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
  slots: readonly SheetSlot[],
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
