import { and, desc, eq, inArray, sql } from 'drizzle-orm';
import { z } from 'zod';
import { parse } from '@/core/base/parse';
import { notFound, ok, type Problem, type Result, refused } from '@/core/base/result';
import { instantFromLocal, minute, momentText } from '@/core/base/time';
import { designCount, designPoints, type ExamDesign, noUsualRules, usualPurpose } from '@/core/exam/design';
import type { PlanProblem } from '@/core/exam/planCheck';
import { scoreOnPublishing } from '@/core/release/visibleTo';
import { attemptCountings } from '@/core/sitting/rules';
import { sittingCheck } from '@/core/sitting/sittingCheck';
import type { Db, Tx } from '@/db/client';
import {
  attempt,
  exam,
  examRevision,
  markerAssignment,
  membership,
  section,
  sitting,
  sittingAudience,
  user,
} from '@/db/schema';
import { checkedPlan } from '../exam/checkedPlan';
import { examWithRevision } from '../exam/exams';
import { type LookState, looksAt, openRemarks } from '../exam/lookState';
import { record } from '../house/audit';
import { type Context, newId } from '../house/context';
import { send } from '../house/outbox';
import { admit } from '../people/permission';
import {
  type AudienceMember,
  audienceOf,
  audienceSizes,
  phaseOf,
  rulesOf,
  type SittingPhase,
  type SittingRow,
  sittingOf,
} from './audience';

export type SittingListRow = {
  id: string;
  title: string;
  phase: SittingPhase;
  opens: number | null;
  closes: number | null;
  students: number;
  running: number;
  handedIn: number;
};

/** The sittings of a course, the latest opening first. */
export function listSittings(context: Context, courseId: string): Result<SittingListRow[]> {
  const admitted = admit(context, courseId, 'sitting.see');
  if (!admitted.ok) return admitted;
  const sizes = audienceSizes(context.db, courseId);
  const counted = context.db
    .select({
      sittingId: attempt.sittingId,
      running: sql<number>`count(distinct case when ${attempt.state} = 'running' then ${attempt.userId} end)`,
      handedIn: sql<number>`count(distinct case when ${attempt.state} = 'handed-in' then ${attempt.userId} end)`,
    })
    .from(attempt)
    .innerJoin(sitting, eq(sitting.id, attempt.sittingId))
    .where(eq(sitting.courseId, courseId))
    .groupBy(attempt.sittingId)
    .all();
  const counts = new Map(counted.map((row) => [row.sittingId, row]));
  const rows = context.db
    .select()
    .from(sitting)
    .where(eq(sitting.courseId, courseId))
    .orderBy(desc(sitting.opens), desc(sitting.createdAt))
    .all();
  return ok(
    rows.map((row) => ({
      id: row.id,
      title: row.title,
      phase: phaseOf(row, context.now),
      opens: row.opens,
      closes: row.closes,
      students: sizes.get(row.id) ?? 0,
      running: counts.get(row.id)?.running ?? 0,
      handedIn: counts.get(row.id)?.handedIn ?? 0,
    })),
  );
}

/** Begins a sitting of an exam as a draft: for the whole course, under the exam's usual rules, without dates yet. */
export function createSitting(
  context: Context,
  courseId: string,
  input: { examId: string },
): Result<{ sittingId: string }> {
  const admitted = admit(context, courseId, 'sitting.change');
  if (!admitted.ok) return admitted;
  return context.db.transaction(
    (tx) => {
      const found = examWithRevision(tx, courseId, input.examId);
      if (!found) return notFound('exam');
      if (found.exam.archivedAt !== null)
        return refused('conflict', 'This exam is archived: bring it back before it is given.');
      const sittingId = newId();
      const { timeLimitMinutes, attemptsAllowed, attemptCounts } = found.revision.design.usual ?? noUsualRules;
      tx.insert(sitting)
        .values({
          id: sittingId,
          courseId,
          examId: found.exam.id,
          revisionId: found.revision.id,
          title: found.exam.title,
          state: 'draft',
          timeLimit: timeLimitMinutes === null ? null : timeLimitMinutes * minute,
          attemptsAllowed,
          attemptCounts,
          releasePlan: scoreOnPublishing,
          ...(found.revision.design.purpose ?? usualPurpose),
          createdBy: context.actor.userId,
          createdAt: context.now,
        })
        .run();
      tx.insert(sittingAudience).values({ sittingId, kind: 'course', refId: courseId }).run();
      record(tx, context, { action: 'sitting.create', courseId, subjectId: sittingId });
      return ok({ sittingId });
    },
    { behavior: 'immediate' },
  );
}

export type OpenSitting = {
  sitting: SittingRow;
  phase: SittingPhase;
  timeZone: string;
  examTitle: string;
  points: number;
  questions: number;
  /** The sections it is given to; empty means the whole course. */
  sectionIds: string[];
  sections: { id: string; name: string }[];
  audience: AudienceMember[];
  markers: { userId: string; name: string; assigned: boolean }[];
  /** What keeps it from being scheduled, each with where it is mended. */
  problems: Problem[];
  planProblems: PlanProblem[];
  /** The colleagues who looked at its exam, and how many remarks are open. */
  looks: LookState[];
  remarks: number;
};

