import { eq } from 'drizzle-orm';
import type { Standing, StandingAnswers } from '@/core/attempt/standing';
import { type Instant, momentText } from '@/core/base/time';
import { closesFor, opensFor } from '@/core/sitting/clock';
import { myClock, ownTimes } from '@/core/sitting/myClock';
import type { Arrangement } from '@/core/sitting/rules';
import type { Tx } from '@/db/client';
import { course, user } from '@/db/schema';
import type { Context } from '../house/context';
import { type Message, send } from '../house/outbox';
import { type AudienceMember, audienceOf, type RunningAttempt, rulesOf, type SittingRow } from '../records/audience';

type Where = { courseId: string; courseName: string; timeZone: string };

/** When one student may write, in sentences: their own times, with everything that is arranged for them. */
function windowSaid(row: SittingRow, arrangement: Arrangement, zone: string): string {
  // A message is read at another time than it is written: nothing in it is reckoned from now.
  const { window, now } = myClock(ownTimes(rulesOf(row), arrangement), { kind: 'not-yet', at: null }, zone, null);
  return `${window} ${now} All times are those of ${zone}.`;
}

const subjectOf = (row: SittingRow, { arrangement }: AudienceMember, zone: string): string => {
  const opens = opensFor(rulesOf(row), arrangement);
  return opens === null ? `${row.title} is open` : `${row.title}: ${momentText(opens, zone)}`;
};

type Told = Pick<Message, 'subject' | 'body'>;

const to = ({ userId, email }: AudienceMember): Pick<Message, 'userId' | 'email'> => ({ userId, email });

/** Tells students of a sitting, each in their own words; who is excused from it is not told. @returns how many were told */
function tellAll(
  tx: Tx,
  context: Context,
  courseId: string,
  audience: readonly AudienceMember[],
  says: (student: AudienceMember) => Told,
): number {
  const told = audience.filter((student) => !student.arrangement.excused);
  return send(
    tx,
    context,
    courseId,
    told.map((student) => ({ ...to(student), ...says(student) })),
  );
}

/** Tells everyone a sitting is given to that it is scheduled, and when. */
export function tellScheduled(
  tx: Tx,
  context: Context,
  { row, audience, courseId, courseName, timeZone }: Where & { row: SittingRow; audience: readonly AudienceMember[] },
): void {
  tellAll(tx, context, courseId, audience, (student) => ({
    subject: subjectOf(row, student, timeZone),
    body: `${row.title} in ${courseName}. ${windowSaid(row, student.arrangement, timeZone)} You will find it under My exams.`,
  }));
}

/** Tells everyone whose times differ now that a scheduled sitting has moved. */
export function tellMoved(
  tx: Tx,
  context: Context,
  { before, after, courseId, courseName, timeZone }: Where & { before: SittingRow; after: SittingRow },
): void {
  if (isOverBy(after, context.now)) return;
  const moved = audienceOf(tx, after).filter(({ arrangement }) => {
    const said = (row: SittingRow) => windowSaid(row, arrangement, timeZone);
    return said(before) !== said(after);
  });
  tellAll(tx, context, courseId, moved, (student) => ({
    subject: `Moved: ${subjectOf(after, student, timeZone)}`,
    body: `The times of ${after.title} in ${courseName} have changed. ${windowSaid(after, student.arrangement, timeZone)}`,
  }));
}

const isOverBy = (row: SittingRow, now: Instant): boolean => row.closes !== null && row.closes <= now;

/** Tells everyone a sitting was given to that it does not take place. @returns how many were told */
export function tellCalledOff(
  tx: Tx,
  context: Context,
  {
    row,
    audience,
    courseId,
    courseName,
  }: Omit<Where, 'timeZone'> & { row: SittingRow; audience: readonly AudienceMember[] },
): number {
  return tellAll(tx, context, courseId, audience, () => ({
    subject: `Called off: ${row.title}`,
    body: `${row.title} in ${courseName} does not take place as it was announced. If it is given at another time, you are told.`,
  }));
}

/** Tells one student what is arranged for them differs now. */
export function tellArranged(
  tx: Tx,
  context: Context,
  { row, student, courseId, courseName, timeZone }: Where & { row: SittingRow; student: AudienceMember },
): void {
  if (isOverBy(row, context.now) && closesFor(rulesOf(row), student.arrangement) === row.closes) return;
  send(tx, context, courseId, [
    {
      ...to(student),
      subject: `${row.title}: arranged for you`,
      body: student.arrangement.excused
        ? `You are excused from ${row.title} in ${courseName}.`
        : `For you, these are the times of ${row.title} in ${courseName}. ${windowSaid(row, student.arrangement, timeZone)}`,
    },
  ]);
}

/** Sends a student the receipt of their hand-in. */
export function tellHandedIn(
  tx: Tx,
  context: Context,
  row: SittingRow,
  { answers, code, standing }: { answers: StandingAnswers | null; code: string; standing: Standing },
): void {
  const found = tx
    .select({ email: user.email, zone: course.timeZone, courseName: course.name })
    .from(user)
    .innerJoin(course, eq(course.id, row.courseId))
    .where(eq(user.id, context.actor.userId))
    .get();
  if (!found) return;
  send(tx, context, row.courseId, [
    {
      userId: context.actor.userId,
      email: found.email,
      subject: `Handed in: ${row.title}`,
      body: [
        `You handed in ${row.title} in ${found.courseName} on ${momentText(standing.kind === 'handed-in' ? standing.at : context.now, found.zone)} (${found.zone})`,
        answers === null ? '' : `, with ${answers.answered} of ${answers.questions} questions answered`,
        code ? `. The code of your receipt is ${code}.` : '.',
        row.nextTask ? ` What comes next: ${row.nextTask}` : '',
      ].join(''),
    },
  ]);
}

/** Tells a student what has become of an attempt of theirs by somebody else's doing. */
export function tellAboutAttempt(
  tx: Tx,
  context: Context,
  { attempt, sitting: row }: Pick<RunningAttempt, 'attempt' | 'sitting'>,
  { subject, says }: { subject: string; says: string },
): void {
  const found = tx
    .select({ email: user.email, courseName: course.name })
    .from(user)
    .innerJoin(course, eq(course.id, row.courseId))
    .where(eq(user.id, attempt.userId))
    .get();
  if (!found) return;
  const body = `${row.title} in ${found.courseName} ${says}. You find it under My exams.`;
  send(tx, context, row.courseId, [{ userId: attempt.userId, email: found.email, subject, body }]);
}
