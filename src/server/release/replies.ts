import { and, asc, desc, eq, isNull } from 'drizzle-orm';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import type { Instant } from '@/core/base/time';
import type { Fact } from '@/core/release/plan';
import type { Db } from '@/db/client';
import { feedbackReply, user } from '@/db/schema';
import { record } from '../house/audit';
import { type Context, newId } from '../house/context';
import { admit } from '../people/permission';
import { sittingOf } from '../sitting/audience';
import { ownSitting } from './ownSitting';
import { releaseFactsFor, shownTo } from './releaseFacts';

export type Reply = { text: string; at: Instant; read: boolean };

/** Whether there is anything that a student could reply to. */
export const mayReply = (visible: ReadonlySet<Fact>): boolean =>
  visible.has('score') || visible.has('comments') || visible.has('feedback');

/** What a student has replied so far. */
export const repliesOf = (db: Db, sittingId: string, userId: string): Reply[] =>
  db
    .select({ text: feedbackReply.text, at: feedbackReply.at, readAt: feedbackReply.readAt })
    .from(feedbackReply)
    .where(and(eq(feedbackReply.sittingId, sittingId), eq(feedbackReply.userId, userId)))
    .orderBy(asc(feedbackReply.at))
    .all()
    .map(({ text, at, readAt }) => ({ text, at, read: readAt !== null }));

const longestReply = 4_000;
const mostReplies = 20;

/** Takes a student's reply to the feedback on their paper. */
export function replyToFeedback(context: Context, sittingId: string, word: string): Result<Reply> {
  const looked = ownSitting(context, sittingId);
  if (!looked.ok) return looked;
  const text = word.trim();
  if (text === '') return refused('bad-input', 'Write something first.', 'text');
  if (text.length > longestReply) return refused('bad-input', `At most ${longestReply} characters.`, 'text');
  const { row, whom, timeZone } = looked.value;
  const { visible } = shownTo(
    context.db,
    row,
    releaseFactsFor(context.db, row, whom, timeZone, context.now),
    context.now,
  );
  if (!mayReply(visible)) return refused('not-allowed', 'There is nothing to reply to yet.');
  return context.db.transaction(
    (tx): Result<Reply> => {
      const before = tx
        .select({ id: feedbackReply.id })
        .from(feedbackReply)
        .where(and(eq(feedbackReply.sittingId, sittingId), eq(feedbackReply.userId, whom.userId)))
        .all();
      if (before.length >= mostReplies)
        return refused('conflict', `${mostReplies} replies are there already. Talk to your instructor.`);
      tx.insert(feedbackReply).values({ id: newId(), sittingId, userId: whom.userId, text, at: context.now }).run();
      record(tx, context, { action: 'results.reply', courseId: row.courseId, subjectId: sittingId, detail: {} });
      return ok({ text, at: context.now, read: false });
    },
    { behavior: 'immediate' },
  );
}

export type ReplyToRead = {
  id: string;
  userId: string;
  name: string;
  text: string;
  at: Instant;
  readAt: Instant | null;
};

/** What students replied to the feedback on a sitting, unread ones first. */
export function repliesTo(context: Context, courseId: string, sittingId: string): Result<ReplyToRead[]> {
  const admitted = admit(context, courseId, 'results.publish');
  if (!admitted.ok) return admitted;
  if (!sittingOf(context.db, courseId, sittingId)) return notFound('sitting');
  const rows = context.db
    .select({
      id: feedbackReply.id,
      userId: feedbackReply.userId,
      name: user.name,
      text: feedbackReply.text,
      at: feedbackReply.at,
      readAt: feedbackReply.readAt,
    })
    .from(feedbackReply)
    .innerJoin(user, eq(user.id, feedbackReply.userId))
    .where(eq(feedbackReply.sittingId, sittingId))
    .orderBy(desc(feedbackReply.at))
    .all();
  return ok([...rows.filter((one) => one.readAt === null), ...rows.filter((one) => one.readAt !== null)]);
}

/** Marks replies as read. */
export function readReplies(context: Context, courseId: string, sittingId: string): Result<{ read: number }> {
  const admitted = admit(context, courseId, 'results.publish');
  if (!admitted.ok) return admitted;
  if (!sittingOf(context.db, courseId, sittingId)) return notFound('sitting');
  const done = context.db
    .update(feedbackReply)
    .set({ readAt: context.now, readBy: context.actor.userId })
    .where(and(eq(feedbackReply.sittingId, sittingId), isNull(feedbackReply.readAt)))
    .run();
  return ok({ read: done.changes });
}
