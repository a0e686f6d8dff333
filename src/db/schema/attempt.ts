import { sql } from 'drizzle-orm';
import { index, integer, primaryKey, real, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core';
import type { AttemptEventKind } from '@/core/attempt/attemptEvents';
import type { Phase } from '@/core/attempt/attemptMachine';
import type { AsideReason, EndedBy } from '@/core/attempt/standing';
import type { Presentation } from '@/core/question/presentation';
import { passageVersion, questionVersion } from './bank';
import { id, json, moment, reference } from './columns';
import { examRevision } from './exam';
import { user } from './people';
import { poolSnapshot, sitting } from './sitting';

export const attempt = sqliteTable(
  'attempt',
  {
    id: id(),
    sittingId: reference('sitting_id', () => sitting.id),
    userId: reference('user_id', () => user.id),
    number: integer('number').notNull(),
    state: text('state').$type<Phase>().notNull(),
    /** Where a voided attempt stood before. */
    stateBefore: text('state_before').$type<Phase>(),
    snapshotId: reference('snapshot_id', () => poolSnapshot.id),
    /** The design the paper was drawn by: a sitting may take up a later one, a paper never. */
    revisionId: reference('revision_id', () => examRevision.id),
    /** Empty in an anonymous sitting: from the seed its paper could be drawn again. */
    seed: text('seed').notNull(),
    startedAt: moment('started_at').notNull(),
    endedAt: moment('ended_at'),
    endedBy: text('ended_by').$type<EndedBy>(),
    /** Time given by the invigilator, in milliseconds. */
    added: integer('added').notNull().default(0),
    /** The device that wrote it, where it was found afterwards whose it was; null where its person wrote it as themselves. */
    cameAs: text('came_as').references(() => user.id),
    /** The browser that may write: each one that opens the taking page takes the next number. */
    writerEpoch: integer('writer_epoch').notNull().default(0),
    lastContact: moment('last_contact'),
    /** The furthest page opened, from 0, where the way is onward only. */
    reached: integer('reached').notNull().default(0),
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
    attemptId: reference('attempt_id', () => attempt.id),
    position: integer('position').notNull(),
    partId: text('part_id').notNull(),
    partTitle: text('part_title').notNull(),
    lineId: text('line_id').notNull(),
    questionId: text('question_id').notNull(),
    versionId: reference('version_id', () => questionVersion.id),
    passageVersionId: text('passage_version_id').references(() => passageVersion.id),
    points: real('points').notNull(),
    presentation: json<Presentation>('presentation').notNull(),
    /** When the student opened a question that has a time of its own. */
    openedAt: moment('opened_at'),
    /** When its student took it again at the end, because it was missed. */
    againAt: moment('again_at'),
    /** How long it stood alone in view, in milliseconds, as the student's browser counted; null where it did not. */
    inView: integer('in_view'),
  },
  (table) => [
    uniqueIndex('paper_slot_position').on(table.attemptId, table.position),
    index('paper_slot_question').on(table.questionId),
    index('paper_slot_version').on(table.versionId),
    index('paper_slot_in_view').on(table.questionId, table.inView).where(sql`in_view is not null`),
  ],
);

/** The newest response to a slot. */
export const response = sqliteTable(
  'response',
  {
    slotId: text('slot_id')
      .primaryKey()
      .references(() => paperSlot.id),
    attemptId: reference('attempt_id', () => attempt.id),
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

/** A question checked before the hand-in: what stood there and what it earned, before the cost of further tries. */
export const questionTry = sqliteTable(
  'question_try',
  {
    slotId: reference('slot_id', () => paperSlot.id),
    number: integer('number').notNull(),
    /** Whether the question had come again at the end. */
    again: integer('again', { mode: 'boolean' }).notNull().default(false),
    responseRevision: integer('response_revision').notNull(),
    value: json<unknown>('value'),
    credit: real('credit').notNull(),
    at: moment('at').notNull(),
  },
  (table) => [primaryKey({ columns: [table.slotId, table.number] })],
);

/**
 * What a superseded browser brought, what came too late for the attempt or for its question, or went beyond what a
 * choose-part asks for: kept for the instructor, never counted by itself.
 */
export const responseAside = sqliteTable(
  'response_aside',
  {
    slotId: reference('slot_id', () => paperSlot.id),
    epoch: integer('epoch').notNull(),
    sequence: integer('sequence').notNull(),
    value: json<unknown>('value'),
    reason: text('reason').$type<AsideReason>().notNull(),
    receivedAt: moment('received_at').notNull(),
    /** Whether it was given at a moment before the deadline, as its browser says; null where it does not say. */
    givenAt: moment('given_at'),
    /** What the instructor decided about it. */
    decision: text('decision').$type<'taken' | 'left'>(),
    decidedBy: text('decided_by'),
    decidedAt: moment('decided_at'),
  },
  (table) => [
    primaryKey({ columns: [table.slotId, table.epoch, table.sequence] }),
    index('response_aside_open').on(table.slotId).where(sql`decision is null`),
  ],
);

/** A file that a student brought for a written answer. Which of them belong to the answer, the response says. */
export const responseFile = sqliteTable(
  'response_file',
  {
    id: id(),
    slotId: reference('slot_id', () => paperSlot.id),
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
    attemptId: reference('attempt_id', () => attempt.id),
    at: moment('at').notNull(),
    kind: text('kind').$type<AttemptEventKind>().notNull(),
    actorId: text('actor_id'),
    detail: json<Record<string, unknown>>('detail'),
  },
  (table) => [index('attempt_event_attempt').on(table.attemptId, table.id)],
);

/**
 * An answer of an anonymous sitting. Nothing leads from it to a person: no attempt, no time, no order (the table has no
 * row numbers and lies in the order of its random keys), and the paper it belonged to is deleted as it enters.
 */
export const anonymousAnswer = sqliteTable(
  'anonymous_answer',
  {
    id: id(),
    sittingId: reference('sitting_id', () => sitting.id),
    /** Random; the same for the answers of one paper. */
    sheet: text('sheet').notNull(),
    partTitle: text('part_title').notNull(),
    questionId: text('question_id').notNull(),
    versionId: reference('version_id', () => questionVersion.id),
    points: real('points').notNull(),
    presentation: json<Presentation>('presentation').notNull(),
    value: json<unknown>('value'),
  },
  (table) => [index('anonymous_answer_sitting').on(table.sittingId, table.versionId)],
);
