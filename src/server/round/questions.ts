import { and, asc, eq, sql } from 'drizzle-orm';
import type { Rich } from '@/core/base/rich';
import { linesOf } from '@/core/exam/design';
import type { QuestionContent } from '@/core/question/content';
import type { Presentation } from '@/core/question/presentation';
import { type Given, type Movement, movedBetween, type QuestionBars, questionBars } from '@/core/round/bars';
import type { Db } from '@/db/client';
import { attempt, handset, paperSlot, response, vote } from '@/db/schema';
import { roundPaper } from '../attempt/roundPaper';
import { passageContents } from '../bank/passages';
import type { SittingRow } from '../records/audience';
import { frozenContents } from '../records/paperContent';
import { pinnedDesign } from '../records/pinnedDesign';
import type { RoundRow } from '../records/roundOf';

/** One question of a round, as it is shown to all. */
export type RoundQuestion = {
  questionId: string;
  versionId: string;
  content: QuestionContent;
  presentation: Presentation;
  points: number;
};

/** The passage with which a question stands on the papers of a round; null for none, and while nobody is in. */
export function passageOf(db: Db, sittingId: string, questionId: string): Rich | null {
  const on = db
    .select({ id: paperSlot.passageVersionId })
    .from(attempt)
    .innerJoin(paperSlot, eq(paperSlot.attemptId, attempt.id))
    .where(and(eq(attempt.sittingId, sittingId), eq(paperSlot.questionId, questionId)))
    .limit(1)
    .get();
  return on?.id ? (passageContents(db, [on.id]).get(on.id) ?? null) : null;
}

/**
 * The questions of a round in their order: of a led one those of its paper; else those that stand on anybody's paper, fixed
 * ones as the exam has them and drawn ones behind them.
 */
export function roundQuestions(db: Db, row: SittingRow, held: RoundRow): RoundQuestion[] {
  const slots = roundPaper(db, db, row, held) ?? slotsOnPapers(db, row);
  const contents = frozenContents(
    db,
    slots.map((slot) => slot.versionId),
  );
  return slots.flatMap(({ questionId, versionId, presentation, points }) => {
    const content = contents.get(versionId);
    return content ? [{ questionId, versionId, content, presentation, points }] : [];
  });
}

function slotsOnPapers(db: Db, row: SittingRow) {
  const rows = db
    .select({
      questionId: paperSlot.questionId,
      versionId: paperSlot.versionId,
      presentation: paperSlot.presentation,
      points: paperSlot.points,
      lineId: paperSlot.lineId,
    })
    .from(paperSlot)
    .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
    .where(eq(attempt.sittingId, row.id))
    .groupBy(paperSlot.questionId)
    .orderBy(asc(paperSlot.questionId))
    .all();
  const place = new Map(linesOf(pinnedDesign(db, row.revisionId)).map(({ line }, i) => [line.id, i]));
  return rows.sort((a, b) => (place.get(a.lineId) ?? 0) - (place.get(b.lineId) ?? 0));
}

/** Whose answers are looked at: everybody's who is in, or only those that can count. */
export type Whose = 'all' | 'real';

type AskedRow = {
  attemptId: string;
  slotId: string;
  presentation: Presentation;
  value: unknown;
  first: unknown;
  firstAt: number | null;
  second: unknown;
  secondAt: number | null;
};

/** What each who is in a round entered for one question, in each of its votes. */
export function askedOf(db: Db, sittingId: string, questionId: string, whose: Whose): AskedRow[] {
  const votes = db
    .select({ slotId: vote.slotId, number: vote.number, value: vote.value, savedAt: vote.savedAt })
    .from(vote)
    .innerJoin(paperSlot, eq(paperSlot.id, vote.slotId))
    .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
    .where(and(eq(attempt.sittingId, sittingId), eq(paperSlot.questionId, questionId)))
    .all();
  const byVote = new Map(votes.map((one) => [`${one.slotId}/${one.number}`, one]));
  return db
    .select({
      attemptId: attempt.id,
      slotId: paperSlot.id,
      presentation: paperSlot.presentation,
      value: response.value,
    })
    .from(paperSlot)
    .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
    .leftJoin(response, eq(response.slotId, paperSlot.id))
    .leftJoin(handset, eq(handset.userId, attempt.userId))
    .where(and(eq(attempt.sittingId, sittingId), eq(paperSlot.questionId, questionId), takesPart(whose)))
    .all()
    .map((one) => {
      const [first, second] = [1, 2].map((number) => byVote.get(`${one.slotId}/${number}`));
      return {
        ...one,
        first: first?.value ?? null,
        firstAt: first?.savedAt ?? null,
        second: second?.value ?? null,
        secondAt: second?.savedAt ?? null,
      };
    });
}

/** Who is in: nobody who was sent out, or whose attempt was voided; of the made-up ones as asked. */
export const takesPart = (whose: Whose) =>
  whose === 'real'
    ? and(sql`${attempt.state} <> 'voided'`, sql`coalesce(${handset.madeUp}, 0) = 0`)
    : sql`(${attempt.state} <> 'voided' or (${handset.madeUp} = 1 and ${handset.sentOutAt} is null))`;

/** How a class answered a question in one vote, or in the end where no vote is named. */
export const barsOf = (
  question: RoundQuestion,
  asked: readonly AskedRow[],
  inVote: 1 | 2 | null = null,
): QuestionBars =>
  questionBars(
    question.content,
    question.presentation,
    asked.map(
      (one): Given => ({
        presentation: one.presentation,
        value: inVote === 1 ? one.first : inVote === 2 ? one.second : one.value,
      }),
    ),
  );

/** Who changed from what to what between the votes, in numbers. */
export const movementOf = (question: RoundQuestion, asked: readonly AskedRow[]): Movement =>
  movedBetween(
    question.content,
    asked.map(({ presentation, first, second }) => ({ presentation, first, second })),
  );
