import { and, asc, eq, inArray, isNull } from 'drizzle-orm';
import { asidesWaitingSaid, type Standing, standingOf } from '@/core/attempt/standing';
import { id } from '@/core/base/id';
import { notFound, ok, type Result } from '@/core/base/result';
import type { Rich } from '@/core/base/rich';
import { type Instant, momentText } from '@/core/base/time';
import { designCount, designPoints, type ExamPurpose, usualPurpose } from '@/core/exam/design';
import { questionTimesSaid } from '@/core/exam/questionTimes';
import { planForStudent } from '@/core/release/planForStudent';
import { attemptsLeft, clockFor, type MayStart, soFarOf } from '@/core/sitting/clock';
import { type ClockState, type OwnTimes, ownTimes } from '@/core/sitting/myClock';
import { attemptCountingNames, type SittingRules } from '@/core/sitting/rules';
import { furtherSaid } from '@/core/sitting/rulesSaid';
import { startSaid } from '@/core/sitting/startSaid';
import type { Db } from '@/db/client';
import { attempt, attemptEvent, course, doorCode, round, sitting } from '@/db/schema';
import { codeFor } from '../attempt/entry';
import { asThemselves } from '../house/asThemselves';
import type { Context } from '../house/context';
import { query } from '../house/useCase';
import { schoolInstructions } from '../people/schoolInstructions';
import { planOf, rulesOf, type SittingRow, type StudentSitting, sittingsFor } from '../records/audience';
import { pinnedDesign } from '../records/pinnedDesign';
import { asidesWaiting } from '../records/waiting';
import { type MyResult, myResults } from '../release/myResults';
import { heldUntil } from '../release/releaseFacts';

export type MyExam = {
  sittingId: string;
  title: string;
  courseName: string;
  timeZone: string;
  group: 'now' | 'coming' | 'done';
  /** Their own times, and what lies between them and an attempt now: what the sentence of their clock is made of. */
  times: OwnTimes;
  clock: ClockState;
  now: Instant;
  points: number;
  questions: number;
  attemptsUsed: number;
  attemptsAllowed: number | null;
  countsSentence: string;
  /** The further rules that hold, a sentence each. */
  further: string[];
  /** What they will see afterwards, and when. */
  afterwards: string;
  /** Whether an entry code has to be typed to start. */
  needsCode: boolean;
  runningAttemptId: string | null;
  /** How the attempt that runs stands, or the last one; null before the first. */
  attempt: { id: string; standing: Standing; aside: string } | null;
  /** What a time of each question's own there is, in words; empty where there is none. */
  questionTimes: string;
  /** Why it cannot be started, in words; null when it can, or runs. */
  refusal: string | null;
  /** The first moment at which it can start, where that lies ahead. */
  startsAt: Instant | null;
  resultPublished: boolean;
  /** Of a round that is open, the door code by which one comes in; null for every other exam. */
  door: string | null;
};

type OwnAttempt = Pick<
  typeof attempt.$inferSelect,
  'id' | 'sittingId' | 'state' | 'startedAt' | 'endedAt' | 'endedBy' | 'added'
>;

/**
 * Everything a student has to do or has done, with why something cannot be started.
 *
 * @param results what they may see of results, where that has been looked up already
 */
export function myExams(context: Context, results: readonly MyResult[] = myResults(context)): MyExam[] {
  const all = sittingsFor(context.db, context.actor.userId);
  if (all.length === 0) return [];
  const doors = openDoors(context, all);
  const attempts = context.db
    .select({
      id: attempt.id,
      sittingId: attempt.sittingId,
      state: attempt.state,
      startedAt: attempt.startedAt,
      endedAt: attempt.endedAt,
      endedBy: attempt.endedBy,
      added: attempt.added,
    })
    .from(attempt)
    .where(eq(attempt.userId, context.actor.userId))
    .orderBy(asc(attempt.number))
    .all();
  const taken = new Set(attempts.map((one) => one.sittingId));
  // A round is nothing that somebody who was not there has missed, or can still take.
  const given = all.filter(({ sitting: row }) => !row.isRound || taken.has(row.id) || doors.has(row.id));
  const names = new Map(
    context.db
      .select({ id: course.id, name: course.name })
      .from(course)
      .where(
        inArray(
          course.id,
          given.map((one) => one.sitting.courseId),
        ),
      )
      .all()
      .map((row) => [row.id, row.name]),
  );
  const published = new Set(results.map((result) => result.sittingId));
  const asides = asidesWaiting(context.db, { userId: context.actor.userId });
  const reopened = reopenedOf(
    context.db,
    attempts.filter((one) => one.state === 'running').map((one) => one.id),
  );
  return given
    .map((one) => {
      const own = attempts.filter((row) => row.sittingId === one.sitting.id);
      const design = pinnedDesign(context.db, one.sitting.revisionId);
      return describe(
        one,
        own,
        {
          courseName: names.get(one.sitting.courseId) ?? '',
          points: designPoints(design),
          questions: designCount(design),
          resultPublished: published.has(one.sitting.id),
          questionTimes: questionTimesSaid(
            design,
            rulesOf(one.sitting).minutesPerQuestion,
            one.arrangement.extraPercent,
          ),
          held: heldSaid(context, one),
          door: doors.get(one.sitting.id) ?? null,
        },
        { asides, reopened },
        context.now,
      );
    })
    .sort((a, b) => (a.times.opens ?? 0) - (b.times.opens ?? 0));
}

