import { and, asc, desc, eq, ne, sql } from 'drizzle-orm';
import { longestRuler, type QuestionSign } from '@/core/attempt/paperRuler';
import { receiptCode } from '@/core/attempt/receiptCode';
import { type RulerInShort, rulerInShort } from '@/core/attempt/rulerInShort';
import { nothingWaits, type Waiting } from '@/core/attempt/waiting';
import { grouped } from '@/core/base/grouped';
import { ok, type Result } from '@/core/base/result';
import type { Instant } from '@/core/base/time';
import { designPoints, type ExamPurpose } from '@/core/exam/design';
import { bandTold } from '@/core/gradebook/bands';
import { isDone } from '@/core/gradebook/completion';
import { outcomeOf } from '@/core/marking/outcome';
import { type SittingResult, sittingResult } from '@/core/marking/sittingResult';
import { inNameOrder, type NameOrder } from '@/core/people/names';
import { readResponse } from '@/core/question/student';
import { isLeakTaken, type Leak } from '@/core/release/leakCheck';
import { planSaid, selfPublishSaid } from '@/core/release/planSaid';
import { daysLate } from '@/core/sitting/clock';
import { leakSaid } from '@/core/sitting/preflight';
import type { Db, Tx } from '@/db/client';
import { attempt, mark, paperSlot, question, response } from '@/db/schema';
import { documentOf, type ShownDocument } from '../exam/shownDocument';
import { keptWhile } from '../house/keptWhile';
import { query } from '../house/useCase';
import { nameOrderOf } from '../people/nameOrder';
import {
  phaseOf,
  planOf,
  rulesOf,
  type SittingPhase,
  type SittingRow,
  type Taker,
  takersOf,
} from '../records/audience';
import { bandsFor } from '../records/bandsHeld';
import { withoutNames } from '../records/guestNumbers';
import { type AttemptInSitting, newestMark, scoredAttempts } from '../records/newestMarks';
import { pinnedDesign } from '../records/pinnedDesign';
import { type Published, standingPublications, tellsAnew } from '../records/published';
import { stateStamp } from '../records/stateStamp';
import { waitingInSitting } from '../records/waiting';
import { leaksOfPublishing } from '../sitting/leaksOf';
import { toSitting } from '../sitting/toSitting';
import { writingsNow } from './releaseFacts';

export type ResultRow = {
  userId: string;
  /** Null for those who may not see names. */
  name: string;
  section: string | null;
  /** Whether they have left the course since; not said to those who may not see names. */
  hasLeft: boolean;
  state: 'not-started' | 'running' | 'handed-in' | 'excused';
  attempts: number;
  result: Omit<SittingResult, 'from'> | null;
  /** What stands published. */
  published: (Pick<Published, 'earned' | 'possible' | 'publishedAt'> & { band: string | null }) | null;
  /** Whether what stands published differs from the result as it is now. */
  changed: boolean;
  /** Whether the student sees a score that was not published. */
  preliminary: boolean;
  /** The band of the result as it is now; empty where there is none. */
  band: string;
  /** Whether the student is done with the sitting; null where it does not say when. */
  done: boolean | null;
  /** The number of the attempt that counts; null where several do, or none. */
  counts: number | null;
  minutes: number | null;
  /** By how many started days after their due the latest of what counts was handed in; 0 in time. */
  daysLate: number;
  /** The code on the student's receipt of the attempt that counts. */
  receipt: string | null;
  /** The paper as a ruler, in short; empty where it is too long to be drawn, or nothing has been handed in. */
  signs: RulerInShort;
  /** The same in numbers; null where nothing has been handed in. */
  paper: PaperInNumbers | null;
};

/** What a paper holds, in numbers of questions. */
type PaperInNumbers = { questions: number; answered: number; right: number; waiting: number };

export type ResultsPage = {
  title: string;
  phase: SittingPhase;
  timeZone: string;
  purpose: ExamPurpose;
  /** The paper of an off-screen exam. */
  document: ShownDocument | null;
  /** What students see, and when. */
  planSaid: string[];
  /** How results publish themselves; empty where an instructor publishes. */
  selfSaid: string;
  /** What publishing now would give away to those who may still be writing, in words. */
  leaks: string[];
  /** Those that somebody has taken on already, so that nothing of it is held back. */
  leaksTaken: string[];
  /** What waits for a decision before results should be published, and whose answers those are. */
  waiting: Waiting;
  waitingNames: string[];
  rows: ResultRow[];
  /** How the rows are sorted; null where they have no names. */
  order: NameOrder | null;
};

