import { eq, inArray } from 'drizzle-orm';
import { z } from 'zod';
import { parse } from '@/core/base/parse';
import { notFound, ok, type Result } from '@/core/base/result';
import { groupSimilar, leastSimilar } from '@/core/marking/similar';
import { typesMarkedByHand } from '@/core/question/types';
import { mark, paperSlot, response } from '@/db/schema';
import { record } from '../house/audit';
import { type Context, newId } from '../house/context';
import { answerWords } from './answerBodies';
import { type AnswerHead, answersToMark, type QuestionToMark } from './answersToMark';
import {
  changedMeanwhile,
  judgementInput,
  judgementRefused,
  type SlotToMark,
  slotsToMark,
  writeMarks,
} from './giveMark';
import { markableSittings } from './markingQueue';
import { newestMark } from './newestMarks';

/** One answer of a group. */
export type GroupedAnswer = {
  slotId: string;
  number: number;
  text: string;
  /** How like the wording that stands for the group, in [0, 1]. */
  similarity: number;
  points: number | null;
  markId: number | null;
  revision: number;
};

export type AnswersTogether = {
  sittingTitle: string;
  question: QuestionToMark;
  /** The points a full answer earns, where they are the same on all papers; else the fewest. */
  outOf: number;
  least: number;
  groups: { text: string; answers: GroupedAnswer[] }[];
};

/** The answers to one question, alike ones together. @param least how alike they have to be, in [0.5, 1] */
export function answersTogether(
  context: Context,
  courseId: string,
  sittingId: string,
  questionId: string,
  least: number,
): Result<AnswersTogether> {
  const page = answersToMark(context, courseId, sittingId, questionId);
  if (!page.ok) return page;
  const asked = Number.isFinite(least) ? Math.min(1, Math.max(leastSimilar, least)) : 1;
  const { heads, questions, sittingTitle } = page.value;
  const ids = heads.map((head) => head.slotId);
  const slots = new Map(
    context.db
      .select({
        id: paperSlot.id,
        versionId: paperSlot.versionId,
        points: paperSlot.points,
        revision: response.revision,
        markId: mark.id,
      })
      .from(paperSlot)
      .leftJoin(response, eq(response.slotId, paperSlot.id))
      .leftJoin(mark, newestMark)
      .where(inArray(paperSlot.id, ids))
      .all()
      .map((row) => [row.id, row]),
  );
  const words = answerWords(
    context.db,
    ids.map((slotId) => ({ slotId, versionId: slots.get(slotId)?.versionId ?? '' })),
  );
  const byId = new Map(heads.map((head) => [head.slotId, head]));
  const groups = groupSimilar(
    ids.map((id) => ({ id, text: words.get(id) ?? '' })),
    asked,
  );
  return ok({
    sittingTitle,
    question: questions[0] as QuestionToMark,
    outOf: Math.min(...[...slots.values()].map((slot) => slot.points)),
    least: asked,
    groups: groups.map(({ text, members }) => ({
      text,
      answers: members.map(({ id, similarity }) => {
        const head = byId.get(id) as AnswerHead;
        const slot = slots.get(id);
        return {
          slotId: id,
          number: head.number,
          text: words.get(id) ?? '',
          similarity,
          points: head.points,
          markId: slot?.markId ?? null,
          revision: slot?.revision ?? 0,
        };
      }),
    })),
  });
}

const groupInput = judgementInput.omit({ notes: true }).extend({
  answers: z
    .array(z.object({ slotId: z.string().max(60), revision: z.number().int(), before: z.number().int().nullable() }))
    .min(1, 'Choose at least one answer.')
    .max(5_000, 'At most 5,000 answers at once.'),
});

/**
 * Gives the same mark to several answers of a sitting in one act, all or none. Each gets a mark of its own and can be
 * marked again by itself; all of them can be taken back at once.
 */
export function markGroup(
  context: Context,
  courseId: string,
  input: unknown,
): Result<{ marked: number; points: number; batch: string; markIds: Record<string, number> }> {
  const mine = markableSittings(context, courseId);
  if (!mine.ok) return mine;
  const parsed = parse(groupInput, input);
  if (!parsed.ok) return parsed;
  const { answers, ...judgement } = parsed.value;
  const batch = newId();
  type Marked = { marked: number; points: number; batch: string; markIds: Record<string, number> };
  return context.db.transaction(
    (tx): Result<Marked> => {
      const rows = slotsToMark(
        tx,
        courseId,
        answers.map((one) => one.slotId),
      );
      const found: SlotToMark[] = [];
      // All are looked at before the first is marked: one that cannot be keeps every other from it.
      for (const { slotId, ...seen } of answers) {
        const row = rows.get(slotId);
        if (row?.state !== 'handed-in' || !typesMarkedByHand.includes(row.type)) return notFound('answer');
        if (mine.value && !mine.value.has(row.sittingId)) return notFound('answer');
        const wrong = judgementRefused(tx, row, { ...judgement, notes: [] }) ?? changedMeanwhile(row, seen);
        if (wrong) return wrong;
        found.push(row);
      }
      const markIds = writeMarks(
        tx,
        context,
        found.map((row) => ({ row, given: { ...judgement, kind: 'hand' as const, batch } })),
      );
      record(tx, context, {
        action: 'marking.group',
        courseId,
        subjectId: batch,
        detail: { answers: answers.length, points: judgement.points },
      });
      return ok({ marked: found.length, points: judgement.points, batch, markIds: Object.fromEntries(markIds) });
    },
    { behavior: 'immediate' },
  );
}
