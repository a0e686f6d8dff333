import { and, eq, inArray } from 'drizzle-orm';
import { z } from 'zod';
import { id } from '@/core/base/id';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { counted, pointsSaid } from '@/core/base/words';
import { type MarkKind, pointsProblem } from '@/core/marking/marks';
import type { Unobserved } from '@/core/marking/observation';
import type { QuestionContent } from '@/core/question/content';
import { definitionOf, typesMarkedByHand } from '@/core/question/definitions';
import type { Db, Tx } from '@/db/client';
import { attempt, mark, paperSlot, question, response, sitting, user } from '@/db/schema';
import type { Context } from '../house/context';
import { command } from '../house/useCase';
import { newestMark } from '../records/newestMarks';
import { frozenContents } from '../records/paperContent';
import { countUse } from './savedComments';
import { toMarking } from './toMarking';

export const commentInput = z.string().max(10_000, 'At most 10,000 characters.');
export const pointsInput = z
  .number({ message: 'Type the points as a number.' })
  .min(0, 'Points cannot be negative.')
  .max(1_000_000);

export const judgementInput = z.object({
  points: pointsInput,
  comment: commentInput,
  /** The level of each criterion; the points follow from them unless they are typed. */
  rubric: z.record(z.string().max(40), z.string().max(40)).default({}),
  notes: z
    .array(
      z
        .object({
          from: z.number().int().min(0),
          to: z.number().int().min(1).max(200_000),
          text: z
            .string()
            .trim()
            .min(1, 'Write what is to be said on the passage.')
            .max(2_000, 'At most 2,000 characters.'),
        })
        .refine((note) => note.from < note.to, 'A note needs a passage.'),
    )
    .max(200, 'At most 200 notes.')
    .default([]),
});

const markInput = judgementInput.extend({
  /** The response the marker had in front of them. */
  revision: z.number().int(),
  /** The mark this marker saw before, null if none: another's mark in between is not overwritten unseen. */
  before: z.number().int().nullable(),
  /** Kept comments that went into it. */
  used: z.array(id('comment')).max(20).default([]),
});

/** A statement takes so many rows without meeting the limit of bound values. */
const writtenAtOnce = 1_000;

type Judgement = z.output<typeof judgementInput>;

/** Slots of a course with their newest marks, by id, ready to be marked. */
export function slotsToMark(tx: Db | Tx, courseId: string, slotIds: readonly string[]) {
  const rows = tx
    .select({
      slot: paperSlot,
      sittingId: sitting.id,
      userId: attempt.userId,
      state: attempt.state,
      type: question.type,
      revision: response.revision,
      newest: mark,
      marker: user.name,
    })
    .from(paperSlot)
    .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
    .innerJoin(sitting, eq(sitting.id, attempt.sittingId))
    .innerJoin(question, eq(question.id, paperSlot.questionId))
    .leftJoin(response, eq(response.slotId, paperSlot.id))
    .leftJoin(mark, newestMark)
    .leftJoin(user, eq(user.id, mark.markerId))
    .where(and(inArray(paperSlot.id, [...slotIds]), eq(sitting.courseId, courseId)))
    .all();
  return new Map(rows.map((row) => [row.slot.id, row]));
}

export type SlotToMark = NonNullable<ReturnType<ReturnType<typeof slotsToMark>['get']>>;

/** What speaks against a judgement of an answer: more points than it carries, or levels its rubric does not have. */
export function judgementRefused(tx: Tx, { slot }: SlotToMark, { points, rubric }: Judgement): Result<never> | null {
  const wrong = pointsProblem(points, slot.points);
  if (wrong) return refused('bad-input', wrong, 'points');
  if (Object.keys(rubric).length === 0) return null;
  const content = frozenContents(tx, [slot.versionId]).get(slot.versionId) as QuestionContent;
  const own = definitionOf(content.type).markingAids(content).rubric;
  const known = own?.criteria.every(
    (criterion) => !(criterion.id in rubric) || criterion.levels.some((level) => level.id === rubric[criterion.id]),
  );
  const named = new Set(own?.criteria.map((criterion) => criterion.id));
  if (!own || !known || Object.keys(rubric).some((one) => !named.has(one)))
    return refused('conflict', 'The rubric has changed since you opened the page. Open it anew.', 'rubric');
  return null;
}

/** Whether a mark or an answer has come in between since the marker looked. */
export function changedMeanwhile(
  { revision, newest, marker }: SlotToMark,
  seen: { revision: number; before: number | null },
): Result<never> | null {
  if (seen.revision !== (revision ?? 0))
    return refused('conflict', 'The answer has changed since you opened it. Open the page anew.');
  if ((newest?.id ?? null) !== seen.before)
    return refused(
      'conflict',
      newest
        ? `${marker ?? 'A rule'} has given this answer ${pointsSaid(newest.points)} meanwhile. Open the page anew to see it.`
        : 'The mark you saw has been taken back meanwhile. Open the page anew.',
      'points',
    );
  return null;
}

