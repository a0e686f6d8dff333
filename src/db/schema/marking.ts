import { index, integer, real, sqliteTable, text } from 'drizzle-orm/sqlite-core';
import { paperSlot } from './attempt';
import { questionVersion } from './bank';
import { moment } from './columns';

/** Marks are only ever added; the newest of a slot counts, unless the response it judged has changed since. */
export const mark = sqliteTable(
  'mark',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    slotId: text('slot_id')
      .notNull()
      .references(() => paperSlot.id),
    /** What it judged: 0 is an empty response. */
    responseRevision: integer('response_revision').notNull(),
    versionId: text('version_id')
      .notNull()
      .references(() => questionVersion.id),
    kind: text('kind').$type<'automatic' | 'hand' | 'adjusted'>().notNull(),
    points: real('points').notNull(),
    comment: text('comment').notNull().default(''),
    reason: text('reason').notNull().default(''),
    markerId: text('marker_id'),
    at: moment('at').notNull(),
    /** Set when the attempt was opened again and the response is another one now: the mark stays to be read, and waits anew. */
    outdated: integer('outdated', { mode: 'boolean' }).notNull().default(false),
  },
  (table) => [index('mark_slot').on(table.slotId, table.id)],
);
