import { and, asc, count, desc, eq, inArray, isNull } from 'drizzle-orm';
import { id } from '@/core/base/id';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { richText } from '@/core/base/rich';
import type { Instant } from '@/core/base/time';
import { choiceLabel } from '@/core/question/choiceLabel';
import { type QuestionContent, stemLine } from '@/core/question/content';
import type { Presentation } from '@/core/question/presentation';
import { forStudent } from '@/core/question/student';
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
import { inItsAttempt, toOwnAttempt } from '../attempt/toOwnAttempt';
import { tell } from '../house/bus';
import { newId } from '../house/context';
import { send } from '../house/outbox';
import { command, field, query } from '../house/useCase';
import { toSitting } from '../sitting/toSitting';
import { wordsInput } from './invigilate';

/** More reports on one question than this are no report any more. */
const mostReports = 5;

/** Takes a student's word that something is wrong with a question of their paper, while they write or afterwards. */
export const reportQuestion = command({
  admits: toOwnAttempt,
  takes: [id('slot'), field('text', wordsInput('Say what is wrong.'))],
  unlogged: inItsAttempt,
  does({ tx, now, actor, own: one, attemptId, afterwards }, slotId, text): Result<{ at: Instant }> {
    if (one.attempt.state === 'voided') return notFound('attempt');
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
    const before = tx
      .select({ text: questionReport.text })
      .from(questionReport)
      .where(and(eq(questionReport.slotId, slotId), eq(questionReport.userId, actor.userId)))
      .all();
    if (before.some((report) => report.text === text)) return ok({ at: now });
    if (before.length >= mostReports)
      return refused('conflict', 'You have reported this question several times: your instructor has read it.');
    tx.insert(questionReport)
      .values({
        id: newId(),
        sittingId: one.sitting.id,
        slotId,
        questionId: slot.questionId,
        versionId: slot.versionId,
        userId: actor.userId,
        text,
        at: now,
      })
      .run();
    tx.insert(attemptEvent)
      .values({ attemptId, at: now, kind: 'reported', actorId: actor.userId, detail: { slotId } })
      .run();
    afterwards(() => tell({ sittingId: one.sitting.id, what: 'room', userId: actor.userId }));
    return ok({ at: now });
  },
});

export type ReportedQuestion = {
  versionId: string;
  questionId: string;
  bankId: string;
  name: string;
  stem: string;
  /** How many papers of the sitting hold it. */
  papers: number;
  reports: {
    id: string;
    by: string;
    text: string;
    at: Instant;
    answer: string | null;
    answeredAt: Instant | null;
    /** The choices as they stand on this student's paper, with their letters; empty where there are none. */
    choices: string[];
  }[];
  /** The corrections that stand, the newest last. */
  corrections: { id: string; text: string; at: Instant }[];
};

/** The choices of a question as they stand on one paper, each with its letter. */
function choicesOn(content: QuestionContent, presentation: Presentation): string[] {
  const view = forStudent(content, presentation);
  if (!('choices' in view)) return [];
  const labels = 'labels' in view ? view.labels : undefined;
  return view.choices.map(
    (choice, i) => `${labels === 'none' ? '' : `${choiceLabel(labels, i)} `}${richText(choice.content)}`,
  );
}

/** What students have reported in a sitting, gathered by question: the most reported first. */
export const seeReports = query({
  admits: toSitting('sitting.invigilate'),
  does({ db, sittingId }): Result<ReportedQuestion[]> {
    const reports = db
      .select({ report: questionReport, by: user.name, presentation: paperSlot.presentation })
      .from(questionReport)
      .leftJoin(paperSlot, eq(paperSlot.id, questionReport.slotId))
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
              .map(({ report: { id, text, at, answer, answeredAt }, by, presentation }) => ({
                id,
                by,
                text,
                at,
                answer,
                answeredAt,
                choices: presentation ? choicesOn(content, presentation) : [],
              })),
            corrections: corrections
              .filter((one) => one.versionId === versionId)
              .map(({ id, text, at }) => ({ id, text, at })),
          };
        })
        .sort((a, b) => b.reports.length - a.reports.length),
    );
  },
});