type GivenMark = Partial<Judgement> & {
  points: number;
  kind: MarkKind;
  reason?: string;
  batch?: string;
  unobserved?: Unobserved | null;
};

/** Writes marks down, one for each slot. @returns their ids by slot */
export function writeMarks(
  tx: Tx,
  context: Context,
  marks: readonly { row: Pick<SlotToMark, 'slot' | 'revision'>; given: GivenMark; versionId?: string }[],
): Map<string, number> {
  const ids = new Map<string, number>();
  for (let i = 0; i < marks.length; i += writtenAtOnce) {
    const written = tx
      .insert(mark)
      .values(
        marks.slice(i, i + writtenAtOnce).map(({ row: { slot, revision }, given, versionId }) => ({
          slotId: slot.id,
          responseRevision: revision ?? 0,
          versionId: versionId ?? slot.versionId,
          kind: given.kind,
          points: given.points,
          comment: given.comment ?? '',
          rubric: given.rubric && Object.keys(given.rubric).length ? given.rubric : null,
          notes: given.notes?.length ? given.notes : null,
          reason: given.reason ?? '',
          unobserved: given.unobserved ?? null,
          batch: given.batch ?? null,
          markerId: context.actor.userId,
          at: context.now,
        })),
      )
      .returning({ id: mark.id, slotId: mark.slotId })
      .all();
    for (const { id, slotId } of written) ids.set(slotId, id);
  }
  return ids;
}

/** Adds a mark to an answer. The newest mark counts; earlier ones stay as history. */
export const giveMark = command({
  admits: toMarking,
  takes: [id('slot'), markInput],
  logs: 'marking.mark',
  does(
    { tx, courseId, mayMark, record, context },
    slotId,
    { revision, before, used, ...judgement },
  ): Result<{ points: number; markId: number }> {
    const row = slotsToMark(tx, courseId, [slotId]).get(slotId);
    if (row?.state !== 'handed-in' || !typesMarkedByHand.includes(row.type)) return notFound('answer');
    if (!mayMark(row.sittingId)) return notFound('answer');
    const wrong = judgementRefused(tx, row, judgement) ?? changedMeanwhile(row, { revision, before });
    if (wrong) return wrong;
    const markId = writeMarks(tx, context, [{ row, given: { ...judgement, kind: 'hand' } }]).get(slotId) as number;
    countUse(tx, courseId, used);
    record({ subjectId: slotId, detail: { points: judgement.points, before: row.newest?.points ?? null } });
    return ok({ points: judgement.points, markId });
  },
});

/** What of an act was taken back, in words. */
export const takenBackSaid = ({
  takenBack,
  later,
  files,
}: {
  takenBack: number;
  later: number;
  files?: number;
}): string =>
  [
    `${counted(takenBack, 'mark')}${files === undefined ? '' : ` and ${counted(files, 'file')}`} taken back`,
    later
      ? `; ${counted(later, 'answer has', 'answers have')} been marked again since and ${later === 1 ? 'keeps' : 'keep'} that`
      : '',
    '.',
  ].join('');

/**
 * Takes back what was marked in one act: its marks stay in the history and no longer count, and what stood before counts
 * again. Answers that were marked again since keep their later mark.
 *
 * @returns how many marks were taken back, and how many have a later one
 */
export const takeBackMarks = command({
  admits: toMarking,
  takes: [z.string().max(40)],
  logs: 'marking.taken-back',
  does({ tx, courseId, mayMark, sittings, record, context }, batch): Result<{ takenBack: number; later: number }> {
    const rows = tx
      .select({
        id: mark.id,
        takenBackAt: mark.takenBackAt,
        markerId: mark.markerId,
        sittingId: sitting.id,
        slotId: mark.slotId,
      })
      .from(mark)
      .innerJoin(paperSlot, eq(paperSlot.id, mark.slotId))
      .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
      .innerJoin(sitting, eq(sitting.id, attempt.sittingId))
      .where(and(eq(mark.batch, batch), eq(sitting.courseId, courseId)))
      .all();
    const own = (sittingId: string, markerId: string | null) =>
      sittings === null || (mayMark(sittingId) && markerId === context.actor.userId);
    if (rows.length === 0 || rows.some((row) => !own(row.sittingId, row.markerId))) return notFound('marks');
    if (rows.every((row) => row.takenBackAt !== null)) return refused('conflict', 'This has been taken back already.');
    const newest = new Set(
      tx
        .select({ id: mark.id })
        .from(paperSlot)
        .innerJoin(mark, newestMark)
        .where(
          inArray(
            paperSlot.id,
            rows.map((row) => row.slotId),
          ),
        )
        .all()
        .map((row) => row.id),
    );
    const stands = rows.filter((row) => newest.has(row.id));
    if (stands.length)
      tx.update(mark)
        .set({ takenBackAt: context.now })
        .where(
          inArray(
            mark.id,
            stands.map((row) => row.id),
          ),
        )
        .run();
    record({ subjectId: batch, detail: { marks: stands.length, later: rows.length - stands.length } });
    return ok({ takenBack: stands.length, later: rows.length - stands.length });
  },
});
