import { and, asc, eq, inArray } from 'drizzle-orm';
import { notFound, ok, type Result } from '@/core/base/result';
import { linesOf } from '@/core/exam/design';
import { standsOnPaper } from '@/core/marking/observation';
import type { SittingResult } from '@/core/marking/sittingResult';
import { inNameOrder } from '@/core/people/names';
import { type QuestionContent, stemLine } from '@/core/question/content';
import type { Db } from '@/db/client';
import { attempt, mark, objective, paperSlot, question, questionObjective } from '@/db/schema';
import type { Context } from '../house/context';
import { keptWhile } from '../house/keptWhile';
import { query } from '../house/useCase';
import { nameOrderOf } from '../people/nameOrder';
import { type SittingRow, takersOf } from '../records/audience';
import { withoutNames } from '../records/guestNumbers';
import { newestMark } from '../records/newestMarks';
import { frozenContents } from '../records/paperContent';
import { pinnedDesign } from '../records/pinnedDesign';
import { stateStamp } from '../records/stateStamp';
import { toSitting } from '../sitting/toSitting';
import { resultsNow } from './results';

/** A question of a sitting with how it did. */
type GridQuestion = {
  questionId: string;
  name: string;
  /** How many papers of attempts that count hold it, and how many of those have a mark for it. */
  asked: number;
  marked: number;
  /** Mean credit of the marked ones in percent; null where there is none. */
  mean: number | null;
};

/** The credit of an answer in percent; null where the question is not on the paper. */
export type GridCredit = number | 'waits' | null;

export type GridRow = {
  userId: string;
  name: string;
  section: string | null;
  /** Percent of the points; null where there is no result yet. */
  percent: number | null;
  waiting: number;
  /** For each question its credit. */
  credits: GridCredit[];
};

type GridObjective = { code: string; wording: string; asked: number; mean: number };

export type QuestionGrid = {
  title: string;
  questions: GridQuestion[];
  rows: GridRow[];
  objectives: GridObjective[];
};

/** Of a student without a handed-in attempt there is no row. */
const isHere = <T>(row: T | null): row is T => row !== null;

/**
 * Students × questions of a sitting, with the credit of the attempt that counts: of several that count in the mean, of the
 * latest. What a student did not choose in a choose-part, and what was taken out of the total, is as if it were not on the
 * paper. A guest sees no names.
 */
export const questionGrid = query({
  admits: toSitting('results.see'),
  does({ db, role, context, sittingId, sitting: row }): Result<QuestionGrid> {
    if (row.anonymous) return notFound('sitting with names');
    const withNames = role === 'instructor';
    const results = resultsNow(db, row);
    const counting = new Map([...results].map(([userId, { result }]) => [userId, result.from.at(-1) ?? '']));
    const { ids, names, credits } = keptCredits(db, sittingId, stateStamp, () =>
      creditsOf(db, row, new Set(counting.values())),
    );
    const takers = takersOf(db, row);
    const shown = withNames
      ? inNameOrder(takers, nameOrderOf(context)).map((student) => ({
          student,
          name: student.name,
          section: student.section,
        }))
      : withoutNames(db, sittingId, takers);
    const rows = shown
      .map(({ student, name, section }): GridRow | null => {
        const result: SittingResult | undefined = results.get(student.userId)?.result;
        const own = credits.get(counting.get(student.userId) ?? '');
        // Who chose nothing of a choose-part, or whose questions all left the total, has a result all the same.
        if (!result) return null;
        return {
          userId: withNames ? student.userId : '',
          name,
          section,
          percent: result.possible > 0 ? (result.earned / result.possible) * 100 : null,
          waiting: result.waiting,
          credits: ids.map((id) => own?.get(id) ?? null),
        };
      })
      .filter(isHere);
    const questions = ids.map((questionId, i): GridQuestion => {
      const given = rows.flatMap((one) => one.credits[i] ?? []);
      const marked = given.filter((credit) => credit !== 'waits');
      return {
        questionId,
        name: names.get(questionId) ?? '',
        asked: given.length,
        marked: marked.length,
        mean: marked.length ? marked.reduce((sum, credit) => sum + credit, 0) / marked.length : null,
      };
    });
    return ok({ title: row.title, questions, rows, objectives: objectivesOf(context, ids, rows) });
  },
});

