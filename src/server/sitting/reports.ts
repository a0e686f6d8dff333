import { and, asc, count, desc, eq, inArray, isNull, sql } from 'drizzle-orm';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import type { Instant } from '@/core/base/time';
import { stemLine } from '@/core/question/content';
import {
  attempt,
  attemptEvent,
  correction,
  paperSlot,
  question,
  questionReport,
  questionVersion,
  user,
} from '@/db/schema';
import { record } from '../house/audit';
import { tell } from '../house/bus';
import { type Context, newId } from '../house/context';
import { send } from '../house/outbox';
import { admit } from '../people/permission';
import { attemptWithRules, sittingOf } from './audience';
import { isNobodysAddress } from './tellStudents';

const longestText = 1_000;
/** More reports on one question than this are no report any more. */
const mostReports = 5;

function readText(text: string, ask: string): Result<string> {
  const trimmed = text.trim();
  if (trimmed === '') return refused('bad-input', ask, 'text');
  return trimmed.length > longestText
    ? refused('bad-input', `At most ${longestText} characters.`, 'text')
    : ok(trimmed);
}

/** Takes a student's word that something is wrong with a question of their paper, while they write or afterwards. */
export function reportQuestion(
  context: Context,
  attemptId: string,
  slotId: string,
  word: string,
): Result<{ at: Instant }> {
  const text = readText(word, 'Say what is wrong.');
  if (!text.ok) return text;
  const { db, now, actor } = context;
  const reported = db.transaction(
    (tx): Result<{ sittingId: string }> => {
      const one = attemptWithRules(db, attemptId);
      if (!one || one.attempt.userId !== actor.userId || one.attempt.state === 'voided') return notFound('attempt');
      // Nothing may lead from an anonymous paper to its person.
      if (one.sitting.anonymous)
        return refused(
          'conflict',
          'This exam is anonymous: a report would tell whose paper this is. Tell your invigilator.',
        );
      const slot = tx
        .select()
        .from(paperSlot)
        .where(and(eq(paperSlot.id, slotId), eq(paperSlot.attemptId, attemptId)))
        .get();
      if (!slot) return notFound('question on this paper');
      const own = tx
        .select({ text: questionReport.text })
        .from(questionReport)
        .where(and(eq(questionReport.slotId, slotId), eq(questionReport.userId, actor.userId)))
        .all();
      if (own.some((before) => before.text === text.value)) return ok({ sittingId: one.sitting.id });
      if (own.length >= mostReports)
        return refused('conflict', 'You have reported this question several times: your instructor has read it.');
      tx.insert(questionReport)
        .values({
          id: newId(),
          sittingId: one.sitting.id,
          slotId,
          questionId: slot.questionId,
          versionId: slot.versionId,
          userId: actor.userId,
          text: text.value,
          at: now,
        })
        .run();
      tx.insert(attemptEvent)
        .values({ attemptId, at: now, kind: 'reported', actorId: actor.userId, detail: { slotId } })
        .run();
      return ok({ sittingId: one.sitting.id });
    },
    { behavior: 'immediate' },
  );
  if (!reported.ok) return reported;
  tell({ sittingId: reported.value.sittingId, what: 'room', userId: actor.userId });
  return ok({ at: now });
}

export type ReportedQuestion = {
  versionId: string;
  questionId: string;
  bankId: string;
  name: string;
  stem: string;
  /** How many papers of the sitting hold it. */
  papers: number;
  reports: { id: string; by: string; text: string; at: Instant; answer: string | null; answeredAt: Instant | null }[];
  /** The corrections that stand, the newest last. */
  corrections: { id: string; text: string; at: Instant }[];
};

/** What students have reported in a sitting, gathered by question: the most reported first. */
export function seeReports(context: Context, courseId: string, sittingId: string): Result<ReportedQuestion[]> {
  const admitted = admit(context, courseId, 'sitting.invigilate');
  if (!admitted.ok) return admitted;
  const { db } = context;
  if (!sittingOf(db, courseId, sittingId)) return notFound('sitting');
  const reports = db
    .select({ report: questionReport, by: user.name })
    .from(questionReport)
    .innerJoin(user, eq(user.id, questionReport.userId))
    .where(eq(questionReport.sittingId, sittingId))
    .orderBy(asc(questionReport.at))
    .all();
  const corrections = db
    .select()
    .from(correction)
    .where(and(eq(correction.sittingId, sittingId), isNull(correction.withdrawnAt)))
    .orderBy(asc(correction.at))
    .all();
  const versionIds = [
    ...new Set([...reports.map((one) => one.report.versionId), ...corrections.map((one) => one.versionId)]),
  ];
  const versions = db
    .select({
      id: questionVersion.id,
      content: questionVersion.content,
      questionId: question.id,
      name: question.shortName,
      bankId: question.bankId,
    })
    .from(questionVersion)
    .innerJoin(question, eq(question.id, questionVersion.questionId))
    .where(inArray(questionVersion.id, versionIds))
    .all();
  const papers = new Map(
    db
      .select({ versionId: paperSlot.versionId, n: count() })
      .from(paperSlot)
      .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
      .where(and(eq(attempt.sittingId, sittingId), inArray(paperSlot.versionId, versionIds)))
      .groupBy(paperSlot.versionId)
      .all()
      .map((row) => [row.versionId, row.n]),
  );
  return ok(
    versions
      .map(({ id: versionId, content, questionId, name, bankId }) => {
        const stem = stemLine(content);
        return {
          versionId,
          questionId,
          bankId,
          name: name || stem,
          stem,
          papers: papers.get(versionId) ?? 0,
          reports: reports
            .filter(({ report }) => report.versionId === versionId)
            .map(({ report: { id, text, at, answer, answeredAt }, by }) => ({ id, by, text, at, answer, answeredAt })),
          corrections: corrections
            .filter((one) => one.versionId === versionId)
            .map(({ id, text, at }) => ({ id, text, at })),
        };
      })
      .sort((a, b) => b.reports.length - a.reports.length),
  );
}

