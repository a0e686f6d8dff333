import { sql } from 'drizzle-orm';
import { index, integer, primaryKey, real, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core';
import type { Presentation } from '@/core/question/presentation';
import { passageVersion, questionVersion } from './bank';
import { id, json, moment } from './columns';
import { user } from './people';
import { poolSnapshot, sitting } from './sitting';

export const attempt = sqliteTable(
  'attempt',
  {
    id: id(),
    sittingId: text('sitting_id')
      .notNull()
      .references(() => sitting.id),
    userId: text('user_id')
      .notNull()
      .references(() => user.id),
    number: integer('number').notNull(),
    state: text('state').$type<'running' | 'handed-in' | 'voided'>().notNull(),
    snapshotId: text('snapshot_id')
      .notNull()
      .references(() => poolSnapshot.id),
    seed: text('seed').notNull(),
    startedAt: moment('started_at').notNull(),
    endedAt: moment('ended_at'),
    endedBy: text('ended_by').$type<'student' | 'clock' | 'invigilator'>(),
    /** Time given by the invigilator, in milliseconds. */
    added: integer('added').notNull().default(0),
    /** The browser that may write: each one that opens the taking page takes the next number. */
    writerEpoch: integer('writer_epoch').notNull().default(0),
    lastContact: moment('last_contact'),
  },
  (table) => [
    uniqueIndex('attempt_number').on(table.sittingId, table.userId, table.number),
    /** At most one running attempt for a student and sitting, whatever races. */
    uniqueIndex('attempt_one_running').on(table.sittingId, table.userId).where(sql`state = 'running'`),
    index('attempt_user').on(table.userId, table.startedAt),
    index('attempt_state').on(table.state, table.sittingId),
  ],
);

/** One place on a paper: which question version, in what form. Stored when the attempt starts, never re-derived. */
export const paperSlot = sqliteTable(
  'paper_slot',
  {
    id: id(),
    attemptId: text('attempt_id')
      .notNull()
      .references(() => attempt.id),
    position: integer('position').notNull(),
    partId: text('part_id').notNull(),
    partTitle: text('part_title').notNull(),
    lineId: text('line_id').notNull(),
    questionId: text('question_id').notNull(),
    versionId: text('version_id')
      .notNull()
      .references(() => questionVersion.id),
    passageVersionId: text('passage_version_id').references(() => passageVersion.id),
    points: real('points').notNull(),
    presentation: json<Presentation>('presentation').notNull(),
  },
  (table) => [
    uniqueIndex('paper_slot_position').on(table.attemptId, table.position),
    index('paper_slot_question').on(table.questionId),
    index('paper_slot_version').on(table.versionId),
  ],
);

/** The newest response to a slot. */
export const response = sqliteTable(
  'response',
  {
    slotId: text('slot_id')
      .primaryKey()
      .references(() => paperSlot.id),
    attemptId: text('attempt_id')
      .notNull()
      .references(() => attempt.id),
    value: json<unknown>('value'),
    comeBack: integer('come_back', { mode: 'boolean' }).notNull().default(false),
    /** Counts accepted saves of the slot; marks name the revision they judged. */
    revision: integer('revision').notNull(),
    epoch: integer('epoch').notNull(),
    sequence: integer('sequence').notNull(),
    savedAt: moment('saved_at').notNull(),
  },
  (table) => [index('response_attempt').on(table.attemptId)],
);

/** What a superseded browser brought, or what came too late: kept for the instructor, never counted by itself. */
export const responseAside = sqliteTable(
  'response_aside',
  {
    slotId: text('slot_id')
      .notNull()
      .references(() => paperSlot.id),
    epoch: integer('epoch').notNull(),
    sequence: integer('sequence').notNull(),
    value: json<unknown>('value'),
    reason: text('reason').$type<'superseded' | 'late'>().notNull(),
    receivedAt: moment('received_at').notNull(),
  },
  (table) => [primaryKey({ columns: [table.slotId, table.epoch, table.sequence] })],
);

/** A file that a student brought for a written answer. Which of them belong to the answer, the response says. */
export const responseFile = sqliteTable(
  'response_file',
  {
    id: id(),
    slotId: text('slot_id')
      .notNull()
      .references(() => paperSlot.id),
    name: text('name').notNull(),
    type: text('type').notNull(),
    bytes: integer('bytes').notNull(),
    hash: text('hash').notNull(),
    receivedAt: moment('received_at').notNull(),
  },
  (table) => [index('response_file_slot').on(table.slotId)],
);

/** Everything that happened to an attempt, in order. */
export const attemptEvent = sqliteTable(
  'attempt_event',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    attemptId: text('attempt_id')
      .notNull()
      .references(() => attempt.id),
    at: moment('at').notNull(),
    kind: text('kind').$type<'started' | 'opened' | 'superseded-save' | 'late-save' | 'handed-in'>().notNull(),
    actorId: text('actor_id'),
    detail: json<Record<string, unknown>>('detail'),
  },
  (table) => [index('attempt_event_attempt').on(table.attemptId, table.id)],
);
