import { and, asc, eq, inArray, isNull } from 'drizzle-orm';
import { z } from 'zod';
import { type Instant, momentText } from '@/core/base/time';
import { examsDrawnFrom, linesOf } from '@/core/exam/design';
import {
  placeText,
  type SittingMoment,
  type SittingMoments,
  shiftSitting,
  sittingMoments,
  type Term,
} from '@/core/sitting/teachingWeeks';
import { termInput } from '@/core/sitting/term';
import type { Db, Tx } from '@/db/client';
import { arrangement, exam, examRevision, membership, section, sitting, sittingAudience } from '@/db/schema';
import { checkedPlan } from '../exam/checkedPlan';

export const nextTermInput = z.object({
  name: z.string().trim().min(1, 'Give the course a name.').max(120),
  term: z.string().trim().min(1, 'Name the new term.').max(60),
  /** When the old course taught, and when the new one will. */
  before: termInput,
  after: termInput,
  /** Whether colleagues come along. */
  staff: z.boolean(),
});

type AskedTerm = z.output<typeof nextTermInput>;

/** A moment of a sitting before and after, in words and where it lies in its term. */
export type MovedMoment = {
  what: SittingMoment;
  before: string;
  after: string;
  /** The same place in both terms, in words; two where they differ. */
  place: string;
  moved: boolean;
};

const momentNames: Record<SittingMoment, string> = {
  opens: 'opens',
  lastStart: 'last start',
  due: 'due',
  closes: 'closes',
};

export type ShiftedSitting = {
  row: typeof sitting.$inferSelect;
  moments: SittingMoments;
  moved: MovedMoment[];
  looks: string[];
};

/** What a course has that its next term takes over, and how. */
export function gatherTerm(db: Db | Tx, courseId: string, zone: string, asked: AskedTerm, now: Instant) {
  const exams = db
    .select({ exam, revision: examRevision })
    .from(exam)
    .innerJoin(examRevision, eq(examRevision.id, exam.currentRevisionId))
    .where(eq(exam.courseId, courseId))
    .orderBy(asc(exam.createdAt))
    .all();
  const kept = exams.filter((one) => one.exam.archivedAt === null);
  const titles = new Map(exams.map((one) => [one.exam.id, one.exam.title]));
  const takenOver = new Set(kept.map((one) => one.exam.id));
  const sittings = db
    .select()
    .from(sitting)
    // A round is begun when its class is there: there is nothing of it to be planned.
    .where(and(eq(sitting.courseId, courseId), eq(sitting.isRound, false)))
    .orderBy(asc(sitting.opens), asc(sitting.createdAt))
    .all();
  const given = sittings.filter((row) => row.state !== 'cancelled' && takenOver.has(row.examId));
  const ids = given.map((row) => row.id);
  const audience = db.select().from(sittingAudience).where(inArray(sittingAudience.sittingId, ids)).all();
  const arrangements = db.select().from(arrangement).where(inArray(arrangement.sittingId, ids)).all();
  const revisions = new Map(kept.map((one) => [one.exam.id, one.revision]));
  const pinned = new Map(
    db
      .select({ id: examRevision.id, number: examRevision.number })
      .from(examRevision)
      .where(
        inArray(
          examRevision.id,
          given.map((row) => row.revisionId),
        ),
      )
      .all()
      .map((row) => [row.id, row.number]),
  );
  return {
    sections: db.select().from(section).where(eq(section.courseId, courseId)).orderBy(asc(section.position)).all(),
    people: db
      .select()
      .from(membership)
      .where(and(eq(membership.courseId, courseId), isNull(membership.removedAt), isNull(membership.onlySitting)))
      .all(),
    exams: kept.map((one) => ({
      ...one,
      looks: examLooks(db, courseId, one, { titles, takenOver }, now),
    })),
    archivedExams: exams.length - kept.length,
    sittings: given.map((row): ShiftedSitting & { audience: typeof audience } => {
      const own = audience.filter((one) => one.sittingId === row.id);
      const shifted = shiftOne(row, asked, zone);
      return {
        ...shifted,
        row,
        audience: own,
        looks: [
          ...shifted.looks,
          ...sittingLooks(
            row,
            own,
            arrangements.filter((one) => one.sittingId === row.id).length,
            pinned.get(row.revisionId) ?? 0,
            revisions.get(row.examId)?.number ?? 0,
          ),
        ],
      };
    }),
    cancelledSittings: sittings.length - given.length,
  };
}

