import { and, asc, eq, inArray, lt } from 'drizzle-orm';
import type { Rich } from '@/core/base/rich';
import type { Instant } from '@/core/base/time';
import { choosePartsOf } from '@/core/exam/paperRules';
import type { PassageNote, RubricLevels } from '@/core/marking/marks';
import type { QuestionContent } from '@/core/question/content';
import { definitionOf } from '@/core/question/definitions';
import { responseText } from '@/core/question/score';
import { readResponse } from '@/core/question/student';
import type { QuestionType } from '@/core/question/types';
import type { WrittenText } from '@/core/question/types/written/student';
import type { Db } from '@/db/client';
import { attempt, mark, paperSlot, question, response, user } from '@/db/schema';
import { newestMark } from '../records/newestMarks';
import { frozenContents } from '../records/paperContent';
import { pinnedDesign } from '../records/pinnedDesign';
import { onSheet, sheetEvidence } from '../records/sheetEvidence';

/** An answer as a marker reads it, with what was given to it so far. */
export type AnswerBody = {
  slotId: string;
  text: string;
  /** The same with its form, where the question lets students give it one. */
  rich: Rich | null;
  /** Whose it is, only where it stands on paper: whoever marks it has to find the paper. */
  whose: string | null;
  /** What of it stands on an answer sheet, of which the piece can be looked at. */
  onSheet: 'answer' | 'points' | null;
  /** Files handed in with it. */
  files: { id: string; name: string }[];
  revision: number;
  outOf: number;
  /** The mark this marker sees; null where there is none. */
  markId: number | null;
  points: number | null;
  comment: string;
  rubric: RubricLevels;
  notes: PassageNote[];
  /** In a choose-part: the numbers of the questions that were answered, and how many are asked for. */
  chosen: { answered: number[]; count: number; own: number } | null;
  /** What the student had answered in earlier attempts on the same paper, the latest first. */
  earlier: { attempt: number; text: string; at: Instant | null }[];
};

/** Whether an answer stands on paper, and nothing of it is here. */
export const isOnPaper = (content: QuestionContent | undefined): boolean =>
  content !== undefined && definitionOf(content.type).onPaper(content);

/** The words of answers by slot. */
export function answerWords(db: Db, rows: readonly { slotId: string; versionId: string }[]): Map<string, string> {
  const contents = frozenContents(
    db,
    rows.map((row) => row.versionId),
  );
  const versions = new Map(rows.map((row) => [row.slotId, row.versionId]));
  const stored = db
    .select({ slotId: response.slotId, value: response.value, presentation: paperSlot.presentation })
    .from(response)
    .innerJoin(paperSlot, eq(paperSlot.id, response.slotId))
    .where(inArray(response.slotId, [...versions.keys()]))
    .all();
  return new Map(
    stored.map((row) => [
      row.slotId,
      responseText(contents.get(versions.get(row.slotId) ?? '') as QuestionContent, row.presentation, row.value),
    ]),
  );
}

/** Answers as a marker reads them, in the order asked for. */
export function bodiesOf(db: Db, slotIds: readonly string[]): AnswerBody[] {
  if (slotIds.length === 0) return [];
  const rows = db
    .select({
      slot: paperSlot,
      userId: attempt.userId,
      sittingId: attempt.sittingId,
      number: attempt.number,
      revisionId: attempt.revisionId,
      student: user.name,
      value: response.value,
      revision: response.revision,
      mark,
    })
    .from(paperSlot)
    .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
    .innerJoin(user, eq(user.id, attempt.userId))
    .leftJoin(response, eq(response.slotId, paperSlot.id))
    .leftJoin(mark, newestMark)
    .where(inArray(paperSlot.id, [...slotIds]))
    .all();
  const contents = frozenContents(
    db,
    rows.map((row) => row.slot.versionId),
  );
  const chosen = chosenOf(db, rows);
  const earlier = earlierOf(db, rows);
  const sheets = sheetEvidence(db, [...new Set(rows.map(({ slot }) => slot.attemptId))]);
  const bodies = new Map(
    rows.map(({ slot, student, value, revision, mark: newest }) => {
      const content = contents.get(slot.versionId) as QuestionContent;
      const body: AnswerBody = {
        slotId: slot.id,
        text: responseText(content, slot.presentation, value),
        ...handedIn(content.type, value),
        whose: isOnPaper(content) || (value === null && onSheet(sheets, slot) === 'points') ? student : null,
        onSheet: onSheet(sheets, slot),
        revision: revision ?? 0,
        outOf: slot.points,
        markId: newest?.id ?? null,
        points: newest?.points ?? null,
        comment: newest?.comment ?? '',
        rubric: newest?.rubric ?? {},
        notes: newest?.notes ?? [],
        chosen: chosen.get(slot.id) ?? null,
        earlier: earlier.get(slot.id) ?? [],
      };
      return [slot.id, body] as const;
    }),
  );
  return slotIds.flatMap((id) => bodies.get(id) ?? []);
}

