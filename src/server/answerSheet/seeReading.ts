import { type AsideReason, gatheredSaid } from '@/core/answerSheet/gather';
import type { RowReading } from '@/core/answerSheet/judgeMarks';
import type { SheetPlan } from '@/core/answerSheet/sheetRow';
import { ok, type Result } from '@/core/base/result';
import { query } from '../house/useCase';
import { toNamedSitting } from '../sitting/toSitting';
import { openedReading, openReading } from './sheetPages';

/** A page that is looked through. */
export type ReviewedPage = {
  id: string;
  source: string;
  /** Signs of its layout, and which page of it; null where that is not known. */
  layout: string | null;
  page: number;
  hasPicture: boolean;
  /** Whose it is; null where nobody knows. */
  student: { userId: string; name: string } | null;
  named: string | null;
  aside: AsideReason | null;
  leftOut: boolean;
  rows: readonly RowReading[];
  settled: Readonly<Record<number, readonly string[]>>;
  /** Rows that wait for a person. */
  doubts: number[];
};

/** All that is looked through of a sitting's sheets. */
export type Reviewed = {
  pages: ReviewedPage[];
  layouts: Record<string, SheetPlan>;
  students: { userId: string; name: string }[];
  doubts: number;
  said: string;
};

/** The sheets of a sitting that are looked through now; null where there are none. */
export const seeReading = query({
  admits: toNamedSitting('sitting.change'),
  does({ db, sitting }): Result<Reviewed | null> {
    const reading = openReading(db, sitting.id);
    if (!reading) return ok(null);
    const { pages, gathered, layouts, students, before } = openedReading(db, db, sitting, reading.id);
    const names = new Map(students.map((one) => [one.userId, one.name]));
    const used = new Set(pages.flatMap((page) => page.code?.layout ?? []));
    return ok({
      pages: pages.map((page, i): ReviewedPage => {
        const standing = gathered.pages[i];
        const userId = standing?.userId ?? null;
        return {
          id: page.id,
          source: page.source,
          layout: page.code && layouts.has(page.code.layout) ? page.code.layout : null,
          page: page.code?.page ?? 0,
          hasPicture: page.picture !== null,
          student: userId ? { userId, name: names.get(userId) ?? 'somebody who is not in this sitting' } : null,
          named: page.named,
          aside: standing?.aside ?? null,
          leftOut: page.leftOut,
          rows: page.rows,
          settled: page.settled,
          doubts: standing?.doubts ?? [],
        };
      }),
      layouts: Object.fromEntries(
        [...layouts.values()].flatMap((layout) => (used.has(layout.id) ? [[layout.id, layout.plan]] : [])),
      ),
      students: students.map(({ userId, name }) => ({ userId, name })),
      doubts: gathered.doubts,
      said: gatheredSaid(gathered, students.length, before.size),
    });
  },
});
