import { and, asc, eq, inArray } from 'drizzle-orm';
import { z } from 'zod';
import { id } from '@/core/base/id';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { pointsText, roundHalfUp } from '@/core/base/rounding';
import { inZone } from '@/core/base/time';
import { pointsSaid } from '@/core/base/words';
import { picturesOn } from '@/core/exam/layOutPrint';
import { bandTold } from '@/core/gradebook/bands';
import {
  filledIn,
  type SheetLayout,
  type SheetWord,
  sheetFields,
  sheetFileName,
  unknownWords,
  usualLayout,
} from '@/core/gradebook/feedbackSheet';
import type { SheetBlock, SheetDocument } from '@/core/gradebook/sheetDocument';
import { type Outcome, outcomeShown } from '@/core/marking/outcome';
import { adjustmentSaid, whyPoints } from '@/core/marking/whyPoints';
import type { PrintOrder } from '@/core/print/printOrder';
import type { QuestionContent } from '@/core/question/content';
import { asJudged } from '@/core/question/feedbackFor';
import { responseText, rightResponse } from '@/core/question/score';
import { leaks } from '@/core/release/leakCheck';
import { type Fact, keyFacts } from '@/core/release/plan';
import { leakSaid } from '@/core/sitting/preflight';
import type { Db } from '@/db/client';
import { course, objective, questionObjective } from '@/db/schema';
import type { Context } from '../house/context';
import { command, query } from '../house/useCase';
import { type MarkedSlot, markedSlots, paperAdjustments } from '../marking/markedSlots';
import { toCourse } from '../people/toCourse';
import { beginPrint, endPrint, type PrintState, printOf, printsAreTheirOwn, whatWasPrinted } from '../print/printJobs';
import { picturesFor } from '../print/printOrder';
import { type SittingRow, takersOf } from '../records/audience';
import { bandsFor } from '../records/bandsHeld';
import { frozenContents } from '../records/paperContent';
import { differs, standingPublications } from '../records/published';
import { releaseFactsForAll, shownTo, type Whom, writingsNow } from '../release/releaseFacts';
import { resultsOf } from '../release/results';
import { leakSitting } from '../sitting/leaksOf';
import { toNamedSitting } from '../sitting/toSitting';

const layoutInput = z.strictObject({
  fields: z
    .array(z.enum(sheetFields))
    .max(sheetFields.length)
    .refine((all) => new Set(all).size === all.length, 'Each field stands on a sheet once.'),
  letter: z.string().max(3_000, 'At most 3,000 characters.'),
  signature: z.string().max(1_000, 'At most 1,000 characters.'),
  rightAnswers: z.boolean(),
});

const layoutOf = (db: Db, courseId: string): SheetLayout =>
  db.select({ layout: course.sheetLayout }).from(course).where(eq(course.id, courseId)).get()?.layout ?? usualLayout;

export type SheetsPage = {
  title: string;
  layout: SheetLayout;
  students: {
    userId: string;
    name: string;
    published: boolean;
    /** Whether they see right answers on their own page now: without that they stand on no sheet unless it is asked for. */
    seesRight: boolean;
  }[];
  /** Who may still be writing the same questions, in words: whoever gets a sheet with right answers could tell them. */
  leaks: string[];
  state: PrintState | null;
};

/** What feedback sheets of a sitting would hold, and for whom there are any: whoever has a published result. */
export const sheetsPage = query({
  admits: toNamedSitting('results.publish'),
  does({ courseId, context, sittingId, sitting: row, timeZone }): Result<SheetsPage> {
    const published = standingPublications(context.db, sittingId);
    const takers = takersOf(context.db, row);
    const seen = seenBy({ context, sitting: row, timeZone }, takers);
    const early = keyFacts.map((fact) => ({ fact, from: context.now }));
    return ok({
      title: row.title,
      layout: layoutOf(context.db, courseId),
      students: takers.map(({ userId, name }) => ({
        userId,
        name,
        published: published.has(userId),
        seesRight: seen.get(userId)?.has('right-answers') ?? false,
      })),
      leaks: leaks(leakSitting(row), early, writingsNow(context.db, row, context.now)).map((leak) =>
        leakSaid(leak, timeZone),
      ),
      state: printOf(context, kind, sittingId),
    });
  },
});