function shiftOne(
  row: typeof sitting.$inferSelect,
  { before, after }: { before: Term; after: Term },
  zone: string,
): Omit<ShiftedSitting, 'row'> {
  const { opens, lastStart, due, closes } = row;
  const moments: SittingMoments = { opens, lastStart, due, closes };
  const shifted = shiftSitting(before, after, zone, moments);
  const moved: MovedMoment[] = [];
  const looks: string[] = [];
  for (const what of sittingMoments) {
    const to = shifted[what];
    const from = moments[what];
    if (!to || from === null) continue;
    const [was, is] = [placeText(to.from), placeText(to.to)];
    moved.push({
      what,
      before: momentText(from, zone),
      after: momentText(to.at, zone),
      place: was === is ? was : `${was}, now ${is}`,
      moved: was !== is,
    });
    if (to.movedOff)
      looks.push(
        `${momentNames[what]} would fall on ${to.movedOff.name || 'free days'}: moved to ${momentText(to.at, zone)}.`,
      );
    else if (was !== is) looks.push(`${momentNames[what]} lay ${was} and is now on ${is}.`);
  }
  return {
    moments: Object.fromEntries(sittingMoments.map((what) => [what, shifted[what]?.at ?? null])) as SittingMoments,
    moved,
    looks: looks.map((text) => text[0]?.toUpperCase() + text.slice(1)),
  };
}

const many = (count: number, one: string, more: string) => (count === 1 ? `One ${one}` : `${count} ${more}`);

function sittingLooks(
  row: typeof sitting.$inferSelect,
  audience: readonly { kind: string }[],
  arrangements: number,
  pinned: number,
  newest: number,
): string[] {
  const looks: string[] = [];
  const named = audience.filter((one) => one.kind === 'student').length;
  if (named)
    looks.push(`It was given to ${named === 1 ? 'one student' : `${named} students`} by name: say who takes it now.`);
  if (row.opens === null || row.closes === null) looks.push('It has no fixed times yet.');
  if (arrangements)
    looks.push(
      `${many(arrangements, 'arrangement for a student is', 'arrangements for single students are')} not taken over.`,
    );
  if (row.state === 'scheduled' && pinned !== newest)
    looks.push(`It was given in revision ${pinned} of its exam; the new one begins with revision ${newest}.`);
  return looks;
}

function examLooks(
  db: Db | Tx,
  courseId: string,
  { exam: row, revision }: { exam: typeof exam.$inferSelect; revision: typeof examRevision.$inferSelect },
  { titles, takenOver }: { titles: ReadonlyMap<string, string>; takenOver: ReadonlySet<string> },
  now: Instant,
): string[] {
  const { design } = revision;
  const gone = [...examsDrawnFrom(design)].filter((id) => !takenOver.has(id));
  const resting = linesOf(design).flatMap(({ line }) =>
    line.kind !== 'fixed' && line.pool.restDays ? [line.pool.restDays] : [],
  );
  return [
    ...gone.map(
      (id) => `It draws from the questions of “${titles.get(id) ?? 'an exam'}”, which is archived and stays behind.`,
    ),
    ...(resting.length
      ? [`${many(resting.length, 'draw rests', 'draws rest')} questions used of late: look at the pools again.`]
      : []),
    ...checkedPlan(db, { courseId, examId: row.id, design, now }).check.problems.map((one) => one.message),
  ];
}
