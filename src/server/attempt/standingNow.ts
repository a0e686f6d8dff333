import { and, eq, sql } from 'drizzle-orm';
import { type Aside, type Standing, type StandingAnswers, standingOf } from '@/core/attempt/standing';
import type { Instant } from '@/core/base/time';
import { runningClock } from '@/core/sitting/clock';
import type { Db } from '@/db/client';
import { preparedOnce } from '@/db/preparedOnce';
import { attemptEvent } from '@/db/schema';
import { type RunningAttempt, rulesOf } from '../records/audience';
import { asidesOf } from './asides';
import { questionsNow } from './questionsNow';

const reopenings = preparedOnce((db) =>
  db
    .select({ id: attemptEvent.id })
    .from(attemptEvent)
    .where(and(eq(attemptEvent.attemptId, sql.placeholder('attemptId')), eq(attemptEvent.kind, 'reopened')))
    .limit(1)
    .prepare(),
);

/** How an attempt stands at a moment. */
export function standingNow(db: Db, { attempt: row, sitting, arrangement }: RunningAttempt, now: Instant): Standing {
  const { deadline, handInUntil } = runningClock(rulesOf(sitting), arrangement, row, now);
  const reopened = row.state === 'running' && reopenings(db).get({ attemptId: row.id }) !== undefined;
  return standingOf({ ...row, deadline, handInUntil, reopened }, now);
}

/** How much of a paper is answered; null where nothing is known of a person's answers. */
export function answersOf(db: Db, one: RunningAttempt): StandingAnswers | null {
  if (one.sitting.anonymous) return null;
  const questions = questionsNow(db, one);
  return { answered: questions.filter((question) => question.answered).length, questions: questions.length };
}

/** The answers of an attempt that were kept aside, as its student is told of them. */
export const studentsAsides = (db: Db, one: RunningAttempt): Aside[] =>
  asidesOf(db, one).map(({ number, reason, receivedAt, givenAt, inTime, decision }) => ({
    number,
    reason,
    receivedAt,
    givenAt,
    inTime,
    decision,
  }));