/** Keeps the layout of a course's feedback sheets. */
export const saveLayout = command({
  admits: toCourse('results.publish'),
  takes: [layoutInput],
  logs: 'gradebook.sheet-layout',
  does({ tx, courseId, record }, input): Result<null> {
    for (const field of ['letter', 'signature'] as const) {
      const [unknown] = unknownWords(input[field]);
      if (unknown)
        return refused('bad-input', `{${unknown}} means nothing here; it would be printed as it stands.`, field);
    }
    tx.update(course).set({ sheetLayout: input }).where(eq(course.id, courseId)).run();
    record({ subjectId: courseId, detail: input });
    return ok(null);
  },
});

const verdicts: Record<Outcome, string> = {
  right: 'right',
  partly: 'partly right',
  wrong: 'wrong',
  given: 'full points for everyone',
  waiting: 'not marked',
  'left-out': 'does not count',
};

/** Where sheets are made, as its door knows it. */
type Whole = { context: Context; sitting: SittingRow; courseName: string; timeZone: string };

/** What each student of a sitting sees of it on their own page now. */
function seenBy(
  { context: { db, now }, sitting: row, timeZone }: Pick<Whole, 'context' | 'sitting' | 'timeZone'>,
  students: readonly Whom[],
): Map<string, Set<Fact>> {
  const released = releaseFactsForAll(db, row, students, timeZone, now);
  return new Map([...released].map(([userId, facts]) => [userId, shownTo(db, row, facts, now).visible]));
}

/** What of a layout a sheet holds for a student who sees so much: right answers and solutions only where they see them. */
const withheld = (visible: ReadonlySet<Fact> | undefined) => ({
  right: !visible?.has('right-answers'),
  solution: !visible?.has('feedback'),
});

/**
 * The feedback sheets of students with a published result, as they were published, in the order of their names.
 *
 * @param early whether right answers and solutions stand also on sheets of students who do not see them on their own page
 */
