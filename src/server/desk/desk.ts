import { and, asc, count, eq, isNull } from 'drizzle-orm';
import { waitingCount, waitingSaid } from '@/core/attempt/waiting';
import { ok, type Result } from '@/core/base/result';
import { day, type Instant, momentText } from '@/core/base/time';
import type { Role } from '@/core/people/policy';
import { feedbackReply, sitting } from '@/db/schema';
import { type UnsavedSheet, unsavedSheets } from '../bank/drafts';
import { type AskedLook, looksWaiting } from '../exam/looks';
import type { Context } from '../house/context';
import { query } from '../house/useCase';
import { markingQueue, type QueueRow } from '../marking/markingQueue';
import { openNotes } from '../people/courseNotes';
import { toCourse } from '../people/toCourse';
import { waitingIn } from '../records/waiting';
import { changedSince } from '../release/changedSince';
import { heldUntil } from '../release/releaseFacts';
import { listSittings, type SittingListRow } from '../sitting/sittings';

/** Within this time before its closing a sitting is about to close. */
const soon = day;

type DeskLine = { sittingId: string; title: string; count: number };

export type Desk = {
  role: Role;
  timeZone: string;
  now: Instant;
  open: SittingListRow[];
  /** Open ones that close within {@link soon}. */
  closingSoon: SittingListRow[];
  coming: SittingListRow[];
  drafts: SittingListRow[];
  marking: QueueRow[];
  /** Exams this person was asked to look at. */
  looks: AskedLook[];
  readyToPublish: DeskLine[];
  changedSince: DeskLine[];
  /** What waits for a decision in a sitting, in words. */
  decisions: (DeskLine & { says: string })[];
  /** Replies of students to their feedback that nobody has read. */
  replies: DeskLine[];
  /** Question sheets that this person began, at whatever browser, and has not saved. */
  unsaved: UnsavedSheet[];
  /** What needs a look since the course was begun from an earlier one. */
  notes: number;
};

/** What needs the person now: open and coming sittings, answers to mark, results to publish. */
export const desk = query({
  admits: toCourse('course.see'),
  does({ courseId, context, role, timeZone }): Result<Desk> {
    const empty = {
      role,
      timeZone,
      now: context.now,
      open: [],
      closingSoon: [],
      replies: [],
      coming: [],
      drafts: [],
      marking: [],
      looks: looksWaiting(context, courseId),
      decisions: [],
      readyToPublish: [],
      changedSince: [],
      unsaved: [],
      notes: 0,
    };
    const marking = markingQueue(context, courseId);
    const waiting = marking.ok ? marking.value.filter((row) => row.waiting > 0) : [];
    const sittings = listSittings(context, courseId);
    if (!sittings.ok || role !== 'instructor') return ok({ ...empty, marking: waiting });
    const closesSoon = (row: SittingListRow) => row.closes !== null && row.closes - context.now < soon;
    const inPhase = (phase: SittingListRow['phase']) => sittings.value.filter((row) => row.phase === phase);
    return ok({
      ...empty,
      open: inPhase('open').filter((row) => !closesSoon(row)),
      closingSoon: inPhase('open').filter(closesSoon),
      decisions: decisionsIn(context, courseId, timeZone),
      replies: unreadReplies(context, courseId),
      coming: inPhase('coming').reverse(),
      drafts: inPhase('draft'),
      marking: waiting,
      unsaved: unsavedSheets(context, courseId),
      notes: openNotes(context.db, courseId),
      ...publishable(context, courseId),
    });
  },
});

/** Results that are ready and unpublished, and those that changed after they were published, by sitting. */
function publishable(context: Context, courseId: string): Pick<Desk, 'readyToPublish' | 'changedSince'> {
  const { ready, changed } = changedSince(context, courseId);
  const rows = context.db
    .select({ sittingId: sitting.id, title: sitting.title })
    .from(sitting)
    .where(eq(sitting.courseId, courseId))
    .orderBy(asc(sitting.closes))
    .all();
  const list = (counts: (sittingId: string) => number | undefined): DeskLine[] =>
    rows.flatMap((row) => {
      const n = counts(row.sittingId);
      return n ? [{ ...row, count: n }] : [];
    });
  return {
    readyToPublish: list((sittingId) => ready.get(sittingId)),
    changedSince: list((sittingId) => changed.get(sittingId)?.size),
  };
}

/** What waits for a decision, by sitting; and what its students were promised and is held back. */
function decisionsIn({ db, now }: Context, courseId: string, timeZone: string): Desk['decisions'] {
  const waiting = waitingIn(db, { courseId });
  return db
    .select()
    .from(sitting)
    .where(and(eq(sitting.courseId, courseId), eq(sitting.state, 'scheduled')))
    .orderBy(asc(sitting.closes))
    .all()
    .flatMap((row) => {
      const own = waiting.get(row.id);
      const until = heldUntil(db, row, now);
      if (!own && until === null) return [];
      const held = until === null ? [] : [heldSaid(until, timeZone)];
      const count = (own ? waitingCount(own) : 0) + held.length;
      const says = [...(own ? waitingSaid(own) : []), ...held].join('; ');
      return [{ sittingId: row.id, title: row.title, count, says }];
    });
}

const heldSaid = (until: Instant, timeZone: string): string =>
  `what students were promised is held back${Number.isFinite(until) ? ` until ${momentText(until, timeZone)}` : ''}`;

/** Replies of students that nobody has read yet, by sitting. */
const unreadReplies = (context: Context, courseId: string): DeskLine[] =>
  context.db
    .select({ sittingId: sitting.id, title: sitting.title, count: count() })
    .from(feedbackReply)
    .innerJoin(sitting, eq(sitting.id, feedbackReply.sittingId))
    .where(and(eq(sitting.courseId, courseId), isNull(feedbackReply.readAt)))
    .groupBy(sitting.id)
    .orderBy(asc(sitting.closes))
    .all();