/** A paper as it stands in a row. */
type Paper = Pick<ResultRow, 'signs' | 'paper'>;
const noPaper: Paper = { signs: [], paper: null };

/** A sitting of hundreds has tens of thousands of answers, and its results are looked at again and again. */
const keptResults = keptWhile<Map<string, StudentResult>>();
const keptPapers = keptWhile<Map<string, Paper>>();

type StudentResult = { result: SittingResult; attempts: AttemptInSitting[] };

/**
 * Every student's result of a sitting as the marks stand. Where there is no score of a person, because nothing is scored
 * or nobody may know whose answers are whose, taking part is the result if it counts, and there is none if it does not.
 */
export function resultsOf(db: Db | Tx, row: SittingRow, userId?: string): Map<string, StudentResult> {
  if (!row.scored || row.anonymous) return row.counts === 'taking-part' ? takingPart(db, row) : new Map();
  const byStudent = grouped(scoredAttempts(db, { sittingId: row.id, userId }), (one) => one.userId);
  return new Map(
    [...byStudent].flatMap(([userId, attempts]) => {
      const result = sittingResult(attempts, row.attemptCounts);
      return result ? [[userId, { result, attempts }] as const] : [];
    }),
  );
}

/** {@link resultsOf} everyone, kept for as long as nothing moves them. */
export const resultsNow = (db: Db, row: SittingRow): Map<string, StudentResult> =>
  keptResults(db, row.id, stateStamp, () => resultsOf(db, row));

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
        result: { earned: possible, possible, marked: possible, waiting: 0, ready: true, from: [one.id] },
        attempts: [{ ...one, attemptId: one.id, endedAt: one.endedAt ?? one.startedAt, score }],
      },
    ]),
  );
}

const keptFacts = keptWhile<ReturnType<typeof factsOf>>();

/** What stands in the rows of a sitting besides results and papers. */
function factsOf(db: Db, row: SittingRow) {
  const publications = standingPublications(db, row.id);
  const shownEarly = standingPublications(db, row.id, { preliminary: true });
  const attempts = db
    .select()
    .from(attempt)
    .where(and(eq(attempt.sittingId, row.id), ne(attempt.state, 'voided')))
    .orderBy(asc(attempt.number))
    .all();
  const handedIn = new Map<string, typeof attempts>();
  for (const one of attempts)
    if (one.state === 'handed-in') handedIn.set(one.userId, [...(handedIn.get(one.userId) ?? []), one]);
  const running = new Set(attempts.filter((one) => one.state === 'running').map((one) => one.userId));
  return { publications, shownEarly, handedIn, running, takers: takersOf(db, row) };
}

const named = (student: Taker) => ({ student, name: student.name, section: student.section });

