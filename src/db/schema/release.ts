import { index, integer, primaryKey, real, sqliteTable, text } from 'drizzle-orm/sqlite-core';
import type { BandTold } from '@/core/gradebook/bands';
import type { Fact } from '@/core/release/plan';
import { id, json, moment, reference } from './columns';
import { user } from './people';
import { sitting } from './sitting';

/** A result as it was put in front of a student. What was published is kept as published. */
export const publication = sqliteTable(
  'publication',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    sittingId: reference('sitting_id', () => sitting.id),
    userId: reference('user_id', () => user.id),
    earned: real('earned').notNull(),
    possible: real('possible').notNull(),
    /** The attempts the result rested on. */
    attemptIds: json<string[]>('attempt_ids').notNull(),
    /**
     * Written by a moment of the release plan, before publishing: the student sees it as a preliminary score, and no total
     * rests on it.
     */
    preliminary: integer('preliminary', { mode: 'boolean' }).notNull().default(false),
    /** Points of the questions that had a mark, and how many questions waited for one. */
    marked: real('marked'),
    waiting: integer('waiting').notNull().default(0),
    /** The band as the student was told it; null for preliminary scores and for what was published before it was kept. */
    told: json<BandTold>('told'),
    publishedAt: moment('published_at').notNull(),
    publishedBy: text('published_by').notNull(),
    withdrawnAt: moment('withdrawn_at'),
  },
  (table) => [
    index('publication_sitting').on(table.sittingId, table.userId, table.id),
    index('publication_user').on(table.userId),
  ],
);

/** When a student opened what their release plan shows once. */
export const releaseView = sqliteTable(
  'release_view',
  {
    sittingId: reference('sitting_id', () => sitting.id),
    userId: reference('user_id', () => user.id),
    fact: text('fact').$type<Fact>().notNull(),
    openedAt: moment('opened_at').notNull(),
  },
  (table) => [primaryKey({ columns: [table.sittingId, table.userId, table.fact] })],
);

/** What a student answered to the feedback on a sitting. */
export const feedbackReply = sqliteTable(
  'feedback_reply',
  {
    id: id(),
    sittingId: reference('sitting_id', () => sitting.id),
    userId: reference('user_id', () => user.id),
    text: text('text').notNull(),
    at: moment('at').notNull(),
    readAt: moment('read_at'),
    readBy: text('read_by').references(() => user.id),
    /** What was answered to it; null where nothing has been. */
    answer: text('answer'),
    answeredAt: moment('answered_at'),
    answeredBy: text('answered_by').references(() => user.id),
  },
  (table) => [index('feedback_reply_sitting').on(table.sittingId, table.userId)],
);
