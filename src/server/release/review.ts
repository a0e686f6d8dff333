import { and, desc, eq } from 'drizzle-orm';
import { z } from 'zod';
import type { QuestionSign } from '@/core/attempt/paperRuler';
import { id } from '@/core/base/id';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import type { Rich } from '@/core/base/rich';
import { type Instant, minute } from '@/core/base/time';
import type { Completion } from '@/core/gradebook/completion';
import { adjustmentSaid } from '@/core/marking/whyPoints';
import { type Fact, facts } from '@/core/release/plan';
import type { ReleaseFacts } from '@/core/release/visibleTo';
import { whatComes } from '@/core/release/whatComes';
import type { Db } from '@/db/client';
import { attempt, releaseView, user } from '@/db/schema';
import { command, query } from '../house/useCase';
import { paperAdjustments } from '../marking/markedSlots';
import type { SittingRow } from '../records/audience';
import { planOf } from '../records/audience';
import { bandsFor } from '../records/bandsHeld';
import { differs, type Published, standingPublications } from '../records/published';
import { toSitting } from '../sitting/toSitting';
import { heldAt, onceTo, releaseFactsFor, shownTo, whomIn } from './releaseFacts';
import { mayReply, type Reply, repliesOf } from './replies';
import { resultsOf } from './results';
import { isMissed, type ReviewQuestion, reviewPaper, strokeOf } from './reviewPaper';
import { type ReviewScore, scoreShown } from './scoreShown';
import { sinceLast, takenBackAt } from './sinceLast';
import { type Looked, toOwnResult } from './toOwnResult';

type ReviewedAttempt = { number: number; endedAt: Instant; counts: boolean };

export type Review = {
  sittingId: string;
  title: string;
  courseName: string;
  timeZone: string;
  visible: Fact[];
  /** What can be opened once, and for how long. */
  once: { facts: Fact[]; for: number } | null;
  /** Until when what was opened once stays in view. */
  openUntil: Instant | null;
  /** When which more is shown, and until when what is shown stays. */
  comes: string[];
  score: ReviewScore | null;
  /** What has changed since the student was last told a result, and why, in words. */
  changed: string[];
  /** When what was published last was taken back, where nothing stands published since. */
  takenBack: Instant | null;
  /** What was added to or taken from the papers that count, in words. */
  adjusted: string[];
  completion: { said: Completion; done: boolean } | null;
  attempts: ReviewedAttempt[];
  /** The attempt whose questions are shown. */
  attempt: number | null;
  attemptId: string | null;
  questions: ReviewQuestion[];
  passages: Record<string, Rich>;
  /** Pages of the answer sheet that was read into the attempt, as far as they can be looked at. */
  sheets: { pageId: string; page: number }[];
  signs: QuestionSign[];
  /** Whether cards can be made of what was missed. */
  cards: boolean;
  mayReply: boolean;
  replies: Reply[];
};

/** What a student may see of one sitting now. Unknown and foreign sittings are answered alike. */
export const myReview = query({
  admits: toOwnResult,
  takes: [z.int().nullable().default(null)],
  does: ({ db, now, ...looked }, number): Result<Review> => ok(reviewOf(db, looked, now, now, number)),
});

const lookAsInput = z.object({
  userId: id('user'),
  at: z.int(),
  number: z.int().nullable(),
  published: z.boolean(),
});

/**
 * What a student would see at a moment: the same as on their own page. What is known today is looked at as if it were that
 * moment; for a moment ahead, as if nothing more happened until then.
 */
export const reviewAs = query({
  admits: toSitting('results.publish'),
  takes: [lookAsInput],
  does(
    { context, timeZone, courseName, sitting: row },
    { userId, at, number, published },
  ): Result<Review & { student: string }> {
    const whom = whomIn(context.db, row, userId);
    if (!whom) return notFound('student of this sitting');
    const student = context.db.select({ name: user.name }).from(user).where(eq(user.id, userId)).get()?.name ?? '';
    return ok({
      student,
      ...reviewOf(context.db, { row, whom, timeZone, courseName }, context.now, at, number, published),
    });
  },
});

/** Of what stands published to a student, as it stood at a moment. */
function publishedAt(db: Db, row: SittingRow, userId: string, at: Instant, now: Instant): Published | null {
  const which = { preliminary: true, userId, ...(at === now ? {} : { at }) };
  return standingPublications(db, row.id, which).get(userId) ?? null;
}

/** When a student's result was published, where it has changed since; null where what stands published still holds. */
function changedPublished(db: Db, row: SittingRow, published: Published | null, userId: string): Instant | null {
  if (!published || published.preliminary) return null;
  const result = resultsOf(db, row, userId).get(userId)?.result;
  return result && differs(published, result) ? published.publishedAt : null;
}

