import { index, integer, primaryKey, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core';
import type { LedRound } from '@/core/round/ledRound';
import type { RoundRules } from '@/core/round/roundRules';
import { paperSlot } from './attempt';
import { json, moment, reference } from './columns';
import { course, user } from './people';
import { sitting } from './sitting';

/** What a round has beyond its sitting, whose opening and closing are acts. */
export const round = sqliteTable('round', {
  sittingId: text('sitting_id')
    .primaryKey()
    .references(() => sitting.id),
  rules: json<RoundRules>('rules').notNull(),
  /** Where each question stands; null where everybody goes through by themselves. */
  led: json<LedRound>('led'),
  /** Asked without preparation: its questions are items that are added as they are asked. */
  onTheSpot: integer('on_the_spot', { mode: 'boolean' }).notNull().default(false),
  stoppedAt: moment('stopped_at'),
  /** The question that is talked through after the stop, from 0; null while none is. */
  walkedTo: integer('walked_to'),
  /** What made-up handsets come in with; null while none may. */
  madeUpKey: text('made_up_key'),
});

/** The door codes of courses: the one in use has no end, and a code that was in use never leads to another course. */
export const doorCode = sqliteTable(
  'door_code',
  {
    code: text('code').primaryKey(),
    courseId: reference('course_id', () => course.id),
    since: moment('since').notNull(),
    until: moment('until'),
  },
  (table) => [index('door_code_course').on(table.courseId, table.until)],
);

/** A device that came into a round without signing in, and the person without a password who stands for it. */
export const handset = sqliteTable(
  'handset',
  {
    userId: text('user_id')
      .primaryKey()
      .references(() => user.id),
    sittingId: reference('sitting_id', () => sitting.id),
    /** The name as it was typed; empty where none was asked for. */
    typed: text('typed').notNull(),
    studentNumber: text('student_number'),
    /** What its owner types to go on at another device. */
    wayBack: text('way_back').notNull(),
    /** Simulated: what it does never counts. */
    madeUp: integer('made_up', { mode: 'boolean' }).notNull().default(false),
    /** The person on the roster it was found to be; null while nobody has said. */
    standsFor: text('stands_for').references(() => user.id),
    joinedAt: moment('joined_at').notNull(),
    sentOutAt: moment('sent_out_at'),
  },
  (table) => [
    index('handset_sitting').on(table.sittingId),
    uniqueIndex('handset_number').on(table.sittingId, table.studentNumber),
  ],
);

/** The newest response to a question in each of its votes, where a round asked it. */
export const vote = sqliteTable(
  'vote',
  {
    slotId: reference('slot_id', () => paperSlot.id),
    /** From 1. */
    number: integer('number').notNull(),
    value: json<unknown>('value'),
    savedAt: moment('saved_at').notNull(),
  },
  (table) => [primaryKey({ columns: [table.slotId, table.number] })],
);
