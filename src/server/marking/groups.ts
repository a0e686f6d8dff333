import { eq, inArray } from 'drizzle-orm';
import { z } from 'zod';
import { id } from '@/core/base/id';
import { notFound, ok, type Result } from '@/core/base/result';
import { counted, pointsSaid } from '@/core/base/words';
import { groupSimilar, leastSimilar } from '@/core/marking/similar';
import { typesMarkedByHand } from '@/core/question/definitions';
import { mark, paperSlot, response } from '@/db/schema';
import { newId } from '../house/context';
import { undoable } from '../house/undoable';
import { command, query } from '../house/useCase';
import { newestMark } from '../records/newestMarks';
import { answerWords } from './answerBodies';
import { type AnswerHead, answersToMark, type QuestionToMark } from './answersToMark';
import {
  changedMeanwhile,
  judgementInput,
  judgementRefused,
  type SlotToMark,
  slotsToMark,
  takeBackMarks,
  takenBackSaid,
  writeMarks,
} from './giveMark';
import { toMarkedSitting, toMarking } from './toMarking';

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
export const answersTogether = query({
  admits: toMarkedSitting,
  takes: [id('question'), z.number()],
  does({ context, courseId, sittingId }, questionId, least): Result<AnswersTogether> {
    const page = answersToMark(context, courseId, sittingId, questionId);
    if (!page.ok) return page;
    const asked = Math.min(1, Math.max(leastSimilar, least));
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
  },
});

/** Several answers were given the same mark in one act. */
export const groupMarked = undoable<{ courseId: string; batch: string }>('marking.group', {
  action: 'marking.mark',
  says: (_kept, { answers, points }) =>
    `${counted(Number(answers), 'answer')} marked together with ${pointsSaid(Number(points))}`,
  apply(_tx, context, { courseId, batch }): Result<string> {
    const taken = takeBackMarks(context, courseId, batch);
    return taken.ok ? ok(takenBackSaid(taken.value)) : taken;
  },
});

const groupInput = judgementInput.omit({ notes: true }).extend({
  answers: z
    .array(z.object({ slotId: id('slot'), revision: z.number().int(), before: z.number().int().nullable() }))
    .min(1, 'Choose at least one answer.')
    .max(5_000, 'At most 5,000 answers at once.'),
});

/**
 * Gives the same mark to several answers of a sitting in one act, all or none. Each gets a mark of its own and can be
 * marked again by itself; all of them can be taken back at once.
 */
export const markGroup = command({
  admits: toMarking,
  takes: [groupInput],
  logs: 'marking.group',
  does(
    { tx, courseId, mayMark, record, context },
    { answers, ...judgement },
  ): Result<{ marked: number; points: number; auditId: number; markIds: Record<string, number> }> {
    const batch = newId();
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
      if (!mayMark(row.sittingId)) return notFound('answer');
      const wrong = judgementRefused(tx, row, { ...judgement, notes: [] }) ?? changedMeanwhile(row, seen);
      if (wrong) return wrong;
      found.push(row);
    }
    const markIds = writeMarks(
      tx,
      context,
      found.map((row) => ({ row, given: { ...judgement, kind: 'hand' as const, batch } })),
    );
    const auditId = record({
      subjectId: batch,
      detail: { answers: answers.length, points: judgement.points },
      undo: groupMarked.of({ courseId, batch }),
      within: found[0]?.sittingId,
    });
    return ok({ marked: found.length, points: judgement.points, auditId, markIds: Object.fromEntries(markIds) });
  },
});
