import { and, eq, gt, isNull, ne, or } from 'drizzle-orm';
import type { Instant } from '@/core/base/time';
import { day } from '@/core/base/time';
import type { ExamDesign } from '@/core/exam/design';
import { neededFor } from '@/core/exam/snapshot';
import { type EarlyFact, earliestFacts, type Leak, leaks, type Writing } from '@/core/release/leakCheck';
import { keyFacts } from '@/core/release/plan';
import { closesFor, latestWriting, opensFor, overForEveryone } from '@/core/sitting/clock';
import type { HeldElsewhere } from '@/core/sitting/preflight';
import type { Db, Tx } from '@/db/client';
import { course, sitting } from '@/db/schema';
import { courseSnapshot } from '../bank/courseSnapshot';
import { rulesOf, type SittingRow } from '../records/audience';
import { pinnedDesign } from '../records/pinnedDesign';
import { zoneOf } from '../records/zoneOf';
import { standingsOf } from './standings';

/** No time limit with its extra time reaches further beyond a closing; what closed before that cannot be written any more. */
const longestAfterClosing = 30 * day;
const mostNamed = 3;

/**
 * The leaks of a sitting, worked out over all scheduled sittings that can draw any of the same questions, with what is
 * arranged for each student and what runs now.
 *
 * @param design the sitting's own, which a draft takes from its exam as it is today
 */
export function leaksOf(db: Db | Tx, row: SittingRow, design: ExamDesign, now: Instant): Leak[] {
  const rules = rulesOf(row);
  if (keyFacts.every((fact) => !row.releasePlan[fact]?.length) && rules.learning === 'by-plan' && !rules.tries)
    return [];
  const early = earlyOf(db, row, now);
  return early.length ? leaks(leakSitting(row), early, writingsOf(db, row, design, now)) : [];
}

/**
 * What publishing now would leak: of what the plan shows on publishing, the facts that give away keys.
 *
 * @param writings looked up only where there are such facts
 */
export function leaksOfPublishing(
  db: Db | Tx,
  row: SittingRow,
  now: Instant,
  writings: () => Writing[] = () => writingsOf(db, row, pinnedDesign(db, row.revisionId), now),
): Leak[] {
  const early = keyFacts
    .filter(
      (fact) =>
        row.releasePlan.questions?.length &&
        row.releasePlan[fact]?.some((window) => window.begins.kind === 'on-publishing'),
    )
    .map((fact) => ({ fact, from: now }));
  if (early.length === 0) return [];
  return leaks(leakSitting(row), early, writings());
}

/**
 * A sitting as the leak check sees it: in practice that does not count, and in a round, which is talked through while it
 * goes on, early answers are what it is for.
 */
export const leakSitting = (row: SittingRow): { sittingId: string; meant: boolean } => ({
  sittingId: row.id,
  meant: row.counts === 'no' || !row.scored || row.attemptsAllowed === null || row.isRound,
});

function earlyOf(db: Db | Tx, row: SittingRow, now: Instant): EarlyFact[] {
  const rules = rulesOf(row);
  const students = standingsOf(db, row);
  const opens = Math.min(
    ...[
      rules.opens ?? Number.NEGATIVE_INFINITY,
      ...students.map((one) => opensFor(rules, one.arrangement) ?? Number.NEGATIVE_INFINITY),
    ],
  );
  const closings = [rules.closes, ...students.map((one) => closesFor(rules, one.arrangement))].filter(
    (at) => at !== null,
  );
  const zone = zoneOf(db, row.courseId);
  return earliestFacts(row.releasePlan, rules, {
    opens,
    closes: closings.length ? Math.min(...closings) : null,
    overAt: overForEveryone(rules, zone, students, now),
  });
}

