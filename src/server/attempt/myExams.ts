import { asc, eq, inArray } from 'drizzle-orm';
import { notFound, ok, type Result } from '@/core/base/result';
import type { Rich } from '@/core/base/rich';
import type { Instant } from '@/core/base/time';
import { designCount, designPoints, type ExamPurpose, usualPurpose } from '@/core/exam/design';
import { attemptsLeft, closesFor, limitFor, mayStart, opensFor } from '@/core/sitting/clock';
import { attemptCountingNames } from '@/core/sitting/rules';
import { attempt, course } from '@/db/schema';
import { pinnedDesign } from '../exam/pinnedDesign';
import type { Context } from '../house/context';
import { myResults } from '../release/myResults';
import { rulesOf, type StudentSitting, sittingsFor } from '../sitting/audience';
import { startRefusal } from './startAttempt';

export type MyExam = {
  sittingId: string;
  title: string;
  courseName: string;
  timeZone: string;
  group: 'now' | 'coming' | 'done';
  opens: Instant | null;
  due: Instant | null;
  closes: Instant | null;
  isClosed: boolean;
  /** The student's own time limit in milliseconds, extra time included. */
  limit: number | null;
  extraTime: boolean;
  attemptsUsed: number;
  attemptsAllowed: number | null;
  countsSentence: string;
  runningAttemptId: string | null;
  lastAttemptId: string | null;
  /** Why it cannot be started, in words; null when it can, or runs. */
  refusal: string | null;
  resultPublished: boolean;
};

type OwnAttempt = { id: string; sittingId: string; state: 'running' | 'handed-in' | 'voided' };

/** Everything a student has to do or has done, with why something cannot be started. */
export function myExams(context: Context): MyExam[] {
  const given = sittingsFor(context.db, context.actor.userId);
  if (given.length === 0) return [];
  const zones = new Map(
    context.db
      .select({ id: course.id, zone: course.timeZone, name: course.name })
      .from(course)
      .where(
        inArray(
          course.id,
          given.map((one) => one.sitting.courseId),
        ),
      )
      .all()
      .map((row) => [row.id, row]),
  );
  const attempts = context.db
    .select({ id: attempt.id, sittingId: attempt.sittingId, state: attempt.state })
    .from(attempt)
    .where(eq(attempt.userId, context.actor.userId))
    .orderBy(asc(attempt.number))
    .all();
  const published = new Set(myResults(context).map((result) => result.sittingId));
  return given
    .map((one) => {
      const own = attempts.filter((row) => row.sittingId === one.sitting.id && row.state !== 'voided');
      const { zone = 'UTC', name = '' } = zones.get(one.sitting.courseId) ?? {};
      return describe(one, own, { zone, name }, published.has(one.sitting.id), context.now);
    })
    .sort((a, b) => (a.opens ?? 0) - (b.opens ?? 0));
}

function describe(
  given: StudentSitting,
  own: OwnAttempt[],
  where: { zone: string; name: string },
  resultPublished: boolean,
  now: Instant,
): MyExam {
  const { sitting: row, arrangement } = given;
  const rules = rulesOf(row);
  const running = own.find((one) => one.state === 'running');
  const may = mayStart(rules, arrangement, { running: Boolean(running), used: own.length }, now);
  const closes = closesFor(rules, arrangement);
  const coming = !may.may && may.why === 'not-open-yet';
  return {
    sittingId: row.id,
    title: row.title,
    courseName: where.name,
    timeZone: where.zone,
    group: running || may.may ? 'now' : coming ? 'coming' : 'done',
    opens: opensFor(rules, arrangement),
    due: row.due,
    closes,
    isClosed: closes !== null && now >= closes,
    limit: limitFor(rules, arrangement),
    extraTime: limitFor(rules, arrangement) !== rules.timeLimit,
    attemptsUsed: own.length,
    attemptsAllowed:
      rules.attemptsAllowed === null ? null : own.length + (attemptsLeft(rules, arrangement, own.length) ?? 0),
    countsSentence: attemptCountingNames[rules.attemptCounts],
    runningAttemptId: running?.id ?? null,
    lastAttemptId: own.filter((one) => one.state === 'handed-in').at(-1)?.id ?? null,
    refusal: running || may.may ? null : startRefusal(may, where.zone),
    resultPublished,
  };
}

export type BeforeStart = MyExam & { instructions: Rich; points: number; questions: number; purpose: ExamPurpose };

/** What stands on the page before an attempt is started: the instructions and the rules, nothing of the paper. */
export function beforeStart(context: Context, sittingId: string): Result<BeforeStart> {
  const exam = myExams(context).find((one) => one.sittingId === sittingId);
  const given = exam && sittingsFor(context.db, context.actor.userId, sittingId)[0];
  if (!exam || !given) return notFound('exam');
  const design = pinnedDesign(context.db, given.sitting.revisionId);
  return ok({
    ...exam,
    instructions: design.instructions,
    points: designPoints(design),
    questions: designCount(design),
    purpose: design.purpose ?? usualPurpose,
  });
}
