import { and, asc, desc, eq, isNull, ne, sql } from 'drizzle-orm';
import { receiptCode } from '@/core/attempt/receiptCode';
import { longestRuler, type Stroke } from '@/core/attempt/strokes';
import { type StrokesInShort, strokesInShort } from '@/core/attempt/strokesInShort';
import { notFound, ok, type Result } from '@/core/base/result';
import type { Instant } from '@/core/base/time';
import { designPoints, type ExamPurpose } from '@/core/exam/design';
import { type SittingResult, sittingResult } from '@/core/marking/sittingResult';
import { readResponse } from '@/core/question/student';
import type { Db, Tx } from '@/db/client';
import { attempt, mark, paperSlot, publication, question, response, sitting } from '@/db/schema';
import { pinnedDesign } from '../exam/pinnedDesign';
import { documentOf, type ShownDocument } from '../exam/shownDocument';
import type { Context } from '../house/context';
import { type AttemptInSitting, newestMark, scoredAttempts } from '../marking/newestMarks';
import { admit } from '../people/permission';
import { audienceOf, phaseOf, type SittingPhase, type SittingRow, sittingOf } from '../sitting/audience';

/** What was published last and stands, not withdrawn. */
export type Published = { id: number; earned: number; possible: number; publishedAt: Instant };

export type ResultRow = {
  userId: string;
  /** Null for those who may not see names. */
  name: string;
  section: string | null;
  state: 'not-started' | 'running' | 'handed-in' | 'excused';
  attempts: number;
  result: SittingResult | null;
  published: Published | null;
  /** Whether what stands published differs from the result as it is now. */
  changed: boolean;
  minutes: number | null;
  /** The code on the student's receipt of the attempt that counts. */
  receipt: string | null;
  /** The paper as a ruler, in short; empty where it is too long to be drawn, or nothing has been handed in. */
  strokes: StrokesInShort;
  /** The same in numbers; null where nothing has been handed in. */
  paper: PaperInNumbers | null;
};

/** What a paper holds, in numbers of questions. */
export type PaperInNumbers = { questions: number; answered: number; right: number; waiting: number };

export type ResultsPage = {
  title: string;
  phase: SittingPhase;
  timeZone: string;
  purpose: ExamPurpose;
  /** The paper of an off-screen exam. */
  document: ShownDocument | null;
  rows: ResultRow[];
};

/** The standing publications of a sitting by student. */
export function standingPublications(db: Db | Tx, sittingId: string): Map<string, Published> {
  const rows = db
    .select()
    .from(publication)
    .where(and(eq(publication.sittingId, sittingId), isNull(publication.withdrawnAt)))
    .orderBy(asc(publication.id))
    .all();
  return new Map(
    rows.map((row) => [
      row.userId,
      { id: row.id, earned: row.earned, possible: row.possible, publishedAt: row.publishedAt },
    ]),
  );
}

type StudentResult = { result: SittingResult; attempts: AttemptInSitting[] };

/**
 * Every student's result of a sitting as the marks stand. Where there is no score of a person, because nothing is scored
 * or nobody may know whose answers are whose, taking part is the result if it counts, and there is none if it does not.
 */
export function resultsOf(db: Db | Tx, row: SittingRow): Map<string, StudentResult> {
  if (!row.scored || row.anonymous) return row.counts === 'taking-part' ? takingPart(db, row) : new Map();
  const byStudent = new Map<string, ReturnType<typeof scoredAttempts>>();
  for (const one of scoredAttempts(db, { sittingId: row.id }))
    byStudent.set(one.userId, [...(byStudent.get(one.userId) ?? []), one]);
  return new Map(
    [...byStudent].flatMap(([userId, attempts]) => {
      const result = sittingResult(attempts, row.attemptCounts);
      return result ? [[userId, { result, attempts }] as const] : [];
    }),
  );
}

/** Full points for everyone who handed in at least one answer. */
function takingPart(db: Db | Tx, row: SittingRow): Map<string, StudentResult> {
  const design = pinnedDesign(db, row.revisionId);
  const possible = design.worth ?? designPoints(design);
  const tookPart = row.anonymous
    ? ne(attempt.endedBy, 'clock')
    : sql`exists (select 1 from response r where r.attempt_id = attempt.id and r.value is not null and r.value <> 'null')`;
  const ended = db
    .select()
    .from(attempt)
    .where(and(eq(attempt.sittingId, row.id), eq(attempt.state, 'handed-in'), tookPart))
    .orderBy(desc(attempt.number))
    .all();
  const score = { earned: possible, possible, marked: possible, waiting: 0 };
  return new Map(
    ended.map((one) => [
      one.userId,
      {
        result: { earned: possible, possible, waiting: 0, ready: true, from: [one.id] },
        attempts: [{ ...one, attemptId: one.id, endedAt: one.endedAt ?? one.startedAt, score }],
      },
    ]),
  );
}

/** Whether a published result says the same as the one that stands now. */
export const differs = (published: { earned: number; possible: number }, result: SittingResult): boolean =>
  Math.abs(published.earned - result.earned) > 1e-9 || Math.abs(published.possible - result.possible) > 1e-9;

