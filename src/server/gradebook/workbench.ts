import { and, eq } from 'drizzle-orm';
import { measurementOf } from '@/core/analysis/measurement';
import { id } from '@/core/base/id';
import { notFound, ok, type Result } from '@/core/base/result';
import type { Band } from '@/core/gradebook/bands';
import { courseTotal } from '@/core/gradebook/courseTotal';
import { sitting } from '@/db/schema';
import { query } from '../house/useCase';
import { toCourse } from '../people/toCourse';
import { sittingOf } from '../records/audience';
import { gradebookRulesOf } from '../records/bandsHeld';
import { questionGrid } from '../release/questionGrid';
import { bookData } from './bookData';

export type Workbench = {
  /** Null where it is about the course totals. */
  sittingId: string | null;
  title: string;
  bands: Band[];
  /** Whether the sitting has bands of its own. */
  own: boolean;
  decimals: number;
  results: { userId: string; name: string; percent: number }[];
  /** One standard error of measurement in percent; null where it cannot be said. */
  error: number | null;
  /** Why it cannot. */
  whyNoError: string;
  sittings: { id: string; title: string }[];
};

/**
 * Everything that boundaries are set by: results in percent, of the course or of one sitting, and how exactly they measure.
 * Of a sitting the results as the marks stand are looked at, so that a second look is possible before publishing.
 */
export const workbench = query({
  admits: toCourse('gradebook.see'),
  takes: [id('sitting').nullable()],
  does({ db, courseId, courseName, context }, sittingId): Result<Workbench> {
    const rules = gradebookRulesOf(db, courseId);
    const sittings = db
      .select({ id: sitting.id, title: sitting.title })
      .from(sitting)
      .where(
        and(
          eq(sitting.courseId, courseId),
          eq(sitting.scored, true),
          eq(sitting.anonymous, false),
          eq(sitting.state, 'scheduled'),
        ),
      )
      .orderBy(sitting.opens)
      .all();
    if (sittingId === null) {
      const data = bookData(db, courseId, context.now);
      return ok({
        sittingId,
        title: courseName,
        bands: rules.bands,
        own: false,
        decimals: rules.decimals,
        results: data.students.flatMap(({ userId, name }) => {
          const { percent } = courseTotal(data.computing, data.cells.get(userId) ?? []);
          return percent === null ? [] : [{ userId, name, percent }];
        }),
        error: null,
        whyNoError:
          'A course total rests on sittings of different kinds: no error of measurement is worked out for it.',
        sittings,
      });
    }
    const row = sittingOf(db, courseId, sittingId);
    if (!row || row.anonymous || !row.scored) return notFound('sitting with scores');
    const grid = questionGrid(context, courseId, sittingId);
    if (!grid.ok) return grid;
    const complete = grid.value.rows.filter((one) => one.waiting === 0 && one.percent !== null);
    const measured = measurementOf(
      complete.flatMap((one) =>
        one.credits.flatMap((credit, i) =>
          typeof credit !== 'number'
            ? []
            : [{ person: one.userId, question: grid.value.questions[i]?.questionId ?? '', credit: credit / 100 }],
        ),
      ),
    );
    return ok({
      sittingId,
      title: row.title,
      bands: row.bands ?? rules.bands,
      own: row.bands !== null,
      decimals: rules.decimals,
      results: complete.map(({ userId, name, percent }) => ({ userId, name, percent: percent ?? 0 })),
      error: measured ? measured.error * 100 : null,
      whyNoError: measured ? '' : 'With fewer than 20 complete results no error of measurement can be said.',
      sittings,
    });
  },
});
