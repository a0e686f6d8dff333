import { and, asc, count, eq, isNull, ne, or, sql } from 'drizzle-orm';
import { nothingWaits, type Waiting, waitingCount, waitingSaid } from '@/core/attempt/waiting';
import { ok, type Result } from '@/core/base/result';
import { day, type Instant, momentText } from '@/core/base/time';
import type { Role } from '@/core/people/policy';
import type { TermLine } from '@/core/sitting/termLine';
import type { Db } from '@/db/client';
import { courseBank, exam, feedbackReply, membership, question, sitting } from '@/db/schema';
import { type UnsavedSheet, unsavedSheets } from '../bank/drafts';
import { type AskedLook, looksWaiting, type OpenRemarks, openRemarks } from '../exam/looks';
import type { Context } from '../house/context';
import { query } from '../house/useCase';
import { markingQueue, type QueueRow } from '../marking/markingQueue';
import { openNotes } from '../people/courseNotes';
import { toCourse } from '../people/toCourse';
import { waitingIn } from '../records/waiting';
import { changedSince } from '../release/changedSince';
import { heldUntil } from '../release/releaseFacts';
import { listSittings, type SittingListRow } from '../sitting/sittings';
import { courseLine } from './term';

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
  /** What waits for a decision in a sitting, in words, and where below the course it is decided. */
  decisions: (DeskLine & { says: string; path: string })[];
  /** The term with every sitting on one line; null where nothing would stand on it. */
  line: TermLine | null;
  /** Open remarks of colleagues on exams of the course. */
  remarks: OpenRemarks[];
  /** What the way to a first sitting lacks next; null once one has been scheduled. */
  next: NextStep | null;
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
      line: null,
      remarks: [],
      next: null,
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
      line: courseLine(context, courseId, timeZone),
      remarks: openRemarks(context, courseId),
      next: nextStep(context.db, courseId),
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
    // Of a round that does not count nothing has to be published.
    .where(and(eq(sitting.courseId, courseId), or(eq(sitting.isRound, false), ne(sitting.counts, 'no'))))
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
      const line = (path: string, some: Partial<Waiting>): Desk['decisions'] => {
        const these = { ...nothingWaits, ...some };
        const count = waitingCount(these);
        return count > 0
          ? [{ sittingId: row.id, title: row.title, count, says: waitingSaid(these).join('; '), path }]
          : [];
      };
      const here = `/sittings/${row.id}`;
      const { asides = 0, asidesOf = [], reports = 0, incidents = 0, differences = 0, sheets = 0 } = own ?? {};
      return [
        ...line(`${here}/room`, { asides, asidesOf, incidents }),
        ...line(`${here}/reports`, { reports }),
        ...line(`/marking/${row.id}/second`, { differences }),
        ...line(`${here}/answer-sheets/review`, { sheets }),
        ...(until === null
          ? []
          : [{ sittingId: row.id, title: row.title, count: 1, says: heldSaid(until, timeZone), path: here }]),
      ];
    });
}

/** The steps to a first sitting, in the order of the work. */
export type NextStep = 'people' | 'banks' | 'exams' | 'sittings';

/** The first step of the way to a first sitting that is not done; null once a sitting has been scheduled. */
function nextStep(db: Db, courseId: string): NextStep | null {
  const has = (found: unknown) => found !== undefined;
  const one = { one: sql<number>`1` };
  const scheduled = db
    .select(one)
    .from(sitting)
    .where(and(eq(sitting.courseId, courseId), ne(sitting.state, 'draft')))
    .limit(1)
    .get();
  if (has(scheduled)) return null;
  const student = db
    .select(one)
    .from(membership)
    .where(and(eq(membership.courseId, courseId), eq(membership.role, 'student'), isNull(membership.removedAt)))
    .limit(1)
    .get();
  if (!has(student)) return 'people';
  const written = db
    .select(one)
    .from(question)
    .innerJoin(courseBank, eq(courseBank.bankId, question.bankId))
    .where(and(eq(courseBank.courseId, courseId), isNull(question.retiredAt)))
    .limit(1)
    .get();
  if (!has(written)) return 'banks';
  const composed = db
    .select(one)
    .from(exam)
    .where(and(eq(exam.courseId, courseId), isNull(exam.archivedAt)))
    .limit(1)
    .get();
  return has(composed) ? 'sittings' : 'exams';
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
