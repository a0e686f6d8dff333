import { index, integer, real, sqliteTable, text } from 'drizzle-orm/sqlite-core';
import { paperSlot } from './attempt';
import { questionVersion } from './bank';
import { moment } from './columns';

/** Marks are only ever added; the newest of a slot counts. */
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
  },
  (table) => [index('mark_slot').on(table.slotId, table.id)],
);