function sheetsOf(
  { context, sitting: row, courseName, timeZone }: Whole,
  layout: SheetLayout,
  userIds: ReadonlySet<string> | null,
  early: boolean,
): SheetDocument[] {
  const { db, now, actor } = context;
  const published = standingPublications(db, row.id);
  const students = takersOf(db, row).filter(
    (one) => published.has(one.userId) && (userIds === null || userIds.has(one.userId)),
  );
  const seen = early || !layout.rightAnswers ? null : seenBy({ context, sitting: row, timeZone }, students);
  const attempts = students.flatMap((one) => published.get(one.userId)?.attemptIds.at(-1) ?? []);
  const results = resultsOf(db, row);
  const changedAt = new Map(
    [...published].flatMap(([userId, one]) => {
      const result = results.get(userId)?.result;
      return result && differs(one, result) ? one.attemptIds.map((id) => [id, one.publishedAt] as const) : [];
    }),
  );
  const papers = markedSlots(db, attempts, changedAt);
  const adjustments = paperAdjustments(
    db,
    [...published.values()].flatMap((one) => one.attemptIds),
    changedAt,
  );
  const slots = [...papers.values()].flat();
  const contents = frozenContents(
    db,
    slots.flatMap(({ slot, judgeId }) => [slot.versionId, judgeId]),
  );
  const aligned = layout.fields.includes('objectives')
    ? objectivesBy(
        db,
        slots.map(({ slot }) => slot.questionId),
      )
    : new Map();
  const held = bandsFor(db, row);
  const taken = new Set<string>();
  return students.map((student): SheetDocument => {
    const result = published.get(student.userId) as NonNullable<ReturnType<typeof published.get>>;
    const percent = result.possible > 0 ? (result.earned / result.possible) * 100 : 0;
    const { band, decimals } = result.told ?? bandTold(held, result);
    const without = seen ? withheld(seen.get(student.userId)) : { right: false, solution: false };
    const own = papers.get(result.attemptIds.at(-1) ?? '') ?? [];
    const words: Record<SheetWord, string> = {
      name: student.name,
      sitting: row.title,
      course: courseName,
      score: pointsText(result.earned),
      possible: pointsText(result.possible),
      percent: roundHalfUp(percent, decimals),
      band: band?.label ?? '',
      date: inZone(now, timeZone, 'd MMMM yyyy'),
      instructor: actor.name,
    };
    const questions = (missedOnly: boolean): SheetBlock[] =>
      own.flatMap(({ slot, value, newest, judgeId, anew }): SheetBlock[] => {
        const out = newest?.kind === 'left-out';
        const points = out ? null : (newest?.points ?? null);
        if (missedOnly && (points === null || points >= slot.points)) return [];
        const content = asJudged(
          contents.get(slot.versionId) as QuestionContent,
          contents.get(judgeId) as QuestionContent,
          slot.presentation,
        );
        const right = responseText(content, slot.presentation, rightResponse(content, slot.presentation));
        return [
          {
            kind: 'question',
            number: String(slot.position + 1),
            points: points === null ? pointsSaid(slot.points) : `${pointsText(points)} of ${pointsText(slot.points)}`,
            stem: content.stem,
            answer: responseText(content, slot.presentation, value),
            verdict: verdicts[outcomeShown(newest, slot.points, anew)],
            why: newest && whyPoints(newest, anew),
            right: layout.rightAnswers && !without.right && (points === null || points < slot.points) ? right : null,
            solution: layout.rightAnswers && !without.solution ? (content.feedback.solution ?? null) : null,
            comment: newest?.comment ?? '',
          },
        ];
      });
    const blocks = layout.fields.flatMap((field): SheetBlock[] => {
      switch (field) {
        case 'letter':
          return layout.letter.trim() ? [{ kind: 'text', text: filledIn(layout.letter, words) }] : [];
        case 'signature':
          return layout.signature.trim() ? [{ kind: 'text', text: filledIn(layout.signature, words) }] : [];
        case 'score':
          return [
            {
              kind: 'result',
              text: `${words.score} of ${words.possible} points`,
              note: `${words.percent} %`,
            },
            ...result.attemptIds.flatMap((id): SheetBlock[] => {
              const one = adjustments.get(id);
              const text = one && adjustmentSaid(one.points, one.reason);
              return text ? [{ kind: 'text', text }] : [];
            }),
          ];
        case 'band':
          return band
            ? [
                { kind: 'result', text: band.label, note: '' },
                ...(band.comment ? [{ kind: 'text' as const, text: band.comment }] : []),
              ]
            : [];
        case 'objectives': {
          const rows = objectiveRows(own, aligned);
          return rows.length
            ? [
                { kind: 'heading', text: 'By objective' },
                { kind: 'table', head: ['Objective', 'Points', '%'], rows, right: [1, 2] },
              ]
            : [];
        }
        case 'questions':
          return [{ kind: 'heading', text: 'Your answers' }, ...questions(false)];
        case 'missed': {
          const missed = questions(true);
          return [
            { kind: 'heading', text: 'What was missed' },
            ...(missed.length ? missed : [{ kind: 'text' as const, text: 'Nothing.' }]),
          ];
        }
        case 'reply':
          return [{ kind: 'lines', label: 'Your reply', count: 6 }];
        default:
          return [];
      }
    });
    return {
      fileName: sheetFileName(student.name, 'pdf', taken),
      title: row.title,
      note: [student.name, student.studentNumber, courseName, words.date].filter(Boolean).join(' · '),
      foot: `${row.title} · ${student.name}`,
      blocks,
    };
  });
}

type Aligned = ReadonlyMap<string, { code: string; wording: string }[]>;

function objectivesBy(db: Db, questionIds: readonly string[]): Aligned {
  const rows = db
    .select({ questionId: questionObjective.questionId, code: objective.code, wording: objective.wording })
    .from(questionObjective)
    .innerJoin(objective, eq(objective.id, questionObjective.objectiveId))
    .where(and(inArray(questionObjective.questionId, [...new Set(questionIds)])))
    .orderBy(asc(objective.code))
    .all();
  const by = new Map<string, { code: string; wording: string }[]>();
  for (const { questionId, ...one } of rows) by.set(questionId, [...(by.get(questionId) ?? []), one]);
  return by;
}

