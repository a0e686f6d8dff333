import { and, asc, eq } from 'drizzle-orm';
import { grouped } from '@/core/base/grouped';
import { ok, type Result } from '@/core/base/result';
import { type ExamDesign, linesOf } from '@/core/exam/design';
import { type AnswerTally, tallyAnswers } from '@/core/marking/answerTally';
import type { QuestionContent } from '@/core/question/content';
import { stemLine } from '@/core/question/content';
import { responseText } from '@/core/question/score';
import type { QuestionType } from '@/core/question/types';
import { overForEveryone } from '@/core/sitting/clock';
import { anonymousAnswer, attempt, paperSlot, question, response } from '@/db/schema';
import { documentOf, type ShownDocument } from '../exam/shownDocument';
import type { Context } from '../house/context';
import { keptWhile } from '../house/keptWhile';
import { query } from '../house/useCase';
import { rulesOf, type SittingRow } from '../records/audience';
import { frozenContents } from '../records/paperContent';
import { pinnedDesign } from '../records/pinnedDesign';
import { stateStamp } from '../records/stateStamp';
import { standingsOf } from '../sitting/standings';
import { toSitting } from '../sitting/toSitting';

/**
 * From how many hand-ins, and answers to a question, on the answers of an anonymous sitting are shown: fewer could tell
 * whose they are. They are shown once it is over for everyone: of two looks with one hand-in between them, which the room
 * names, the difference would be that person's answers.
 */
export const fewestShown = 5;

type TalliedQuestion = AnswerTally & { questionId: string; name: string; type: QuestionType; partTitle: string };

export type AnswersPage = {
  title: string;
  /** The paper of an off-screen exam. */
  document: ShownDocument | null;
  anonymous: boolean;
  /** How many have handed in answers. */
  sheets: number;
  /** Null while they could tell whose they are, in an anonymous sitting. */
  questions: TalliedQuestion[] | null;
  /** Why they are not shown. */
  held: 'not-over' | 'too-few' | null;
  /** How many questions too few have answered, which are left out. */
  leftOut: number;
};

/**
 * What was answered to each question of a sitting, and how often, from handed-in attempts. Answers stand in the order of
 * their number and then of the alphabet, never in the order in which they came.
 */
export const sittingAnswers = query({
  admits: toSitting('results.see'),
  does({ sittingId, sitting: row, timeZone, context }): Result<AnswersPage> {
    const { sheets, questions } = kept(context.db, sittingId, stateStamp, () => tallied(context, row));
    const design = pinnedDesign(context.db, row.revisionId);
    const page = { title: row.title, document: documentOf(row.examId, design), anonymous: row.anonymous, sheets };
    if (!row.anonymous) return ok({ ...page, questions, held: null, leftOut: 0 });
    const over = overForEveryone(rulesOf(row), timeZone, standingsOf(context.db, row), context.now);
    const held = over === null || over > context.now ? 'not-over' : sheets < fewestShown ? 'too-few' : null;
    const enough = questions.filter((one) => one.asked >= fewestShown);
    return ok({ ...page, questions: held ? null : enough, held, leftOut: held ? 0 : questions.length - enough.length });
  },
});

const kept = keptWhile<{ sheets: number; questions: TalliedQuestion[] }>();

/** Every question with what was answered to it, in the order of the plan. */
function tallied(context: Context, row: SittingRow): { sheets: number; questions: TalliedQuestion[] } {
  const given = row.anonymous ? anonymousAnswers(context, row.id) : namedAnswers(context, row.id);
  const contents = frozenContents(context.db, [...new Set(given.map((one) => one.versionId))]);
  const questions = inPlanOrder(
    grouped(given, (one) => one.questionId),
    pinnedDesign(context.db, row.revisionId),
  ).map(([questionId, own]): TalliedQuestion => {
    const last = own[own.length - 1] as (typeof own)[number];
    const content = contents.get(last.versionId) as QuestionContent;
    return {
      questionId,
      name: last.shortName || stemLine(content),
      type: content.type,
      partTitle: last.partTitle,
      ...tallyAnswers(
        own.map((one) => responseText(contents.get(one.versionId) as QuestionContent, one.presentation, one.value)),
      ),
    };
  });
  return { sheets: new Set(given.map((one) => one.sheet)).size, questions };
}

/** Fixed questions in the order of their lines, drawn ones behind them. */
function inPlanOrder<Given>(byQuestion: ReadonlyMap<string, Given>, design: ExamDesign): [string, Given][] {
  const place = new Map(linesOf(design).map(({ line }, i) => [line.kind === 'fixed' ? line.questionId : line.id, i]));
  const at = (id: string) => place.get(id) ?? place.size;
  return [...byQuestion].sort(([a], [b]) => at(a) - at(b));
}

function anonymousAnswers(context: Context, sittingId: string) {
  return context.db
    .select({
      sheet: anonymousAnswer.sheet,
      questionId: anonymousAnswer.questionId,
      versionId: anonymousAnswer.versionId,
      partTitle: anonymousAnswer.partTitle,
      presentation: anonymousAnswer.presentation,
      value: anonymousAnswer.value,
      shortName: question.shortName,
    })
    .from(anonymousAnswer)
    .innerJoin(question, eq(question.id, anonymousAnswer.questionId))
    .where(eq(anonymousAnswer.sittingId, sittingId))
    .orderBy(asc(anonymousAnswer.partTitle), asc(question.createdAt), asc(anonymousAnswer.questionId))
    .all();
}

function namedAnswers(context: Context, sittingId: string) {
  return context.db
    .select({
      sheet: paperSlot.attemptId,
      questionId: paperSlot.questionId,
      versionId: paperSlot.versionId,
      partTitle: paperSlot.partTitle,
      presentation: paperSlot.presentation,
      value: response.value,
      shortName: question.shortName,
    })
    .from(paperSlot)
    .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
    .innerJoin(question, eq(question.id, paperSlot.questionId))
    .leftJoin(response, eq(response.slotId, paperSlot.id))
    .where(and(eq(attempt.sittingId, sittingId), eq(attempt.state, 'handed-in')))
    .orderBy(asc(paperSlot.partTitle), asc(question.createdAt), asc(paperSlot.questionId))
    .all();
}
