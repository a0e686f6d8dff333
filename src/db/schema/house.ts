import { sql } from 'drizzle-orm';
import { index, integer, primaryKey, sqliteTable, text } from 'drizzle-orm/sqlite-core';
import { json, moment } from './columns';

/** One row for each fact about this installation: its kind (production, demo, test) and its secret. */
export const installation = sqliteTable('installation', {
  name: text('name').primaryKey(),
  value: text('value').notNull(),
});

/** Who changed what. Written in the same transaction as the change. `undo` holds what takes it back, where it can be. */
export const audit = sqliteTable(
  'audit',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    at: moment('at').notNull(),
    actorId: text('actor_id'),
    courseId: text('course_id'),
    action: text('action').notNull(),
    subjectId: text('subject_id').notNull(),
    detail: json<Record<string, unknown>>('detail'),
    undo: json<Record<string, unknown>>('undo'),
    undoneAt: moment('undone_at'),
    /** Of what can be taken back: the bank, exam or sitting within which it was done; null for the course itself. */
    within: text('within'),
  },
  (table) => [
    index('audit_course').on(table.courseId, table.id),
    index('audit_subject').on(table.subjectId, table.id),
    index('audit_undo').on(table.courseId, table.at).where(sql`undo is not null`),
    index('audit_within').on(table.within, table.at).where(sql`undo is not null`),
  ],
);

/** Messages to people. It stands in for a mail server. */
export const outbox = sqliteTable(
  'outbox',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    at: moment('at').notNull(),
    courseId: text('course_id'),
    userId: text('user_id').notNull(),
    email: text('email').notNull(),
    subject: text('subject').notNull(),
    body: text('body').notNull(),
  },
  (table) => [index('outbox_course').on(table.courseId, table.id), index('outbox_user').on(table.userId)],
);

/** Long work on the server: it survives a restart because it has a row. */
export const job = sqliteTable(
  'job',
  {
    id: text('id').primaryKey(),
    kind: text('kind').notNull(),
    state: text('state').$type<'waiting' | 'running' | 'done' | 'failed' | 'cancelled'>().notNull(),
    done: integer('done').notNull().default(0),
    total: integer('total').notNull().default(0),
    input: json<unknown>('input'),
    output: json<unknown>('output'),
    problem: text('problem'),
    startedBy: text('started_by'),
    createdAt: moment('created_at').notNull(),
    endedAt: moment('ended_at'),
  },
  (table) => [index('job_state').on(table.state, table.createdAt)],
);

/** What a person set last, where the next one begins with it. */
export const preference = sqliteTable(
  'preference',
  {
    userId: text('user_id').notNull(),
    name: text('name').notNull(),
    value: json<unknown>('value').notNull(),
  },
  (table) => [primaryKey({ columns: [table.userId, table.name] })],
);

/**
 * Commands that were carried out under a name of their sender's, with what was answered: sent again under the same name,
 * because the answer got lost, each is answered anew and not carried out twice.
 */
export const carriedOut = sqliteTable(
  'carried_out',
  {
    userId: text('user_id').notNull(),
    once: text('once').notNull(),
    at: moment('at').notNull(),
    answer: json<unknown>('answer'),
  },
  (table) => [primaryKey({ columns: [table.userId, table.once] }), index('carried_out_at').on(table.at)],
);