function objectiveRows(slots: readonly MarkedSlot[], aligned: Aligned): string[][] {
  const sums = new Map<string, { earned: number; possible: number; wording: string }>();
  for (const { slot, newest } of slots) {
    if (!newest || newest.kind === 'left-out') continue;
    for (const { code, wording } of aligned.get(slot.questionId) ?? []) {
      const own = sums.get(code) ?? { earned: 0, possible: 0, wording };
      own.earned += newest.points;
      own.possible += slot.points;
      sums.set(code, own);
    }
  }
  return [...sums]
    .sort(([a], [b]) => a.localeCompare(b, undefined, { numeric: true }))
    .map(([code, { earned, possible, wording }]) => [
      `${code} ${wording}`,
      `${pointsText(earned)} of ${pointsText(possible)}`,
      possible > 0 ? roundHalfUp((earned / possible) * 100, 0) : '–',
    ]);
}

const earlyInput = z.boolean().default(false);

const orderInput = z.strictObject({
  format: z.enum(['pdf', 'docx']),
  /** Whether right answers stand also on sheets of students who do not see them on their own page. */
  early: earlyInput,
  /** Only these students; all with a published result where nobody is named. */
  userIds: z.array(id('user')).max(2_000).optional(),
});

/** The sheet of one student as it would be printed under a layout: a sample, of which nothing is kept. */
export const sampleSheet = query({
  admits: toNamedSitting('results.publish'),
  takes: [id('user'), layoutInput, earlyInput],
  does(look, userId, layout, early): Result<SheetDocument> {
    const [sheet] = sheetsOf(look, layout, new Set([userId]), early);
    return sheet ? ok(sheet) : notFound('published result of this student');
  },
});

const kind = 'print-sheets';

/** Begins to print feedback sheets: one document for each student, named for the student, all in one archive. */
export const printFeedback = command({
  admits: toNamedSitting('results.publish'),
  takes: [orderInput],
  logs: 'gradebook.print-sheets',
  async prepares(look, { format, userIds, early }): Promise<Result<PrintOrder>> {
    const { context, courseId } = look;
    const sheets = sheetsOf(look, layoutOf(context.db, courseId), userIds ? new Set(userIds) : null, early).map(
      (sheet) => ({
        ...sheet,
        fileName: sheet.fileName.replace(/pdf$/, format),
      }),
    );
    if (sheets.length === 0) return refused('conflict', 'Nobody of these has a published result yet.');
    return ok({ sheets, format, into: 'archive', pictures: await picturesFor(picturesOn(sheets)) });
  },
  does({ tx, context, sittingId, record, ready }, { format, early }): Result<PrintState> {
    const begun = beginPrint(tx, context, kind, { sittingId, format }, ready);
    if (begun.ok)
      record({ subjectId: sittingId, detail: { sheets: begun.value.total, format, ...(early ? { early } : {}) } });
    return begun;
  },
});

/** How far the printing of a sitting's sheets is. */
export const sheetsState = query({
  admits: toNamedSitting('results.publish'),
  does: ({ context, sittingId }): Result<PrintState | null> => ok(printOf(context, kind, sittingId)),
});

/** Ends the printing of sheets. */
export const cancelSheets = command({
  admits: toNamedSitting('results.publish'),
  unlogged: printsAreTheirOwn,
  does: ({ tx, context, sittingId }): Result<null> => endPrint(tx, context, kind, sittingId),
});

/** The archive of sheets, once it is done. */
export const sheetsArchive = query({
  admits: toNamedSitting('results.publish'),
  does({ context, sittingId, sitting }): Result<{ bytes: Uint8Array; name: string }> {
    const archive = whatWasPrinted(context, kind, sittingId);
    const name = sitting.title.replace(/[^\p{L}\p{N} .-]+/gu, ' ').trim() || 'sheets';
    return archive ? ok({ bytes: archive.bytes, name: `${name}, feedback sheets.zip` }) : notFound('print');
  },
});