/** A sitting with all that decides who takes it, when and under which rules. */
export function openSitting(context: Context, courseId: string, sittingId: string): Result<OpenSitting> {
  const admitted = admit(context, courseId, 'sitting.see');
  if (!admitted.ok) return admitted;
  const row = sittingOf(context.db, courseId, sittingId);
  if (!row) return notFound('sitting');
  const examRow = context.db.select().from(exam).where(eq(exam.id, row.examId)).get();
  const revision = context.db
    .select()
    .from(examRevision)
    .where(eq(examRevision.id, pinnedOrCurrent(row, examRow)))
    .get();
  if (!examRow || !revision) return notFound('exam');
  const { design } = revision;
  const addressed = context.db.select().from(sittingAudience).where(eq(sittingAudience.sittingId, sittingId)).all();
  const assigned = new Set(
    context.db
      .select()
      .from(markerAssignment)
      .where(eq(markerAssignment.sittingId, sittingId))
      .all()
      .map((one) => one.userId),
  );
  const markers = context.db
    .select({ userId: user.id, name: user.name })
    .from(membership)
    .innerJoin(user, eq(user.id, membership.userId))
    .where(and(eq(membership.courseId, courseId), eq(membership.role, 'marker'), sql`${membership.removedAt} is null`))
    .all();
  const audience = audienceOf(context.db, row);
  const hidden = admitted.value.role === 'guest';
  return ok({
    sitting: row,
    phase: phaseOf(row, context.now),
    timeZone: admitted.value.timeZone,
    examTitle: examRow.title,
    points: designPoints(revision.design),
    questions: designCount(revision.design),
    sectionIds: addressed.filter((one) => one.kind === 'section').map((one) => one.refId),
    sections: context.db
      .select({ id: section.id, name: section.name })
      .from(section)
      .where(eq(section.courseId, courseId))
      .all(),
    audience: hidden ? [] : audience,
    markers: hidden ? [] : markers.map((one) => ({ ...one, assigned: assigned.has(one.userId) })),
    problems: row.state === 'draft' ? schedulingProblems(row, audience.length, context.now) : [],
    planProblems:
      row.state === 'draft'
        ? checkedPlan(context.db, { courseId, examId: row.examId, design, now: context.now }).check.problems
        : [],
    looks: looksAt(context.db, row.examId, currentDesign(context.db, courseId, row.examId)),
    remarks: openRemarks(context.db, row.examId),
  });
}

const currentDesign = (db: Db, courseId: string, examId: string): ExamDesign =>
  (examWithRevision(db, courseId, examId) as NonNullable<ReturnType<typeof examWithRevision>>).revision.design;

/** A draft follows the exam as it is edited; a scheduled sitting stays with the revision it pinned. */
const pinnedOrCurrent = (row: SittingRow, examRow: { currentRevisionId: string } | undefined) =>
  row.state === 'draft' ? (examRow?.currentRevisionId ?? row.revisionId) : row.revisionId;

function schedulingProblems(row: SittingRow, students: number, now: number): Problem[] {
  const problems = sittingCheck(rulesOf(row), now);
  if (row.opens === null) problems.push({ code: 'bad-input', field: 'opens', message: 'Say when it opens.' });
  if (row.closes === null) problems.push({ code: 'bad-input', field: 'closes', message: 'Say when it closes.' });
  if (students === 0)
    problems.push({ code: 'bad-input', field: 'sectionIds', message: 'Nobody is given this sitting yet.' });
  return problems;
}

const localMoment = z.string().max(16);
const wholeNumber = z.number({ message: 'Give a whole number.' }).int('Give a whole number.');

const rulesInput = z.object({
  title: z.string().trim().min(1, 'Give the sitting a title.').max(160),
  /** Local to the course's zone, as a date-and-time field sends them; empty for none. */
  opens: localMoment,
  lastStart: localMoment,
  due: localMoment,
  closes: localMoment,
  timeLimitMinutes: wholeNumber
    .min(1, 'A time limit is at least one minute.')
    .max(7 * 24 * 60, 'At most a week.')
    .nullable(),
  attemptsAllowed: wholeNumber.min(1, 'Allow at least one attempt.').max(100, 'At most 100, or unlimited.').nullable(),
  attemptCounts: z.enum(attemptCountings),
  sectionIds: z.array(z.string().max(40)).max(200),
  markerIds: z.array(z.string().max(40)).max(50),
});

/**
 * Changes the rules of a sitting. Those of a scheduled sitting may be changed too, also while students write: deadlines
 * are worked out anew for everyone from then on.
 */
