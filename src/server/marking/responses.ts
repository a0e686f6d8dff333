import { and, asc, desc, eq } from 'drizzle-orm';
import { z } from 'zod';
import { id } from '@/core/base/id';
import { notFound, ok, type Result } from '@/core/base/result';
import type { Rich } from '@/core/base/rich';
import type { Instant } from '@/core/base/time';
import type { AttemptScore } from '@/core/marking/attemptScore';
import type { MarkKind } from '@/core/marking/marks';
import type { QuestionContent } from '@/core/question/content';
import { stemLine } from '@/core/question/content';
import { definitionOf } from '@/core/question/definitions';
import { responseText, rightResponse } from '@/core/question/score';
import type { QuestionType } from '@/core/question/types';
import { attempt, mark, paperAdjustment, paperSlot, question, response, sitting, user } from '@/db/schema';
import { query } from '../house/useCase';
import { newestMark, scoredAttempts } from '../records/newestMarks';
import { frozenContents } from '../records/paperContent';
import { type ReturnedFile, returnedFiles } from '../records/returnedFiles';
import { onSheet, sheetEvidence } from '../records/sheetEvidence';
import { toSitting } from '../sitting/toSitting';
import { historyOf, type MarkInHistory } from './adjust';

/** One answer to a question, with what it earned. */
export type GivenAnswer = {
  slotId: string;
  userId: string;
  student: string;
  attempt: number;
  text: string;
  /** How many answers say the same. */
  same: number;
  outOf: number;
  /** Null while it waits. */
  points: number | null;
  kind: MarkKind | null;
  markId: number | null;
  revision: number;
};

export type ResponsesPage = {
  sittingTitle: string;
  questionId: string;
  name: string;
  type: QuestionType;
  stem: Rich;
  /** The answer that earns everything, in words; empty where a person judges. */
  right: string;
  /** Whether an answer can be added to its key. */
  mayAccept: boolean;
  answers: GivenAnswer[];
};

/** Every answer to one question of a sitting, with what it earned and how often the same was said. */
export const responsesTo = query({
  admits: toSitting('marking.change'),
  takes: [id('question')],
  does({ context, sittingId, sitting: row }, questionId): Result<ResponsesPage> {
    if (row.anonymous) return notFound('sitting with names');
    const rows = context.db
      .select({
        slot: paperSlot,
        userId: attempt.userId,
        student: user.name,
        attempt: attempt.number,
        value: response.value,
        revision: response.revision,
        newest: mark,
        shortName: question.shortName,
      })
      .from(paperSlot)
      .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
      .innerJoin(user, eq(user.id, attempt.userId))
      .innerJoin(question, eq(question.id, paperSlot.questionId))
      .leftJoin(response, eq(response.slotId, paperSlot.id))
      .leftJoin(mark, newestMark)
      .where(
        and(eq(attempt.sittingId, sittingId), eq(paperSlot.questionId, questionId), eq(attempt.state, 'handed-in')),
      )
      .orderBy(asc(user.name), asc(attempt.number))
      .all();
    const [first] = rows;
    if (!first) return notFound('answers');
    const contents = frozenContents(
      context.db,
      rows.map((one) => one.slot.versionId),
    );
    const content = contents.get(first.slot.versionId) as QuestionContent;
    const texts = rows.map(({ slot, value }) =>
      responseText(contents.get(slot.versionId) as QuestionContent, slot.presentation, value),
    );
    const counts = new Map<string, number>();
    for (const text of texts) counts.set(text, (counts.get(text) ?? 0) + 1);
    const type = definitionOf(content.type);
    return ok({
      sittingTitle: row.title,
      questionId,
      name: first.shortName || stemLine(content),
      type: content.type,
      stem: content.stem,
      right: type.waitsForMark(content)
        ? ''
        : responseText(content, first.slot.presentation, rightResponse(content, first.slot.presentation)),
      mayAccept: type.accepting(content, { text: '', credit: 1 }) !== null,
      answers: rows.map(({ slot, userId, student, attempt: number, revision, newest }, i) => ({
        slotId: slot.id,
        userId,
        student,
        attempt: number,
        text: texts[i] as string,
        same: counts.get(texts[i] as string) as number,
        outOf: slot.points,
        points: newest && newest.kind !== 'left-out' ? newest.points : null,
        kind: newest?.kind ?? null,
        markId: newest?.id ?? null,
        revision: revision ?? 0,
      })),
    });
  },
});

