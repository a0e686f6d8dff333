import { and, eq, inArray, isNotNull, isNull, sql } from 'drizzle-orm';
import { ok, type Result } from '@/core/base/result';
import { standsOnPaper } from '@/core/marking/observation';
import type { Db } from '@/db/client';
import { attempt, mark, objective, paperSlot, publication, questionObjective } from '@/db/schema';
import { keptWhile } from '../house/keptWhile';
import { query } from '../house/useCase';
import { toCourse } from '../people/toCourse';
import { newestMark } from '../records/newestMarks';
import { stateStamp } from '../records/stateStamp';
import { columnsOf, studentsOf } from './bookData';

export type ObjectiveResults = {
  objectives: { code: string; wording: string; mean: number | null; asked: number }[];
  rows: {
    userId: string;
    name: string;
    section: string | null;
    /** Percent of the points of each objective's questions; null where none was asked. */
    percents: (number | null)[];
  }[];
};

/**
 * How each student did by objective, over what was published of the gradebook's sittings: the points earned of those of all
 * questions aligned to it, of the attempts that counted.
 */
export const objectiveResults = query({
  admits: toCourse('gradebook.see'),
  does({ db, courseId }): Result<ObjectiveResults> {
    const columns = columnsOf(db, courseId, false).filter((one) => one.kind === 'sitting');
    const students = studentsOf(db, courseId);
    const counted = new Set(
      db
        .select({ attemptIds: publication.attemptIds })
        .from(publication)
        .where(
          and(
            inArray(
              publication.sittingId,
              columns.map((one) => one.id),
            ),
            isNull(publication.withdrawnAt),
            eq(publication.preliminary, false),
          ),
        )
        .all()
        .flatMap((one) => one.attemptIds),
    );
    const slots = keptSums(db, courseId, stateStamp, () =>
      sumsOf(
        db,
        columns.map((one) => one.id),
      ),
    );
    const wordings = new Map<string, string>();
    const sums = new Map<string, { earned: number; possible: number }>();
    for (const slot of slots) {
      if (!counted.has(slot.attemptId) || !standsOnPaper(slot)) continue;
      wordings.set(slot.code, slot.wording);
      for (const key of [`${slot.userId}/${slot.code}`, `/${slot.code}`]) {
        const own = sums.get(key) ?? { earned: 0, possible: 0 };
        own.earned += slot.points;
        own.possible += slot.outOf;
        sums.set(key, own);
      }
    }
    const percent = (key: string) => {
      const own = sums.get(key);
      return own && own.possible > 0 ? (own.earned / own.possible) * 100 : null;
    };
    const codes = [...wordings.keys()].sort((a, b) => a.localeCompare(b, undefined, { numeric: true }));
    return ok({
      objectives: codes.map((code) => ({
        code,
        wording: wordings.get(code) ?? '',
        mean: percent(`/${code}`),
        asked: students.filter(({ userId }) => sums.has(`${userId}/${code}`)).length,
      })),
      rows: students.map(({ userId, name, section }) => ({
        userId,
        name,
        section,
        percents: codes.map((code) => percent(`${userId}/${code}`)),
      })),
    });
  },
});

const keptSums = keptWhile<ReturnType<typeof sumsOf>>();

/** What each paper earned for each objective. A course has tens of thousands of answers: they are added up where they lie. */
function sumsOf(db: Db, sittingIds: readonly string[]) {
  return db
    .select({
      attemptId: attempt.id,
      userId: attempt.userId,
      outOf: sql<number>`sum(${paperSlot.points})`,
      points: sql<number>`sum(${mark.points})`,
      kind: mark.kind,
      unobserved: mark.unobserved,
      code: objective.code,
      wording: objective.wording,
    })
    .from(attempt)
    .innerJoin(paperSlot, eq(paperSlot.attemptId, attempt.id))
    .innerJoin(questionObjective, eq(questionObjective.questionId, paperSlot.questionId))
    .innerJoin(objective, eq(objective.id, questionObjective.objectiveId))
    .innerJoin(mark, newestMark)
    .where(and(inArray(attempt.sittingId, [...sittingIds]), eq(attempt.state, 'handed-in'), isNotNull(mark.points)))
    .groupBy(attempt.id, objective.id, mark.kind, mark.unobserved)
    .all();
}
