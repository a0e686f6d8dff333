import { and, asc, desc, eq, isNull } from 'drizzle-orm';
import { alias } from 'drizzle-orm/sqlite-core';
import { z } from 'zod';
import { id } from '@/core/base/id';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import type { Instant } from '@/core/base/time';
import type { Fact } from '@/core/release/plan';
import type { Db } from '@/db/client';
import { feedbackReply, user } from '@/db/schema';
import { newId } from '../house/context';
import { send } from '../house/outbox';
import { command, field, query } from '../house/useCase';
import { toSitting } from '../sitting/toSitting';
import { releaseFactsFor, shownTo } from './releaseFacts';
import { toOwnResult } from './toOwnResult';

/** What was answered to a reply, by whom. */
type Answer = { text: string; at: Instant; by: string };

export type Reply = { text: string; at: Instant; read: boolean; answer: Answer | null };

/** Whether there is anything that a student could reply to. */
export const mayReply = (visible: ReadonlySet<Fact>): boolean =>
  visible.has('score') || visible.has('comments') || visible.has('feedback');

const replyColumns = {
  text: feedbackReply.text,
  at: feedbackReply.at,
  readAt: feedbackReply.readAt,
  answer: feedbackReply.answer,
  answeredAt: feedbackReply.answeredAt,
  answeredBy: user.name,
};

const answerOf = (row: { answer: string | null; answeredAt: Instant | null; answeredBy: string | null }) =>
  row.answer === null || row.answeredAt === null
    ? null
    : { text: row.answer, at: row.answeredAt, by: row.answeredBy ?? '' };

/** What a student has replied so far, and what was answered. */
export const repliesOf = (db: Db, sittingId: string, userId: string): Reply[] =>
  db
    .select(replyColumns)
    .from(feedbackReply)
    .leftJoin(user, eq(user.id, feedbackReply.answeredBy))
    .where(and(eq(feedbackReply.sittingId, sittingId), eq(feedbackReply.userId, userId)))
    .orderBy(asc(feedbackReply.at))
    .all()
    .map((row) => ({ text: row.text, at: row.at, read: row.readAt !== null, answer: answerOf(row) }));

const mostReplies = 20;

const answerInput = z.string().trim().min(1, 'Write an answer.').max(4_000, 'At most 4000 characters.');
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
    return ok({ text, at: context.now, read: false, answer: null });
  },
});

export type ReplyToRead = {
  id: string;
  userId: string;
  name: string;
  text: string;
  at: Instant;
  readAt: Instant | null;
  answer: Answer | null;
};

/** What students replied to the feedback on a sitting, unread ones first. */
export const repliesTo = query({
  admits: toSitting('results.publish'),
  does({ sittingId, context }): Result<ReplyToRead[]> {
    const student = alias(user, 'student');
    const rows = context.db
      .select({ ...replyColumns, id: feedbackReply.id, userId: feedbackReply.userId, name: student.name })
      .from(feedbackReply)
      .innerJoin(student, eq(student.id, feedbackReply.userId))
      .leftJoin(user, eq(user.id, feedbackReply.answeredBy))
      .where(eq(feedbackReply.sittingId, sittingId))
      .orderBy(desc(feedbackReply.at))
      .all()
      .map(({ id, userId, name, text, at, readAt, ...row }) => ({
        id,
        userId,
        name,
        text,
        at,
        readAt,
        answer: answerOf(row),
      }));
    return ok([...rows.filter((one) => one.readAt === null), ...rows.filter((one) => one.readAt !== null)]);
  },
});

/**
 * Answers a student's reply, once: the answer stands under it, and is written to the student. It is read by that. A second
 * answer is refused, so that two who answer do not speak against each other; a student who is not done with it replies again.
 */
export const answerReply = command({
  admits: toSitting('results.publish'),
  takes: [id('reply'), field('text', answerInput)],
  logs: 'results.answer-reply',
  does({ tx, courseId, sittingId, sitting: row, record, context }, replyId, text): Result<null> {
    const reply = tx
      .select({ ...replyColumns, userId: feedbackReply.userId })
      .from(feedbackReply)
      .leftJoin(user, eq(user.id, feedbackReply.answeredBy))
      .where(and(eq(feedbackReply.id, replyId), eq(feedbackReply.sittingId, sittingId)))
      .get();
    if (!reply) return notFound('reply');
    if (reply.answer !== null)
      return refused('conflict', `${reply.answeredBy} has answered this reply: “${reply.answer}”`, 'text');
    tx.update(feedbackReply)
      .set({
        answer: text,
        answeredAt: context.now,
        answeredBy: context.actor.userId,
        ...(reply.readAt === null ? { readAt: context.now, readBy: context.actor.userId } : {}),
      })
      .where(eq(feedbackReply.id, replyId))
      .run();
    const to = tx.select({ userId: user.id, email: user.email }).from(user).where(eq(user.id, reply.userId)).all();
    send(
      tx,
      context,
      courseId,
      to.map((one) => ({
        ...one,
        subject: `${row.title}: an answer to your reply`,
        body: `${text}\n\nYou wrote:\n${reply.text}`,
      })),
    );
    record({ subjectId: sittingId, detail: { replyId } });
    return ok(null);
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