/** The results of a sitting, a row for each student it is given to. A guest sees no names. */
export function sittingResults(context: Context, courseId: string, sittingId: string): Result<ResultsPage> {
  const admitted = admit(context, courseId, 'results.see');
  if (!admitted.ok) return admitted;
  const row = sittingOf(context.db, courseId, sittingId);
  if (!row) return notFound('sitting');
  const withNames = admitted.value.role === 'instructor';
  const results = resultsOf(context.db, row);
  const publications = standingPublications(context.db, sittingId);
  const attempts = context.db
    .select()
    .from(attempt)
    .where(and(eq(attempt.sittingId, sittingId), ne(attempt.state, 'voided')))
    .orderBy(asc(attempt.number))
    .all();
  const handedIn = new Map<string, typeof attempts>();
  for (const one of attempts)
    if (one.state === 'handed-in') handedIn.set(one.userId, [...(handedIn.get(one.userId) ?? []), one]);
  const running = new Set(attempts.filter((one) => one.state === 'running').map((one) => one.userId));
  const strokes = strokesOf(context.db, row);
  const rows = audienceOf(context.db, row).map((student, i): ResultRow => {
    const found = results.get(student.userId);
    const published = publications.get(student.userId) ?? null;
    const own = handedIn.get(student.userId) ?? [];
    const counted = own.find((one) => one.id === found?.result.from[0]) ?? own.at(-1);
    return {
      userId: withNames ? student.userId : '',
      name: withNames ? student.name : `Student ${i + 1}`,
      section: student.section,
      state: student.arrangement.excused
        ? 'excused'
        : running.has(student.userId)
          ? 'running'
          : own.length
            ? 'handed-in'
            : 'not-started',
      attempts: own.length,
      result: found?.result ?? null,
      published,
      changed: published !== null && found !== undefined && differs(published, found.result),
      minutes: counted?.endedAt ? Math.round((counted.endedAt - counted.startedAt) / 60_000) : null,
      receipt: counted?.seed ? receiptCode(counted.seed) : null,
      ...paperOf(counted ? strokes.get(counted.id) : undefined),
    };
  });
  const { scored, counts, anonymous } = row;
  return ok({
    title: row.title,
    phase: phaseOf(row, context.now),
    timeZone: admitted.value.timeZone,
    purpose: { scored, counts, anonymous },
    document: documentOf(row.examId, pinnedDesign(context.db, row.revisionId)),
    rows,
  });
}

function paperOf(strokes: Stroke[] | undefined): Pick<ResultRow, 'strokes' | 'paper'> {
  if (!strokes) return { strokes: [], paper: null };
  const count = (is: (stroke: Stroke) => boolean | undefined) => strokes.filter(is).length;
  return {
    strokes: strokes.length > longestRuler ? [] : strokesInShort(strokes),
    paper: {
      questions: strokes.length,
      answered: count((stroke) => stroke.answered),
      right: count((stroke) => stroke.outcome === 'right'),
      waiting: count((stroke) => stroke.awaitsMark),
    },
  };
}

/** The paper of every handed-in attempt of a sitting as strokes of its ruler. */
function strokesOf(db: Db, { id: sittingId, scored }: SittingRow): Map<string, Stroke[]> {
  const rows = db
    .select({
      attemptId: paperSlot.attemptId,
      position: paperSlot.position,
      partTitle: paperSlot.partTitle,
      outOf: paperSlot.points,
      type: question.type,
      value: response.value,
      points: mark.points,
    })
    .from(paperSlot)
    .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
    .innerJoin(question, eq(question.id, paperSlot.questionId))
    .leftJoin(response, eq(response.slotId, paperSlot.id))
    .leftJoin(mark, newestMark)
    .where(and(eq(attempt.sittingId, sittingId), eq(attempt.state, 'handed-in')))
    .orderBy(asc(paperSlot.attemptId), asc(paperSlot.position))
    .all();
  const strokes = new Map<string, Stroke[]>();
  for (const row of rows) {
    const answered = Boolean(readResponse(row.type, row.value));
    const outcome =
      row.points === null ? undefined : row.points >= row.outOf ? 'right' : row.points > 0 ? 'partly' : 'wrong';
    const stroke: Stroke = {
      number: row.position + 1,
      partTitle: row.partTitle,
      answered,
      awaitsMark: scored && row.points === null,
      ...(outcome && answered ? { outcome } : {}),
    };
    const own = strokes.get(row.attemptId);
    if (own) own.push(stroke);
    else strokes.set(row.attemptId, [stroke]);
  }
  return strokes;
}

/** All publications of a course's gradebook sittings that stand, newest last. */
export function coursePublications(db: Db, courseId: string) {
  return db
    .select({
      sittingId: publication.sittingId,
      userId: publication.userId,
      earned: publication.earned,
      possible: publication.possible,
      publishedAt: publication.publishedAt,
      id: publication.id,
    })
    .from(publication)
    .innerJoin(sitting, eq(sitting.id, publication.sittingId))
    .where(and(eq(sitting.courseId, courseId), isNull(publication.withdrawnAt)))
    .orderBy(desc(publication.id))
    .all();
}
