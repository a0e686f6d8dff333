import { and, eq, inArray, isNull, min } from 'drizzle-orm';
import { day, type Instant } from '@/core/base/time';
import type { ReleasePlan } from '@/core/release/plan';
import { closesFor, opensFor } from '@/core/sitting/clock';
import type { Term } from '@/core/sitting/teachingWeeks';
import { type OnLine, sameDays, type TermLine, termLine } from '@/core/sitting/termLine';
import type { Db } from '@/db/client';
import { course, publication, sitting } from '@/db/schema';
import type { Context } from '../house/context';
import { planOf, rulesOf, type SittingRow, sittingsFor } from '../records/audience';

/** When a course teaches; null where nobody has said. */
export function termOf(db: Db, courseId: string): Term | null {
  const row = db
    .select({ firstDay: course.firstDay, freeDays: course.freeDays })
    .from(course)
    .where(eq(course.id, courseId))
    .get();
  return row?.firstDay ? { firstDay: row.firstDay, freeDays: row.freeDays ?? [] } : null;
}

/** When the first result of each sitting was published. */
function publishedFirst(db: Db, sittingIds: readonly string[]): Map<string, Instant> {
  const rows = db
    .select({ sittingId: publication.sittingId, at: min(publication.publishedAt) })
    .from(publication)
    .where(
      and(
        inArray(publication.sittingId, [...sittingIds]),
        eq(publication.preliminary, false),
        isNull(publication.withdrawnAt),
      ),
    )
    .groupBy(publication.sittingId)
    .all();
  return new Map(rows.flatMap((row) => (row.at === null ? [] : [[row.sittingId, row.at]])));
}

/** The first moment of the calendar at which a plan shows scores; null where it waits for something else. */
function scoresFrom(plan: ReleasePlan, closes: Instant | null): Instant | null {
  const moments = (plan.score ?? []).flatMap(({ begins }): Instant[] => {
    if (begins.kind === 'at') return [begins.at];
    if (begins.kind === 'after-closing' && closes !== null) return [closes + begins.days * day];
    return begins.kind === 'over-for-everyone' && closes !== null ? [closes] : [];
  });
  return moments.length ? Math.min(...moments) : null;
}

/** A sitting as it stands on a line. */
export const onLine = (
  row: Pick<SittingRow, 'id' | 'title'>,
  times: { opens: Instant | null; due: Instant | null; closes: Instant | null },
  results: Instant | null,
): OnLine => ({
  id: row.id,
  title: row.title,
  opens: times.opens,
  due: times.due,
  closes: times.closes,
  results,
});

export type StudentLine = {
  line: TermLine;
  zone: string;
  now: Instant;
  /** Days on which they write more than one exam. */
  together: { day: string; titles: string[] }[];
};

/** Everything a student is given in any course on one line, by their own times; null where nothing has a date. */
export function studentLine({ db, actor, now }: Context): StudentLine | null {
  const given = sittingsFor(db, actor.userId).filter((one) => !one.arrangement.excused);
  const courses = [...new Set(given.map((one) => one.sitting.courseId))];
  const [courseId] = courses;
  if (courseId === undefined) return null;
  const names = new Map(
    db
      .select({ id: course.id, name: course.name })
      .from(course)
      .where(inArray(course.id, courses))
      .all()
      .map((row) => [row.id, row.name]),
  );
  const zone = given[0]?.timeZone ?? 'UTC';
  const sittings = given.map(({ sitting: row, arrangement }) => {
    const rules = rulesOf(row);
    const title = courses.length > 1 ? `${row.title} (${names.get(row.courseId)})` : row.title;
    const times = {
      opens: opensFor(rules, arrangement),
      due: arrangement.due ?? rules.due,
      closes: closesFor(rules, arrangement),
    };
    return onLine({ id: row.id, title }, times, null);
  });
  // Weeks are numbered where all of it is one course's.
  const line = termLine(courses.length === 1 ? termOf(db, courseId) : null, sittings, zone, now, narrowLetter);
  return line && { line, zone, now, together: sameDays(sittings, zone, now) };
}

/** A letter's share of the line on a page made for phones. */
const narrowLetter = 1.05;

/** A course's term on one line, with every scheduled sitting; null where nothing would stand on it. */
export function courseLine({ db, now }: Context, courseId: string, zone: string): TermLine | null {
  const rows = db
    .select()
    .from(sitting)
    .where(and(eq(sitting.courseId, courseId), eq(sitting.state, 'scheduled')))
    .all();
  const published = publishedFirst(
    db,
    rows.map((row) => row.id),
  );
  return termLine(
    termOf(db, courseId),
    rows.map((row) => onLine(row, row, published.get(row.id) ?? scoresFrom(planOf(row), row.closes))),
    zone,
    now,
  );
}