type BodyRow = {
  slot: typeof paperSlot.$inferSelect;
  revisionId: string;
  userId: string;
  sittingId: string;
  number: number;
};

/** Which questions of a choose-part each student has answered. */
function chosenOf(db: Db, rows: readonly BodyRow[]): Map<string, NonNullable<AnswerBody['chosen']>> {
  const counts = new Map(rows.map((row) => [row.revisionId, choosePartsOf(pinnedDesign(db, row.revisionId))]));
  const inChoice = rows.filter((row) => counts.get(row.revisionId)?.has(row.slot.partId));
  if (inChoice.length === 0) return new Map();
  const beside = db
    .select({
      attemptId: paperSlot.attemptId,
      partId: paperSlot.partId,
      position: paperSlot.position,
      type: question.type,
      value: response.value,
    })
    .from(paperSlot)
    .innerJoin(question, eq(question.id, paperSlot.questionId))
    .leftJoin(response, eq(response.slotId, paperSlot.id))
    .where(
      inArray(
        paperSlot.attemptId,
        inChoice.map((row) => row.slot.attemptId),
      ),
    )
    .orderBy(asc(paperSlot.position))
    .all();
  return new Map(
    inChoice.map(({ slot, revisionId }) => [
      slot.id,
      {
        answered: beside
          .filter((one) => one.attemptId === slot.attemptId && one.partId === slot.partId)
          .flatMap((one) => (readResponse(one.type, one.value) ? [one.position + 1] : [])),
        count: counts.get(revisionId)?.get(slot.partId)?.count ?? 0,
        own: slot.position + 1,
      },
    ]),
  );
}

/** What the same students had answered to the same question of the same paper in earlier attempts. */
function earlierOf(db: Db, rows: readonly BodyRow[]): Map<string, AnswerBody['earlier']> {
  const later = rows.filter((row) => row.number > 1);
  if (later.length === 0) return new Map();
  const before = db
    .select({
      slot: paperSlot,
      userId: attempt.userId,
      number: attempt.number,
      value: response.value,
      at: response.savedAt,
    })
    .from(paperSlot)
    .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
    .innerJoin(response, eq(response.slotId, paperSlot.id))
    .where(
      and(
        eq(attempt.sittingId, later[0]?.sittingId ?? ''),
        inArray(attempt.userId, [...new Set(later.map((row) => row.userId))]),
        inArray(paperSlot.versionId, [...new Set(later.map((row) => row.slot.versionId))]),
        lt(attempt.number, Math.max(...later.map((row) => row.number))),
      ),
    )
    .all();
  const contents = frozenContents(
    db,
    before.map((row) => row.slot.versionId),
  );
  return new Map(
    later.map((row) => [
      row.slot.id,
      before
        .filter(
          (one) =>
            one.userId === row.userId &&
            one.number < row.number &&
            one.slot.position === row.slot.position &&
            one.slot.versionId === row.slot.versionId,
        )
        .sort((a, b) => b.number - a.number)
        .map((one) => ({
          attempt: one.number,
          text: responseText(contents.get(one.slot.versionId) as QuestionContent, one.slot.presentation, one.value),
          at: one.at,
        })),
    ]),
  );
}

/** What a written answer holds besides its words. */
function handedIn(type: QuestionType, value: unknown): Pick<AnswerBody, 'rich' | 'files'> {
  const response = readResponse(type, value);
  const given: Pick<WrittenText, 'rich' | 'files'> =
    response && ('rich' in response || 'files' in response) ? response : {};
  return {
    rich: given.rich ?? null,
    files: (given.files ?? []).map(({ id, name }) => ({ id, name })),
  };
}
