import { and, desc, eq, inArray, isNull } from 'drizzle-orm';
import { z } from 'zod';
import { id } from '@/core/base/id';
import { notFound, ok, type Result } from '@/core/base/result';
import type { Instant } from '@/core/base/time';
import { type Agreement, agreement, differTooMuch } from '@/core/marking/agreement';
import type { Db } from '@/db/client';
import { mark, membership, secondMarking, user } from '@/db/schema';
import { command, query } from '../house/useCase';
import { toCourse } from '../people/toCourse';
import { toSitting } from '../sitting/toSitting';
import { answerWords } from './answerBodies';
import { changedMeanwhile, commentInput, judgementRefused, pointsInput, slotsToMark, writeMarks } from './giveMark';
import { handSlots, isInShare, type SecondMarkingRule, secondMarksOf, staffOf } from './secondMarking';

/** An answer with both marks. */
export type MarkedTwice = {
  slotId: string;
  questionName: string;
  text: string;
  outOf: number;
  revision: number;
  markId: number;
  first: { by: string; points: number; comment: string };
  second: { by: string; points: number; comment: string };
  /** What was settled, by whom and when; null where it has not been, or need not be. */
  settled: { points: number; by: string; at: Instant; comment: string } | null;
};

export type SecondMarkingPage = {
  sittingTitle: string;
  rule: SecondMarkingRule | null;
  staff: { userId: string; name: string }[];
  /** Answers by hand of the sitting, those in the share, and those that both have marked. */
  answers: number;
  inShare: number;
  questions: { questionId: string; name: string; agreement: Agreement }[];
  whole: Agreement;
  /** Differences above the threshold: those not yet settled first, then the others, the last settled first. */
  differences: MarkedTwice[];
  timeZone: string;
};

/** How far first and second marker agree over a sitting, and which differences are to be settled. */
export const secondMarkingOf = query({
  admits: toSitting('marking.change'),
  does({ db, courseId, sittingId, timeZone, sitting: row }): Result<SecondMarkingPage> {
    if (row.anonymous) return notFound('sitting with names');
    const rule =
      db
        .select({ markerId: secondMarking.markerId, share: secondMarking.share, threshold: secondMarking.threshold })
        .from(secondMarking)
        .where(eq(secondMarking.sittingId, sittingId))
        .get() ?? null;
    const slots = handSlots(db, sittingId);
    const names = new Map(
      db
        .select({ id: user.id, name: user.name })
        .from(user)
        .innerJoin(membership, eq(membership.userId, user.id))
        .where(eq(membership.courseId, courseId))
        .all()
        .map((one) => [one.id, one.name]),
    );
    const seconds = secondMarksOf(
      db,
      slots.map((one) => one.slotId),
    );
    const firsts = firstMarks(db, [...seconds.keys()]);
    const twice = slots.flatMap((slot) => {
      const [first, second] = [firsts.get(slot.slotId), seconds.get(slot.slotId)];
      if (!first || !second || first.markerId === second.markerId || second.responseRevision !== slot.revision)
        return [];
      return [{ slot, first, second }];
    });
    const threshold = rule?.threshold ?? 0;
    const apart = twice.filter(({ first, second }) => differTooMuch(first.points, second.points, threshold));
    const words = answerWords(
      db,
      apart.map(({ slot }) => slot),
    );
    const pairs = (some: typeof twice) => some.map(({ first, second }) => [first.points, second.points] as const);
    const decided = settledMarks(
      db,
      apart.flatMap(({ slot }) => (slot.kind === 'settled' && slot.markId !== null ? slot.markId : [])),
    );
    const settledAs = (one: typeof mark.$inferSelect | undefined) =>
      one ? { points: one.points, by: names.get(one.markerId ?? '') ?? '', at: one.at, comment: one.comment } : null;
    return ok({
      timeZone,
      sittingTitle: row.title,
      rule,
      staff: staffOf(db, courseId),
      answers: slots.length,
      inShare: rule ? slots.filter((one) => isInShare(one.slotId, sittingId, rule.share)).length : 0,
      questions: [...new Map(slots.map((one) => [one.questionId, one.name]))].map(([questionId, name]) => ({
        questionId,
        name,
        agreement: agreement(pairs(twice.filter(({ slot }) => slot.questionId === questionId))),
      })),
      whole: agreement(pairs(twice)),
      differences: apart
        .map(({ slot, first, second }): MarkedTwice => {
          const said = ({
            markerId,
            points,
            comment,
          }: {
            markerId: string | null;
            points: number;
            comment: string;
          }) => ({
            by: names.get(markerId ?? '') ?? '',
            points,
            comment,
          });
          return {
            slotId: slot.slotId,
            questionName: slot.name,
            text: words.get(slot.slotId) ?? '',
            outOf: slot.outOf,
            revision: slot.revision,
            markId: slot.markId ?? 0,
            first: said(first),
            second: said(second),
            settled: settledAs(decided.get(slot.markId ?? 0)),
          };
        })
        .sort((a, b) => (b.settled?.at ?? Number.POSITIVE_INFINITY) - (a.settled?.at ?? Number.POSITIVE_INFINITY) || 0),
    });
  },
});

/** Marks that were settled, by their ids. */
function settledMarks(db: Db, markIds: readonly number[]) {
  const found = new Map<number, typeof mark.$inferSelect>();
  for (let i = 0; i < markIds.length; i += 500)
    for (const row of db
      .select()
      .from(mark)
      .where(inArray(mark.id, markIds.slice(i, i + 500)))
      .all())
      found.set(row.id, row);
  return found;
}

/** The newest mark by hand of each slot, before any settling. */
function firstMarks(db: Db, slotIds: readonly string[]) {
  const rows = db
    .select()
    .from(mark)
    .where(
      and(
        inArray(mark.slotId, [...slotIds]),
        inArray(mark.kind, ['hand', 'adjusted']),
        eq(mark.outdated, false),
        isNull(mark.takenBackAt),
      ),
    )
    .orderBy(desc(mark.id))
    .all();
  const first = new Map<string, (typeof rows)[number]>();
  for (const row of rows) if (!first.has(row.slotId)) first.set(row.slotId, row);
  return first;
}

const settleInput = z.object({
  points: pointsInput,
  comment: commentInput.default(''),
  revision: z.number().int(),
  before: z.number().int(),
});

/** Settles two marks that differ: what is agreed on counts from now on. */
export const settle = command({
  admits: toCourse('marking.change'),
  takes: [id('slot'), settleInput],
  logs: 'marking.settle',
  does(
    { tx, courseId, record, context },
    slotId,
    { points, comment, revision, before },
  ): Result<{ points: number; markId: number }> {
    const row = slotsToMark(tx, courseId, [slotId]).get(slotId);
    if (row?.state !== 'handed-in' || !row.newest || !secondMarksOf(tx, [slotId]).has(slotId))
      return notFound('answer');
    const wrong =
      judgementRefused(tx, row, { points, comment, rubric: {}, notes: [] }) ??
      changedMeanwhile(row, { revision, before });
    if (wrong) return wrong;
    const given = {
      points,
      comment: comment || row.newest.comment,
      notes: row.newest.notes ?? [],
      kind: 'settled' as const,
      reason: 'settled between two markers',
    };
    const markId = writeMarks(tx, context, [{ row, given }]).get(slotId) as number;
    record({ subjectId: slotId, detail: { from: row.newest.points, to: points } });
    return ok({ points, markId });
  },
});
