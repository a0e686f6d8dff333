import { type AsideReason, gatheredSaid, type PageStanding } from '@/core/answerSheet/gather';
import type { RowReading } from '@/core/answerSheet/judgeMarks';
import type { SheetPlan } from '@/core/answerSheet/sheetRow';
import { ok, type Result } from '@/core/base/result';
import { query } from '../house/useCase';
import { toSitting } from '../sitting/toSitting';
import { type OpenedReading, openedReading, openReading, type SheetLayouts } from './sheetPages';

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
  /** The page that counts where the same came before, and the labels of the rows in which the two differ. */
  other: { pageId: string; source: string; hasPicture: boolean; rows: string[] } | null;
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
  /** To whom pages can be given by name; nobody where sheets are nobody's. */
  students: { userId: string; name: string }[];
  /** Whether sheets are nobody's. */
  anonymous: boolean;
  doubts: number;
  said: string;
};

/** The sheets of a sitting that are looked through now; null where there are none. */
export const seeReading = query({
  admits: toSitting('sitting.change'),
  does({ db, sitting }): Result<Reviewed | null> {
    const reading = openReading(db, sitting.id);
    if (!reading) return ok(null);
    const { pages, gathered, layouts, students, names, of, before } = openedReading(db, db, sitting, reading.id);
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
          other: otherOf(pages, layouts, page, standing?.other ?? null),
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
      anonymous: sitting.anonymous,
      doubts: gathered.doubts,
      said: gatheredSaid(gathered, of, before.size),
    });
  },
});

function otherOf(
  pages: OpenedReading['pages'],
  layouts: SheetLayouts,
  page: OpenedReading['pages'][number],
  other: PageStanding['other'],
): ReviewedPage['other'] {
  const first = other && pages.find((one) => one.id === other.id);
  const plan = layouts.get(page.code?.layout ?? '')?.plan;
  if (!other || !first) return null;
  return {
    pageId: first.id,
    source: first.source,
    hasPicture: first.picture !== null,
    rows: other.rows.flatMap((row) => plan?.rows[row]?.label ?? []),
  };
}
