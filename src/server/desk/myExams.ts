import { asc, eq, inArray } from 'drizzle-orm';
import { id } from '@/core/base/id';
import { notFound, ok, type Result } from '@/core/base/result';
import type { Rich } from '@/core/base/rich';
import type { Instant } from '@/core/base/time';
import { designCount, designPoints, type ExamPurpose, usualPurpose } from '@/core/exam/design';
import { planSaid } from '@/core/release/planSaid';
import {
  attemptsLeft,
  clockFor,
  closesFor,
  dueFor,
  limitFor,
  type MayStart,
  opensFor,
  soFarOf,
} from '@/core/sitting/clock';
import { attemptCountingNames, type SittingRules } from '@/core/sitting/rules';
import { furtherSaid } from '@/core/sitting/rulesSaid';
import { startSaid } from '@/core/sitting/startSaid';
import { attempt, course } from '@/db/schema';
import { codeFor } from '../attempt/entry';
import { asThemselves } from '../house/asThemselves';
import type { Context } from '../house/context';
import { query } from '../house/useCase';
import { schoolInstructions } from '../people/schoolInstructions';
import { planOf, rulesOf, type SittingRow, type StudentSitting, sittingsFor } from '../records/audience';
import { pinnedDesign } from '../records/pinnedDesign';
import { type MyResult, myResults } from '../release/myResults';

export type MyExam = {
  sittingId: string;
  title: string;
  courseName: string;
  timeZone: string;
  group: 'now' | 'coming' | 'done';
  opens: Instant | null;
  due: Instant | null;
  closes: Instant | null;
  hasOpened: boolean;
  isClosed: boolean;
  points: number;
  questions: number;
  /** The student's own time limit in milliseconds, extra time included. */
  limit: number | null;
  extraTime: boolean;
  /** Whether a started attempt gets its full time past the closing. */
  fullTime: boolean;
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
  /** When the running attempt ends. */
  deadline: Instant | null;
  lastAttemptId: string | null;
  /** False where the last attempt was not handed in in time, and does not count. */
  lastCounts: boolean;
  /** Why it cannot be started, in words; null when it can, or runs. */
  refusal: string | null;
  /** The first moment at which it can start, where that lies ahead. */
  startsAt: Instant | null;
  resultPublished: boolean;
};

type OwnAttempt = Pick<typeof attempt.$inferSelect, 'id' | 'sittingId' | 'state' | 'startedAt' | 'endedAt' | 'added'>;

/**
 * Everything a student has to do or has done, with why something cannot be started.
 *
 * @param results what they may see of results, where that has been looked up already
 */
export function myExams(context: Context, results: readonly MyResult[] = myResults(context)): MyExam[] {
  const given = sittingsFor(context.db, context.actor.userId);
  if (given.length === 0) return [];
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
  const attempts = context.db
    .select({
      id: attempt.id,
      sittingId: attempt.sittingId,
      state: attempt.state,
      startedAt: attempt.startedAt,
      endedAt: attempt.endedAt,
      added: attempt.added,
    })
    .from(attempt)
    .where(eq(attempt.userId, context.actor.userId))
    .orderBy(asc(attempt.number))
    .all();
  const published = new Set(results.map((result) => result.sittingId));
  return given
    .map((one) => {
      const own = attempts.filter((row) => row.sittingId === one.sitting.id && row.state !== 'voided');
      const design = pinnedDesign(context.db, one.sitting.revisionId);
      return describe(
        one,
        own,
        {
          courseName: names.get(one.sitting.courseId) ?? '',
          points: designPoints(design),
          questions: designCount(design),
          resultPublished: published.has(one.sitting.id),
        },
        context.now,
      );
    })
    .sort((a, b) => (a.opens ?? 0) - (b.opens ?? 0));
}

function describe(
  { sitting: row, arrangement, timeZone }: StudentSitting,
  own: OwnAttempt[],
  known: Pick<MyExam, 'courseName' | 'points' | 'questions' | 'resultPublished'>,
  now: Instant,
): MyExam {
  const rules = rulesOf(row);
  const running = own.find((one) => one.state === 'running');
  const { start, running: clock } = clockFor(rules, timeZone, arrangement, soFarOf(own), now);
  const closes = closesFor(rules, arrangement);
  const limit = limitFor(rules, arrangement);
  return {
    ...known,
    sittingId: row.id,
    title: row.title,
    timeZone,
    group: running || start.may ? 'now' : isComing(start, now) ? 'coming' : 'done',
    opens: opensFor(rules, arrangement),
    due: dueFor(rules, arrangement),
    closes,
    hasOpened: (opensFor(rules, arrangement) ?? now) <= now,
    isClosed: closes !== null && now >= closes,
    limit,
    extraTime: limit !== rules.timeLimit,
    fullTime: rules.fullTimeOnceStarted,
    attemptsUsed: own.length,
    attemptsAllowed:
      rules.attemptsAllowed === null ? null : own.length + (attemptsLeft(rules, arrangement, own.length) ?? 0),
    countsSentence: attemptCountingNames[rules.attemptCounts],
    further: furtherSaid({ ...rules, closes, timeLimit: limit }),
    afterwards: afterwardsSaid(row, rules, timeZone),
    needsCode: codeFor({ rules, arrangement }) !== '',
    runningAttemptId: running?.id ?? null,
    deadline: clock?.deadline ?? null,
    lastAttemptId: own.filter((one) => one.state !== 'running').at(-1)?.id ?? null,
    lastCounts: own.filter((one) => one.state !== 'running').at(-1)?.state !== 'not-handed-in',
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
  return [...learning, 'What you see afterwards:', ...planSaid(planOf(row), zone, false)].join(' ');
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
