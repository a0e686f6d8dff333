import { index, integer, real, sqliteTable, text } from 'drizzle-orm/sqlite-core';
import { json, moment } from './columns';
import { user } from './people';
import { sitting } from './sitting';

/** A result as it was put in front of a student. What was published is kept as published. */
export const publication = sqliteTable(
  'publication',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    sittingId: text('sitting_id')
      .notNull()
      .references(() => sitting.id),
    userId: text('user_id')
      .notNull()
      .references(() => user.id),
    earned: real('earned').notNull(),
    possible: real('possible').notNull(),
    /** The attempts the result rested on. */
    attemptIds: json<string[]>('attempt_ids').notNull(),
    publishedAt: moment('published_at').notNull(),
    publishedBy: text('published_by').notNull(),
    withdrawnAt: moment('withdrawn_at'),
  },
  (table) => [
    index('publication_sitting').on(table.sittingId, table.userId, table.id),
    index('publication_user').on(table.userId),
  ],
);