/** A question that stands on papers of a sitting, and was not reported. */
export type QuestionOnPapers = Pick<
  ReportedQuestion,
  'versionId' | 'questionId' | 'bankId' | 'name' | 'stem' | 'papers'
>;

/** Every question that stands on papers of a sitting: any of them can be corrected. */
export const questionsOnPapers = query({
  admits: toSitting('sitting.invigilate'),
  does({ db, sittingId }): Result<QuestionOnPapers[]> {
    const rows = db
      .select({
        versionId: paperSlot.versionId,
        content: questionVersion.content,
        questionId: question.id,
        shortName: question.shortName,
        bankId: question.bankId,
        papers: count(),
      })
      .from(attempt)
      .innerJoin(paperSlot, eq(paperSlot.attemptId, attempt.id))
      .innerJoin(questionVersion, eq(questionVersion.id, paperSlot.versionId))
      .innerJoin(question, eq(question.id, questionVersion.questionId))
      .where(eq(attempt.sittingId, sittingId))
      .groupBy(paperSlot.versionId)
      .all();
    return ok(
      rows
        .map(({ content, shortName, ...row }) => {
          const stem = stemLine(content);
          return { ...row, name: shortName || stem, stem };
        })
        .sort((a, b) => a.name.localeCompare(b.name)),
    );
  },
});

/** Puts a correction on every paper of a sitting that holds a question, also on those that are being written. */
export const correct = command({
  admits: toSitting('sitting.invigilate'),
  takes: [id('version'), field('text', wordsInput('Write what is to be read instead.'))],
  logs: 'sitting.correct',
  does({ tx, sittingId, record, afterwards, context }, versionId, text): Result<{ papers: number }> {
    afterwards(() => tell({ sittingId, what: 'room' }));
    const papers = tx
      .select({ id: paperSlot.id })
      .from(paperSlot)
      .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
      .where(and(eq(attempt.sittingId, sittingId), eq(paperSlot.versionId, versionId)))
      .all().length;
    if (papers === 0) return notFound('question on a paper of this sitting');
    tx.insert(correction)
      .values({ id: newId(), sittingId, versionId, text, at: context.now, by: context.actor.userId })
      .run();
    record({ subjectId: sittingId, detail: { versionId, papers, text } });
    return ok({ papers });
  },
});

/** Takes a correction back from all papers. */
export const withdrawCorrection = command({
  admits: toSitting('sitting.invigilate'),
  takes: [id('correction')],
  logs: 'sitting.correct-back',
  does({ tx, record, afterwards, context, sittingId }, correctionId): Result<null> {
    afterwards(() => tell({ sittingId, what: 'room' }));
    const gone = tx
      .update(correction)
      .set({ withdrawnAt: context.now })
      .where(and(eq(correction.id, correctionId), eq(correction.sittingId, sittingId), isNull(correction.withdrawnAt)))
      .run();
    if (gone.changes === 0) return notFound('correction');
    record({ subjectId: sittingId, detail: { correctionId } });
    return ok(null);
  },
});

/** Answers every open report on a question at once, by message to each who reported it. */
export const answerReports = command({
  admits: toSitting('sitting.invigilate'),
  takes: [id('version'), field('text', wordsInput('Write an answer.'))],
  logs: 'sitting.answer-reports',
  does({ tx, courseId, sittingId, sitting: row, record, context }, versionId, text): Result<{ answered: number }> {
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
      .set({ answer: text, answeredAt: context.now, answeredBy: context.actor.userId })
      .where(open)
      .run().changes;
    send(
      tx,
      context,
      courseId,
      reporters.map((one) => ({ ...one, subject: `${row.title}: the question you reported`, body: text })),
    );
    record({ subjectId: sittingId, detail: { versionId, answered } });
    return ok({ answered });
  },
});
