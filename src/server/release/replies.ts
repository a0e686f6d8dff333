import { and, asc, desc, eq, isNull } from 'drizzle-orm';
import { z } from 'zod';
import { ok, type Result, refused } from '@/core/base/result';
import type { Instant } from '@/core/base/time';
import type { Fact } from '@/core/release/plan';
import type { Db } from '@/db/client';
import { feedbackReply, user } from '@/db/schema';
import { newId } from '../house/context';
import { command, field, query } from '../house/useCase';
import { toSitting } from '../sitting/toSitting';
import { releaseFactsFor, shownTo } from './releaseFacts';
import { toOwnResult } from './toOwnResult';

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

const mostReplies = 20;

const replyInput = z.string().trim().min(1, 'Write something first.').max(4_000, 'At most 4000 characters.');

/** Takes a student's reply to the feedback on their paper. */
export const replyToFeedback = command({
  admits: toOwnResult,
  takes: [field('text', replyInput)],
  logs: 'results.reply',
  does({ tx, context, sittingId, row, whom, timeZone, record }, text): Result<Reply> {
    const { visible } = shownTo(
      context.db,
      row,
      releaseFactsFor(context.db, row, whom, timeZone, context.now),
      context.now,
    );
    if (!mayReply(visible)) return refused('not-allowed', 'There is nothing to reply to yet.');
    const before = tx
      .select({ id: feedbackReply.id })
      .from(feedbackReply)
      .where(and(eq(feedbackReply.sittingId, sittingId), eq(feedbackReply.userId, whom.userId)))
      .all();
    if (before.length >= mostReplies)
      return refused('conflict', `${mostReplies} replies are there already. Talk to your instructor.`);
    tx.insert(feedbackReply).values({ id: newId(), sittingId, userId: whom.userId, text, at: context.now }).run();
    record({ subjectId: sittingId });
    return ok({ text, at: context.now, read: false });
  },
});

export type ReplyToRead = {
  id: string;
  userId: string;
  name: string;
  text: string;
  at: Instant;
  readAt: Instant | null;
};

/** What students replied to the feedback on a sitting, unread ones first. */
export const repliesTo = query({
  admits: toSitting('results.publish'),
  does({ sittingId, context }): Result<ReplyToRead[]> {
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
  },
});

/** Marks replies as read. */
export const readReplies = command({
  admits: toSitting('results.publish'),
  unlogged: 'that it was read, and by whom, stands with each reply',
  does({ tx, sittingId, context }): Result<{ read: number }> {
    const done = tx
      .update(feedbackReply)
      .set({ readAt: context.now, readBy: context.actor.userId })
      .where(and(eq(feedbackReply.sittingId, sittingId), isNull(feedbackReply.readAt)))
      .run();
    return ok({ read: done.changes });
  },
});