/** The doors of the rounds that are open and can be come into by name, by round. */
function openDoors({ db }: Context, given: readonly StudentSitting[]): Map<string, string> {
  const open = given.flatMap(({ sitting: row }) => (row.isRound && row.closes === null ? [row.id] : []));
  if (open.length === 0) return new Map();
  const rows = db
    .select({ id: sitting.id, rules: round.rules, door: doorCode.code })
    .from(sitting)
    .innerJoin(round, eq(round.sittingId, sitting.id))
    .innerJoin(doorCode, and(eq(doorCode.courseId, sitting.courseId), isNull(doorCode.until)))
    .where(inArray(sitting.id, open))
    .all();
  return new Map(rows.filter(({ rules }) => rules.comingIn !== 'nameless').map(({ id, door }) => [id, door]));
}

/** Which of some attempts have been opened again. */
const reopenedOf = (db: Db, attemptIds: readonly string[]): Set<string> =>
  new Set(
    attemptIds.length === 0
      ? []
      : db
          .select({ id: attemptEvent.attemptId })
          .from(attemptEvent)
          .where(and(inArray(attemptEvent.attemptId, [...attemptIds]), eq(attemptEvent.kind, 'reopened')))
          .all()
          .map((row) => row.id),
  );

/** That something of what is promised is held back, and until when; empty where nothing is. */
function heldSaid({ db, now }: Context, { sitting: row, timeZone }: StudentSitting): string {
  const until = heldUntil(db, row, now);
  if (until === null) return '';
  const when = Number.isFinite(until) ? `until ${momentText(until, timeZone)}` : 'for now';
  return `Some of it is held back ${when}, because others may still be writing the same questions.`;
}

function describe(
  { sitting: row, arrangement, timeZone }: StudentSitting,
  own: OwnAttempt[],
  {
    held,
    ...known
  }: Pick<MyExam, 'courseName' | 'points' | 'questions' | 'resultPublished' | 'questionTimes' | 'door'> & {
    held: string;
  },
  { asides, reopened }: { asides: ReadonlyMap<string, number>; reopened: ReadonlySet<string> },
  now: Instant,
): MyExam {
  const rules = rulesOf(row);
  const running = own.find((one) => one.state === 'running');
  const soFar = soFarOf(own);
  const { start, running: clock } = clockFor(rules, timeZone, arrangement, soFar, now);
  const times = ownTimes(rules, arrangement);
  const last = running ?? own.at(-1);
  const group = running || start.may ? 'now' : isComing(start, now) ? 'coming' : 'done';
  return {
    ...known,
    sittingId: row.id,
    title: row.title,
    timeZone,
    group,
    times,
    clock: clock
      ? { kind: 'running', deadline: clock.deadline, handInUntil: clock.handInUntil }
      : group === 'now'
        ? { kind: 'may-start' }
        : group === 'coming'
          ? { kind: 'not-yet', at: start.may ? null : start.at }
          : { kind: 'over' },
    now,
    attemptsUsed: soFar.used,
    attemptsAllowed:
      rules.attemptsAllowed === null ? null : soFar.used + (attemptsLeft(rules, arrangement, soFar.used) ?? 0),
    countsSentence: attemptCountingNames[rules.attemptCounts],
    further: furtherSaid({ ...rules, closes: times.closes, timeLimit: times.limit }, 'student'),
    afterwards: [afterwardsSaid(row, rules, timeZone), held].filter(Boolean).join(' '),
    needsCode: codeFor({ rules, arrangement }) !== '',
    runningAttemptId: running?.id ?? null,
    attempt: last
      ? {
          id: last.id,
          standing: standingOf(
            {
              ...last,
              deadline: last === running ? (clock?.deadline ?? null) : null,
              handInUntil: last === running ? (clock?.handInUntil ?? null) : null,
              reopened: reopened.has(last.id),
            },
            now,
          ),
          aside: asidesWaitingSaid(own.reduce((sum, one) => sum + (asides.get(one.id) ?? 0), 0)),
        }
      : null,
    refusal: running || start.may ? null : startSaid(start, timeZone, now),
    startsAt: !running && !start.may && start.at !== null && start.at > now ? start.at : null,
  };
}

/** Whether what keeps it from being started passes by itself, or by the instructor's word. */
const isComing = (start: Extract<MayStart, { may: false }>, now: Instant): boolean =>
  start.why === 'not-let-through' || (start.why !== 'no-time-left' && start.at !== null && start.at > now);

/** What a student will see afterwards, and when. */
function afterwardsSaid(row: SittingRow, rules: SittingRules, zone: string): string {
  if (!row.scored) return 'It is not scored.';
  if (row.anonymous) return 'Nobody can see whose answers are whose, so that there is no score.';
  const learning = rules.learning === 'as-they-go' ? ['You learn question by question how you did.'] : [];
  return [...learning, ...planForStudent(planOf(row), zone, false)].join(' ');
}

export type BeforeStart = MyExam & { instructions: Rich; schoolInstructions: Rich; purpose: ExamPurpose };

/** What stands on the page before an attempt is started: the instructions and the rules, nothing of the paper. */
export const beforeStart = query({
  admits: asThemselves,
  takes: [id('sitting')],
  does({ db, context, actor }, sittingId): Result<BeforeStart> {
    const exam = myExams(context).find((one) => one.sittingId === sittingId);
    const given = exam && sittingsFor(db, actor.userId, sittingId)[0];
    if (!exam || !given) return notFound('exam');
    const design = pinnedDesign(context.db, given.sitting.revisionId);
    return ok({
      ...exam,
      instructions: design.instructions,
      schoolInstructions: schoolInstructions(context.db),
      purpose: design.purpose ?? usualPurpose,
    });
  },
});