/** How many reports of a course wait for an answer, by sitting. */
export const openReports = (context: Context, courseId: string): Map<string, number> =>
  new Map(
    context.db
      .all<{ sittingId: string; n: number }>(sql`
        select r.sitting_id as sittingId, count(*) as n from question_report r join sitting s on s.id = r.sitting_id
        where s.course_id = ${courseId} and r.answered_at is null group by r.sitting_id`)
      .map((row) => [row.sittingId, row.n]),
  );

/** Puts a correction on every paper of a sitting that holds a question, also on those that are being written. */
export function correct(
  context: Context,
  courseId: string,
  sittingId: string,
  versionId: string,
  word: string,
): Result<{ papers: number }> {
  const admitted = admit(context, courseId, 'sitting.invigilate');
  if (!admitted.ok) return admitted;
  const text = readText(word, 'Write what is to be read instead.');
  if (!text.ok) return text;
  const done = context.db.transaction(
    (tx): Result<{ papers: number }> => {
      if (!sittingOf(tx, courseId, sittingId)) return notFound('sitting');
      const papers = tx
        .select({ id: paperSlot.id })
        .from(paperSlot)
        .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
        .where(and(eq(attempt.sittingId, sittingId), eq(paperSlot.versionId, versionId)))
        .all().length;
      if (papers === 0) return notFound('question on a paper of this sitting');
      tx.insert(correction)
        .values({ id: newId(), sittingId, versionId, text: text.value, at: context.now, by: context.actor.userId })
        .run();
      record(tx, context, {
        action: 'sitting.correct',
        courseId,
        subjectId: sittingId,
        detail: { versionId, papers, text: text.value },
      });
      return ok({ papers });
    },
    { behavior: 'immediate' },
  );
  if (done.ok) tell({ sittingId, what: 'room' });
  return done;
}

/** Takes a correction back from all papers. */
export function withdrawCorrection(
  context: Context,
  courseId: string,
  sittingId: string,
  correctionId: string,
): Result<null> {
  const admitted = admit(context, courseId, 'sitting.invigilate');
  if (!admitted.ok) return admitted;
  const done = context.db.transaction(
    (tx): Result<null> => {
      const gone = tx
        .update(correction)
        .set({ withdrawnAt: context.now })
        .where(
          and(eq(correction.id, correctionId), eq(correction.sittingId, sittingId), isNull(correction.withdrawnAt)),
        )
        .run();
      if (!sittingOf(tx, courseId, sittingId) || gone.changes === 0) return notFound('correction');
      record(tx, context, { action: 'sitting.correct-back', courseId, subjectId: sittingId, detail: { correctionId } });
      return ok(null);
    },
    { behavior: 'immediate' },
  );
  if (done.ok) tell({ sittingId, what: 'room' });
  return done;
}

/** Answers every open report on a question at once, by message to each who reported it. */
export function answerReports(
  context: Context,
  courseId: string,
  sittingId: string,
  versionId: string,
  word: string,
): Result<{ answered: number }> {
  const admitted = admit(context, courseId, 'sitting.invigilate');
  if (!admitted.ok) return admitted;
  const text = readText(word, 'Write an answer.');
  if (!text.ok) return text;
  return context.db.transaction(
    (tx): Result<{ answered: number }> => {
      const row = sittingOf(tx, courseId, sittingId);
      if (!row) return notFound('sitting');
      const open = and(
        eq(questionReport.sittingId, sittingId),
        eq(questionReport.versionId, versionId),
        isNull(questionReport.answeredAt),
      );
      const reporters = tx
        .selectDistinct({ userId: user.id, email: user.email })
        .from(questionReport)
        .innerJoin(user, eq(user.id, questionReport.userId))
        .where(open)
        .orderBy(desc(user.id))
        .all();
      if (reporters.length === 0) return refused('conflict', 'Every report on this question has been answered.');
      const answered = tx
        .update(questionReport)
        .set({ answer: text.value, answeredAt: context.now, answeredBy: context.actor.userId })
        .where(open)
        .run().changes;
      send(
        tx,
        context,
        courseId,
        reporters
          .filter((one) => !isNobodysAddress(one.email))
          .map((one) => ({
            ...one,
            subject: `${row.title}: the question you reported`,
            body: text.value,
          })),
      );
      record(tx, context, {
        action: 'sitting.answer-reports',
        courseId,
        subjectId: sittingId,
        detail: { versionId, answered },
      });
      return ok({ answered });
    },
    { behavior: 'immediate' },
  );
}