/** One question of a marked paper. */
export type MarkedQuestion = {
  slotId: string;
  questionId: string;
  number: number;
  name: string;
  text: string;
  outOf: number;
  points: number | null;
  kind: MarkKind | null;
  comment: string;
  markId: number | null;
  revision: number;
  history: MarkInHistory[];
  /** Annotated files that go back with it. */
  files: ReturnedFile[];
  /** What of it stands on an answer sheet, of which the piece can be looked at. */
  onSheet: 'answer' | 'points' | null;
};

export type MarkedPaper = {
  sittingTitle: string;
  student: string;
  attemptId: string;
  attempt: number;
  /** Other handed-in attempts of the same student. */
  attempts: number[];
  timeZone: string;
  endedAt: Instant | null;
  score: AttemptScore;
  questions: MarkedQuestion[];
  /** Pages of the answer sheet that was read into the attempt. */
  sheets: { pageId: string; page: number }[];
  /** What was added to or taken from the whole, the latest first. */
  adjustments: { id: number; points: number; reason: string; by: string | null; at: Instant }[];
};

/**
 * A handed-in paper of one student with every mark and its history.
 *
 * @param number of the attempt; the latest where none is named
 */
export const markedPaper = query({
  admits: toSitting('marking.change'),
  takes: [id('user'), z.int().nullable().default(null)],
  does({ db, timeZone, sittingId, sitting: row }, userId, number): Result<MarkedPaper> {
    if (row.anonymous) return notFound('sitting with names');
    const taken = db
      .select({ attempt, student: user.name })
      .from(attempt)
      .innerJoin(user, eq(user.id, attempt.userId))
      .innerJoin(sitting, eq(sitting.id, attempt.sittingId))
      .where(and(eq(attempt.sittingId, sittingId), eq(attempt.userId, userId), eq(attempt.state, 'handed-in')))
      .orderBy(desc(attempt.number))
      .all();
    const one = number === null ? taken[0] : taken.find((other) => other.attempt.number === number);
    if (!one) return notFound('paper that has been handed in');
    const { id: attemptId } = one.attempt;
    const slots = db
      .select({
        slot: paperSlot,
        value: response.value,
        revision: response.revision,
        newest: mark,
        shortName: question.shortName,
      })
      .from(paperSlot)
      .innerJoin(question, eq(question.id, paperSlot.questionId))
      .leftJoin(response, eq(response.slotId, paperSlot.id))
      .leftJoin(mark, newestMark)
      .where(eq(paperSlot.attemptId, attemptId))
      .orderBy(asc(paperSlot.position))
      .all();
    const contents = frozenContents(
      db,
      slots.map(({ slot }) => slot.versionId),
    );
    const history = historyOf(
      db,
      slots.map(({ slot }) => slot.id),
    );
    const files = returnedFiles(
      db,
      slots.map(({ slot }) => slot.id),
    );
    const sheets = sheetEvidence(db, [attemptId]);
    const score = scoredAttempts(db, { sittingId }).find((other) => other.attemptId === attemptId)?.score;
    return ok({
      sittingTitle: row.title,
      student: one.student,
      attemptId,
      attempt: one.attempt.number,
      attempts: taken.map((other) => other.attempt.number).sort((a, b) => a - b),
      timeZone: timeZone,
      endedAt: one.attempt.endedAt,
      score: score ?? { earned: 0, possible: 0, marked: 0, waiting: 0 },
      questions: slots.map(({ slot, value, revision, newest, shortName }) => {
        const content = contents.get(slot.versionId) as QuestionContent;
        return {
          slotId: slot.id,
          questionId: slot.questionId,
          number: slot.position + 1,
          name: shortName || stemLine(content),
          text: responseText(content, slot.presentation, value),
          outOf: slot.points,
          points: newest && newest.kind !== 'left-out' ? newest.points : null,
          kind: newest?.kind ?? null,
          comment: newest?.comment ?? '',
          markId: newest?.id ?? null,
          revision: revision ?? 0,
          history: history.get(slot.id) ?? [],
          files: files.get(slot.id) ?? [],
          onSheet: onSheet(sheets, slot),
        };
      }),
      sheets: (sheets.get(attemptId) ?? []).map(({ pageId, page }) => ({ pageId, page })),
      adjustments: db
        .select({
          id: paperAdjustment.id,
          points: paperAdjustment.points,
          reason: paperAdjustment.reason,
          by: user.name,
          at: paperAdjustment.at,
        })
        .from(paperAdjustment)
        .leftJoin(user, eq(user.id, paperAdjustment.by))
        .where(eq(paperAdjustment.attemptId, attemptId))
        .orderBy(desc(paperAdjustment.id))
        .all(),
    });
  },
});