export function saveSitting(context: Context, courseId: string, sittingId: string, input: unknown): Result<null> {
  const admitted = admit(context, courseId, 'sitting.change');
  if (!admitted.ok) return admitted;
  const parsed = parse(rulesInput, input);
  if (!parsed.ok) return parsed;
  const { sectionIds, markerIds, timeLimitMinutes, ...fields } = parsed.value;
  const moments: Record<string, number | null> = {};
  for (const name of ['opens', 'lastStart', 'due', 'closes'] as const) {
    moments[name] = fields[name] === '' ? null : instantFromLocal(fields[name], admitted.value.timeZone);
    if (fields[name] !== '' && moments[name] === null)
      return refused('bad-input', 'This is not a date and time.', name);
  }
  return context.db.transaction(
    (tx) => {
      const row = sittingOf(tx, courseId, sittingId);
      if (!row) return notFound('sitting');
      const next = {
        title: fields.title,
        opens: moments.opens ?? null,
        lastStart: moments.lastStart ?? null,
        due: moments.due ?? null,
        closes: moments.closes ?? null,
        timeLimit: timeLimitMinutes === null ? null : timeLimitMinutes * minute,
        attemptsAllowed: fields.attemptsAllowed,
        attemptCounts: fields.attemptCounts,
      };
      const merged = { ...row, ...next };
      const closed = row.closes !== null && row.closes <= context.now && row.closes === next.closes;
      const problems = row.state === 'scheduled' && !closed ? schedulingProblems(merged, 1, context.now) : [];
      if (problems.length) return { ok: false, problems };
      if (!allBelong(tx, courseId, sectionIds, markerIds)) return notFound('section or marker');
      tx.update(sitting).set(next).where(eq(sitting.id, sittingId)).run();
      tx.delete(sittingAudience)
        .where(and(eq(sittingAudience.sittingId, sittingId), inArray(sittingAudience.kind, ['course', 'section'])))
        .run();
      const audience = sectionIds.length
        ? sectionIds.map((refId) => ({ sittingId, kind: 'section' as const, refId }))
        : [{ sittingId, kind: 'course' as const, refId: courseId }];
      tx.insert(sittingAudience).values(audience).run();
      tx.delete(markerAssignment).where(eq(markerAssignment.sittingId, sittingId)).run();
      if (markerIds.length)
        tx.insert(markerAssignment)
          .values(markerIds.map((userId) => ({ sittingId, userId })))
          .run();
      record(tx, context, {
        action: 'sitting.save',
        courseId,
        subjectId: sittingId,
        detail: { ...next, sectionIds, markerIds },
      });
      return ok(null);
    },
    { behavior: 'immediate' },
  );
}

function allBelong(tx: Tx, courseId: string, sectionIds: string[], markerIds: string[]): boolean {
  const sections = tx
    .select({ id: section.id })
    .from(section)
    .where(and(eq(section.courseId, courseId), inArray(section.id, sectionIds)))
    .all();
  const markers = tx
    .select({ id: membership.userId })
    .from(membership)
    .where(and(eq(membership.courseId, courseId), eq(membership.role, 'marker'), inArray(membership.userId, markerIds)))
    .all();
  return sections.length === new Set(sectionIds).size && markers.length === new Set(markerIds).size;
}

/** Schedules a draft: pins the exam's revision as it stands and tells the students. Errors block. */
export function scheduleSitting(context: Context, courseId: string, sittingId: string): Result<{ students: number }> {
  const admitted = admit(context, courseId, 'sitting.change');
  if (!admitted.ok) return admitted;
  return context.db.transaction(
    (tx) => {
      const row = sittingOf(tx, courseId, sittingId);
      const found = row && examWithRevision(tx, courseId, row.examId);
      if (!row || !found) return notFound('sitting');
      if (row.state === 'scheduled') return refused('conflict', 'This sitting is scheduled already.');
      const audience = audienceOf(tx, row);
      const { design } = found.revision;
      const { check } = checkedPlan(tx, { courseId, examId: row.examId, design, now: context.now });
      const problems = [
        ...schedulingProblems(row, audience.length, context.now),
        ...check.problems.map((one): Problem => ({ code: 'conflict', message: one.message, field: 'exam' })),
      ];
      if (problems.length) return { ok: false, problems };
      tx.update(examRevision)
        .set({ frozenAt: context.now })
        .where(and(eq(examRevision.id, found.revision.id), sql`frozen_at is null`))
        .run();
      tx.update(sitting)
        .set({ state: 'scheduled', revisionId: found.revision.id, ...(design.purpose ?? usualPurpose) })
        .where(eq(sitting.id, sittingId))
        .run();
      const { courseName, timeZone } = admitted.value;
      send(
        tx,
        context,
        courseId,
        audience.map((student) => ({
          userId: student.userId,
          email: student.email,
          subject: `${row.title}: ${momentText(student.arrangement.opens ?? (row.opens as number), timeZone)}`,
          body: `${row.title} in ${courseName} opens ${momentText(student.arrangement.opens ?? (row.opens as number), timeZone)} and closes ${momentText(row.closes as number, timeZone)} (${timeZone}). You will find it under My exams.`,
        })),
      );
      record(tx, context, {
        action: 'sitting.schedule',
        courseId,
        subjectId: sittingId,
        detail: { revision: found.revision.number },
      });
      return ok({ students: audience.length });
    },
    { behavior: 'immediate' },
  );
}