/** What was added to or taken from the papers of a published result, as it stood when that was published. */
function adjustedSaid(db: Db, { attemptIds }: Published, before: Instant | null): string[] {
  const moments = new Map(before === null ? [] : attemptIds.map((id) => [id, before] as const));
  const found = paperAdjustments(db, attemptIds, moments);
  return attemptIds.flatMap((id) => {
    const one = found.get(id);
    return (one && adjustmentSaid(one.points, one.reason)) ?? [];
  });
}

function reviewOf(
  db: Db,
  { row, whom, timeZone, courseName }: Looked,
  now: Instant,
  at: Instant,
  number: number | null,
  asPublished = false,
): Review {
  const known = releaseFactsFor(db, row, whom, timeZone, now, at);
  const released: ReleaseFacts = asPublished
    ? { ...known, publications: [...known.publications, { publishedAt: at, withdrawnAt: null }] }
    : known;
  const { visible } = shownTo(db, row, released, at);
  const plan = planOf(row);
  const published = publishedAt(db, row, whom.userId, at, now);
  const { once } = onceTo(db, row, released, at);
  const opened = facts.flatMap((fact) => {
    const from = released.views[fact];
    const minutes = plan[fact]?.flatMap(({ ends }) => (ends?.kind === 'once' ? ends.minutes : []))[0];
    return from !== undefined && minutes !== undefined && visible.has(fact) ? [from + minutes * minute] : [];
  });
  const taken = db
    .select()
    .from(attempt)
    .where(and(eq(attempt.sittingId, row.id), eq(attempt.userId, whom.userId), eq(attempt.state, 'handed-in')))
    .orderBy(desc(attempt.number))
    .all()
    .filter((one) => one.endedAt !== null && one.endedAt <= at);
  const counting = new Set(published?.attemptIds ?? []);
  const one =
    taken.find((other) => other.number === number) ?? taken.find((other) => counting.has(other.id)) ?? taken[0];
  const shows = visible.has('questions') && one !== undefined && !row.anonymous;
  const changedSince =
    shows && !asPublished && counting.has(one.id) ? changedPublished(db, row, published, whom.userId) : null;
  const paper = shows ? reviewPaper(db, one.id, visible, changedSince) : { questions: [], passages: {}, sheets: [] };
  const { score, done } = scoreShown(row, published, visible, bandsFor(db, row));
  return {
    sittingId: row.id,
    title: row.title,
    courseName,
    timeZone,
    visible: [...visible],
    once: once.length ? { facts: once.map(({ fact }) => fact), for: Math.min(...once.map((two) => two.for)) } : null,
    openUntil: opened.length ? Math.min(...opened) : null,
    comes: whatComes({ plan, released, visible, heldAt: heldAt(db, row, now), now: at }, timeZone),
    score,
    changed:
      score && published ? sinceLast(db, row, whom.userId, published, timeZone, visible.has('right-or-wrong')) : [],
    takenBack: takenBackAt(db, row.id, whom.userId, at),
    adjusted: score && published ? adjustedSaid(db, published, changedPublished(db, row, published, whom.userId)) : [],
    completion: row.completion && { said: row.completion, done: done ?? false },
    attempts: visible.has('questions')
      ? taken
          .map((two) => ({ number: two.number, endedAt: two.endedAt ?? two.startedAt, counts: counting.has(two.id) }))
          .reverse()
      : [],
    attempt: shows ? one.number : null,
    attemptId: shows ? one.id : null,
    ...paper,
    signs: paper.questions.map((question) => strokeOf(question, visible)),
    cards: visible.has('right-answers') && visible.has('right-or-wrong') && paper.questions.some(isMissed),
    mayReply: mayReply(visible),
    replies: repliesOf(db, row.id, whom.userId),
  };
}

/** Opens what the plan shows once. From now on its time runs. */
export const openOnce = command({
  admits: toOwnResult,
  logs: 'results.open-once',
  does({ tx, context, sittingId, row, whom, timeZone, record }): Result<{ until: Instant }> {
    const released = releaseFactsFor(tx, row, whom, timeZone, context.now);
    const { once } = onceTo(context.db, row, released, context.now);
    if (once.length === 0) return refused('conflict', 'There is nothing to open now.');
    tx.insert(releaseView)
      .values(once.map(({ fact }) => ({ sittingId, userId: whom.userId, fact, openedAt: context.now })))
      .onConflictDoNothing()
      .run();
    record({
      subjectId: sittingId,
      detail: { facts: once.map((one) => one.fact) },
    });
    return ok({ until: context.now + Math.min(...once.map((one) => one.for)) });
  },
});