/** Over all scheduled sittings that can draw any of the same questions, how late anyone may still be writing. */
export function writingsOf(db: Db | Tx, row: SittingRow, design: ExamDesign, now: Instant): Writing[] {
  const own = questionsOf(db, row, design, now);
  const others = db
    .select({ row: sitting, zone: course.timeZone })
    .from(sitting)
    .innerJoin(course, eq(course.id, sitting.courseId))
    .where(
      and(
        eq(sitting.state, 'scheduled'),
        ne(sitting.id, row.id),
        or(isNull(sitting.closes), gt(sitting.closes, now - longestAfterClosing)),
      ),
    )
    .all();
  const known = new Map<string, Set<string>>();
  const questions = (one: SittingRow): Set<string> => {
    const before = known.get(one.revisionId) ?? questionsOf(db, one, pinnedDesign(db, one.revisionId), now);
    known.set(one.revisionId, before);
    return before;
  };
  const writings = others.flatMap((one) => {
    const shared = [...questions(one.row)].filter((id) => own.has(id)).length;
    if (shared === 0) return [];
    const writing = writingOf(db, one, shared, now);
    // Who has no part in another course learns that it shares questions, and nothing of its people.
    return [
      one.row.courseId === row.courseId ? writing : { ...writing, title: 'a sitting of another course', names: [] },
    ];
  });
  return [writingOf(db, { row, zone: zoneOf(db, row.courseId) }, own.size, now), ...writings];
}

/** How late anyone may still be writing in a sitting. A draft of the sitting itself is looked at as if it were scheduled. */
function writingOf(
  db: Db | Tx,
  { row, zone }: { row: SittingRow; zone: string },
  shared: number,
  now: Instant,
): Writing {
  const rules = rulesOf(row);
  const students = standingsOf(db, row).map((student) => ({
    name: student.name,
    latest: latestWriting(rules, zone, student.arrangement, student.soFar, now),
  }));
  const latest = Math.max(Number.NEGATIVE_INFINITY, ...students.map((one) => one.latest));
  const last = students.filter((one) => one.latest === latest);
  return {
    sittingId: row.id,
    title: row.title,
    shared,
    latest,
    names: last.length <= mostNamed ? last.map((one) => one.name) : [],
  };
}

/** Every question that a sitting can put on a paper. */
function questionsOf(db: Db | Tx, row: SittingRow, design: ExamDesign, now: Instant): Set<string> {
  const { snapshot } = courseSnapshot(db, row.courseId, { design, examId: row.examId, now });
  return new Set(neededFor(design, snapshot).entries.map((entry) => entry.questionId));
}

/**
 * What other scheduled sittings promise their students and would hold back because of a draft, once it is scheduled: facts
 * that give away keys of questions it can draw, shown while it may be written.
 */
export function heldElsewhereBy(db: Db | Tx, row: SittingRow, design: ExamDesign, now: Instant): HeldElsewhere[] {
  const own = questionsOf(db, row, design, now);
  const zone = zoneOf(db, row.courseId);
  const writing = writingOf(db, { row, zone }, own.size, now);
  if (writing.latest === Number.NEGATIVE_INFINITY) return [];
  const others = db
    .select()
    .from(sitting)
    .where(and(eq(sitting.state, 'scheduled'), eq(sitting.courseId, row.courseId), ne(sitting.id, row.id)))
    .all();
  return others.flatMap((other) => {
    const promised = keyFacts.some((fact) => other.releasePlan[fact]?.length) || rulesOf(other).learning !== 'by-plan';
    if (!promised) return [];
    const theirs = questionsOf(db, other, pinnedDesign(db, other.revisionId), now);
    const shared = [...theirs].filter((id) => own.has(id)).length;
    const early = shared === 0 ? [] : earlyOf(db, other, now);
    const [leak] = leaks(leakSitting(other), early, [{ ...writing, shared }]);
    return leak
      ? [{ sittingId: other.id, title: other.title, facts: leak.early.map(({ fact }) => fact), until: leak.latest }]
      : [];
  });
}