/** The results of a sitting, a row for each student it is given to or who took it. A guest sees no names. */
export const sittingResults = query({
  admits: toSitting('results.see'),
  does({ sittingId, role, timeZone, sitting: row, context }): Result<ResultsPage> {
    const withNames = role === 'instructor';
    const results = resultsNow(context.db, row);
    const papers = keptPapers(context.db, sittingId, stateStamp, () => papersOf(context.db, row));
    const { publications, shownEarly, handedIn, running, takers } = keptFacts(context.db, sittingId, stateStamp, () =>
      factsOf(context.db, row),
    );
    const held = bandsFor(context.db, row);
    const rules = rulesOf(row);
    const shown = withNames
      ? inNameOrder(takers, nameOrderOf(context)).map(named)
      : withoutNames(context.db, sittingId, takers);
    const rows = shown.map(({ student, name, section }): ResultRow => {
      const found = results.get(student.userId);
      const published = publications.get(student.userId) ?? null;
      const own = handedIn.get(student.userId) ?? [];
      const rests = own.filter((one) => found?.result.from.includes(one.id));
      const counted = own.find((one) => one.id === found?.result.from[0]) ?? own.at(-1);
      return {
        userId: withNames ? student.userId : '',
        name,
        section,
        hasLeft: withNames && student.hasLeft,
        state: student.arrangement.excused
          ? 'excused'
          : running.has(student.userId)
            ? 'running'
            : own.length
              ? 'handed-in'
              : 'not-started',
        attempts: own.length,
        result: found ? shownOf(found.result) : null,
        published: published && {
          earned: published.earned,
          possible: published.possible,
          band: published.told?.band?.label ?? null,
          publishedAt: published.publishedAt,
        },
        changed: published !== null && found !== undefined && tellsAnew(published, found.result, held),
        preliminary: published === null && shownEarly.has(student.userId),
        band: found?.result.ready ? (bandTold(held, found.result).band?.label ?? '') : '',
        done: isDone(row.completion, published),
        counts:
          found?.result.from.length === 1 ? (own.find((one) => one.id === found.result.from[0])?.number ?? null) : null,
        daysLate: Math.max(
          0,
          ...rests.map((one) => daysLate(rules, student.arrangement, one.endedAt ?? one.startedAt)),
        ),
        minutes: counted?.endedAt ? Math.round((counted.endedAt - counted.startedAt) / 60_000) : null,
        receipt: withNames && counted?.seed ? receiptCode(counted.seed) : null,
        ...((counted && papers.get(counted.id)) ?? noPaper),
      };
    });
    const { scored, counts, anonymous } = row;
    const waiting = withNames ? waitingInSitting(context.db, sittingId) : nothingWaits;
    return ok({
      title: row.title,
      phase: phaseOf(row, context.now),
      timeZone: timeZone,
      purpose: { scored, counts, anonymous },
      document: documentOf(row.examId, pinnedDesign(context.db, row.revisionId)),
      planSaid: planSaid(planOf(row), timeZone, false),
      selfSaid: row.selfPublish && row.selfPublish.kind !== 'no' ? selfPublishSaid(row.selfPublish, timeZone) : '',
      ...leaksTold(withNames ? context.db : null, row, context.now, timeZone),
      waiting,
      waitingNames: takers.flatMap((one) => (waiting.asidesOf.includes(one.userId) ? one.name : [])),
      rows,
      order: withNames ? nameOrderOf(context) : null,
    });
  },
});

/** What publishing would give away: what whoever publishes has to take on, and what somebody has taken on already. */
function leaksTold(
  db: Db | null,
  row: SittingRow,
  now: Instant,
  zone: string,
): Pick<ResultsPage, 'leaks' | 'leaksTaken'> {
  const found = db ? leaksOfPublishing(db, row, now, () => writingsNow(db, row, now)) : [];
  const taken = row.acknowledged ?? [];
  const by = (leak: Leak) =>
    isLeakTaken(
      taken.flatMap((one) => one.leak ?? []),
      leak,
    )
      ? (taken.findLast((one) => one.leak?.sittingId === leak.sittingId)?.name ?? null)
      : null;
  const told = found.map((leak) => ({ leak, name: by(leak) }));
  return {
    leaks: told.flatMap(({ leak, name }) => (name === null ? leakSaid(leak, zone) : [])),
    leaksTaken: told.flatMap(({ leak, name }) => (name === null ? [] : leakSaid(leak, zone, name))),
  };
}

function paperOf(signs: readonly QuestionSign[]): Paper {
  const count = (is: (sign: QuestionSign) => boolean | undefined) => signs.filter(is).length;
  return {
    signs: signs.length > longestRuler ? [] : rulerInShort(signs),
    paper: {
      questions: signs.length,
      answered: count((sign) => sign.answered),
      right: count((sign) => sign.outcome === 'right'),
      waiting: count((sign) => sign.awaitsMark),
    },
  };
}

/** A result as a page of hundreds shows it, without the attempts it rests on. */
const shownOf = ({ from: _, ...result }: SittingResult): Omit<SittingResult, 'from'> => result;

/** The paper of every handed-in attempt of a sitting. */
function papersOf(db: Db, { id: sittingId, scored }: SittingRow): Map<string, Paper> {
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
  const signs = new Map<string, QuestionSign[]>();
  for (const row of rows) {
    const answered = Boolean(readResponse(row.type, row.value));
    const outcome = row.points === null ? undefined : outcomeOf(row.points, row.outOf);
    const sign: QuestionSign = {
      number: row.position + 1,
      partTitle: row.partTitle,
      answered,
      awaitsMark: scored && row.points === null,
      ...(outcome && answered ? { outcome } : {}),
    };
    const own = signs.get(row.attemptId);
    if (own) own.push(sign);
    else signs.set(row.attemptId, [sign]);
  }
  return new Map([...signs].map(([attemptId, own]) => [attemptId, paperOf(own)]));
}