type Credits = {
  /** The questions, in the order of the plan. */
  ids: string[];
  names: Map<string, string>;
  /** By attempt and question. */
  credits: Map<string, Map<string, number | 'waits'>>;
};

const keptCredits = keptWhile<Credits>();

/** @param used the attempts that count */
function creditsOf(db: Db, row: SittingRow, used: ReadonlySet<string>): Credits {
  const slots = db
    .select({
      attemptId: paperSlot.attemptId,
      questionId: paperSlot.questionId,
      versionId: paperSlot.versionId,
      outOf: paperSlot.points,
      points: mark.points,
      kind: mark.kind,
      unobserved: mark.unobserved,
      shortName: question.shortName,
    })
    .from(paperSlot)
    .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
    .innerJoin(question, eq(question.id, paperSlot.questionId))
    .leftJoin(mark, newestMark)
    .where(and(eq(attempt.sittingId, row.id), eq(attempt.state, 'handed-in')))
    .orderBy(asc(question.createdAt), asc(question.id))
    .all();
  const design = pinnedDesign(db, row.revisionId);
  const place = new Map(linesOf(design).map(({ line }, i) => [line.kind === 'fixed' ? line.questionId : line.id, i]));
  const versions = new Map<string, { versionId: string; shortName: string }>();
  const credits = new Map<string, Map<string, number | 'waits'>>();
  for (const slot of slots) {
    if (!used.has(slot.attemptId) || !standsOnPaper(slot)) continue;
    versions.set(slot.questionId, slot);
    const own = credits.get(slot.attemptId) ?? new Map<string, number | 'waits'>();
    own.set(slot.questionId, slot.points === null ? 'waits' : slot.outOf > 0 ? (slot.points / slot.outOf) * 100 : 100);
    credits.set(slot.attemptId, own);
  }
  const contents = frozenContents(
    db,
    [...versions.values()].map((one) => one.versionId),
  );
  const ids = [...versions.keys()].sort((a, b) => (place.get(a) ?? place.size) - (place.get(b) ?? place.size));
  const names = new Map(
    ids.map((id) => {
      const { shortName, versionId } = versions.get(id) as { versionId: string; shortName: string };
      return [id, shortName || stemLine(contents.get(versionId) as QuestionContent)];
    }),
  );
  return { ids, names, credits };
}

/** How questions of each objective did, over all students. */
function objectivesOf({ db }: Context, ids: readonly string[], rows: readonly GridRow[]): GridObjective[] {
  if (ids.length === 0) return [];
  const aligned = db
    .select({ questionId: questionObjective.questionId, code: objective.code, wording: objective.wording })
    .from(questionObjective)
    .innerJoin(objective, eq(objective.id, questionObjective.objectiveId))
    .where(inArray(questionObjective.questionId, [...ids]))
    .orderBy(asc(objective.code))
    .all();
  const at = new Map(ids.map((id, i) => [id, i]));
  const found = new Map<string, GridObjective & { sum: number }>();
  for (const one of aligned) {
    const own = found.get(one.code) ?? { code: one.code, wording: one.wording, asked: 0, mean: 0, sum: 0 };
    for (const row of rows) {
      const credit = row.credits[at.get(one.questionId) ?? -1];
      if (typeof credit !== 'number') continue;
      own.asked += 1;
      own.sum += credit;
    }
    found.set(one.code, own);
  }
  return [...found.values()].flatMap(({ sum, ...one }) => (one.asked ? [{ ...one, mean: sum / one.asked }] : []));
}
