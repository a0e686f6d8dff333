import { and, asc, count, eq, max } from 'drizzle-orm';
import { ok, type Result } from '@/core/base/result';
import type { Instant } from '@/core/base/time';
import { type SittingResult, sittingResult } from '@/core/marking/sittingResult';
import type { Role } from '@/core/people/policy';
import type { Db } from '@/db/client';
import { attempt, audit, mark, sitting } from '@/db/schema';
import { type AskedLook, looksWaiting } from '../exam/looks';
import type { Context } from '../house/context';
import { keptWhile } from '../house/keptWhile';
import { markingQueue, type QueueRow } from '../marking/markingQueue';
import { scoredAttempts } from '../marking/newestMarks';
import { openNotes } from '../people/courseNotes';
import { admit } from '../people/permission';
import { coursePublications, differs, resultsOf } from '../release/results';
import { listSittings, type SittingListRow } from '../sitting/sittings';

export type DeskLine = { sittingId: string; title: string; count: number };

export type Desk = {
  role: Role;
  timeZone: string;
  now: Instant;
  open: SittingListRow[];
  coming: SittingListRow[];
  drafts: SittingListRow[];
  marking: QueueRow[];
  /** Exams this person was asked to look at. */
  looks: AskedLook[];
  readyToPublish: DeskLine[];
  changedSince: DeskLine[];
  /** What needs a look since the course was begun from an earlier one. */
  notes: number;
};

/** What needs the person now: open and coming sittings, answers to mark, results to publish. */
export function desk(context: Context, courseId: string): Result<Desk> {
  const admitted = admit(context, courseId, 'course.see');
  if (!admitted.ok) return admitted;
  const { role, timeZone } = admitted.value;
  const empty = {
    role,
    timeZone,
    now: context.now,
    open: [],
    coming: [],
    drafts: [],
    marking: [],
    looks: looksWaiting(context, courseId),
    readyToPublish: [],
    changedSince: [],
    notes: 0,
  };
  const marking = markingQueue(context, courseId);
  const waiting = marking.ok ? marking.value.filter((row) => row.waiting > 0) : [];
  const sittings = listSittings(context, courseId);
  if (!sittings.ok || role !== 'instructor') return ok({ ...empty, marking: waiting });
  const inPhase = (phase: SittingListRow['phase']) => sittings.value.filter((row) => row.phase === phase);
  return ok({
    ...empty,
    open: inPhase('open'),
    coming: inPhase('coming').reverse(),
    drafts: inPhase('draft'),
    marking: waiting,
    notes: openNotes(context.db, courseId),
    ...looked(context.db, courseId, marksStamp(context.db, courseId), () => publishable(context, courseId)),
  });
}

type Publishable = Pick<Desk, 'readyToPublish' | 'changedSince'>;

/** A course has tens of thousands of marks, and its desk is the page people come back to. */
const looked = keptWhile<Publishable>();

/** Differs whenever results may: every hand-in adds marks, everything else that moves a result is in the log. */
const marksStamp = (db: Db, courseId: string): string => {
  const marks = db
    .select({ last: max(mark.id) })
    .from(mark)
    .get();
  const log = db
    .select({ last: max(audit.id) })
    .from(audit)
    .where(eq(audit.courseId, courseId))
    .get();
  const ended = db
    .select({ n: count() })
    .from(attempt)
    .innerJoin(sitting, eq(sitting.id, attempt.sittingId))
    .where(and(eq(sitting.courseId, courseId), eq(attempt.state, 'handed-in')))
    .get();
  return [marks?.last, log?.last, ended?.n].join();
};

/** Results that are ready and unpublished, and those that changed after they were published, by sitting. */
function publishable(context: Context, courseId: string): Publishable {
  const rows = context.db
    .select()
    .from(sitting)
    .where(eq(sitting.courseId, courseId))
    .orderBy(asc(sitting.closes))
    .all();
  const attempts = new Map<string, ReturnType<typeof scoredAttempts>>();
  for (const one of scoredAttempts(context.db, { courseId })) {
    const key = `${one.sittingId}/${one.userId}`;
    attempts.set(key, [...(attempts.get(key) ?? []), one]);
  }
  const published = new Map(
    coursePublications(context.db, courseId).map((row) => [`${row.sittingId}/${row.userId}`, row]),
  );
  const lines = { readyToPublish: new Map<string, number>(), changedSince: new Map<string, number>() };
  const counts = new Map(rows.map((row) => [row.id, row.attemptCounts]));
  const tally = (sittingId: string, key: string, result: SittingResult | null) => {
    if (!result?.ready) return;
    const before = published.get(key);
    if (!before) lines.readyToPublish.set(sittingId, (lines.readyToPublish.get(sittingId) ?? 0) + 1);
    else if (differs(before, result)) lines.changedSince.set(sittingId, (lines.changedSince.get(sittingId) ?? 0) + 1);
  };
  for (const [key, own] of attempts) {
    const { sittingId } = own[0] as (typeof own)[number];
    tally(sittingId, key, sittingResult(own, counts.get(sittingId) ?? 'best'));
  }
  for (const row of rows)
    if (row.counts === 'taking-part' && (!row.scored || row.anonymous))
      for (const [userId, { result }] of resultsOf(context.db, row)) tally(row.id, `${row.id}/${userId}`, result);
  const list = (counted: Map<string, number>) =>
    rows.flatMap((row) =>
      counted.has(row.id) ? [{ sittingId: row.id, title: row.title, count: counted.get(row.id) as number }] : [],
    );
  return { readyToPublish: list(lines.readyToPublish), changedSince: list(lines.changedSince) };
}
