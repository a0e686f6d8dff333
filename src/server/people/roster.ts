import { and, asc, count, desc, eq, inArray, isNotNull, isNull, sql } from 'drizzle-orm';
import { z } from 'zod';
import { ok, type Result, refused } from '@/core/base/result';
import type { Instant } from '@/core/base/time';
import { counted } from '@/core/base/words';
import { type NameOrder, nameInList, sortedByName } from '@/core/people/names';
import { type Role, roles } from '@/core/people/policy';
import { type BadRosterRow, type RosterRow, readRoster } from '@/core/people/readRoster';
import type { Db, Tx } from '@/db/client';
import { membership, section, user } from '@/db/schema';
import { fingerprint, previewKey, unlessAsSeen } from '../house/staged';
import { undoable } from '../house/undoable';
import { command, field, query } from '../house/useCase';
import { slowedAccounts } from './auth';
import { enrol, type KnownRow, sectionNames, whoseRows } from './enrol';
import { cameIn, hasWritten } from './invitations';
import { nameOrderOf } from './nameOrder';
import { type Offered, offerPart, offersOf } from './offers';
import { emailInput, lastNameInput, nameInput } from './personFields';
import { toCourse } from './toCourse';

export type Person = {
  membershipId: string;
  userId: string;
  name: string;
  /** The part of the name by which they are sorted; empty where the last word is. */
  lastName: string;
  email: string | null;
  /** What they may type instead of an email to sign in. */
  signInName: string | null;
  role: Role;
  section: string | null;
  sectionId: string | null;
  studentNumber: string | null;
  extraPercent: number;
  /** Whether they have chosen a password. */
  cameIn: boolean;
  /** Whether they have to wait before they can try another password. */
  slowed: boolean;
};

/** Somebody who has left a course. */
export type Former = { membershipId: string; name: string; role: Role; section: string | null; leftAt: Instant };

export type People = {
  people: Person[];
  /** Parts that wait for their owner's word. */
  offers: Offered[];
  /** Who has left, the latest first. */
  former: Former[];
  sections: { id: string; name: string; students: number }[];
  order: NameOrder;
};

/** Everybody in a course and who has left it, with the sections and how many students each has. */
export const listPeople = query({
  admits: toCourse('people.see'),
  does({ courseId, context }): Result<People> {
    const order = nameOrderOf(context);
    const slowed = slowedAccounts(context.now);
    const people = context.db
      .select({
        membershipId: membership.id,
        userId: user.id,
        name: user.name,
        lastName: user.lastName,
        email: user.email,
        signInName: user.signInName,
        role: membership.role,
        section: section.name,
        sectionId: section.id,
        studentNumber: membership.studentNumber,
        standing: membership.standing,
        cameIn,
      })
      .from(membership)
      .innerJoin(user, eq(user.id, membership.userId))
      .leftJoin(section, eq(section.id, membership.sectionId))
      .where(and(eq(membership.courseId, courseId), isNull(membership.removedAt), isNull(membership.onlySitting)))
      .orderBy(asc(user.name))
      .all();
    const sections = context.db
      .select({ id: section.id, name: section.name, students: count(membership.id) })
      .from(section)
      .leftJoin(
        membership,
        and(eq(membership.sectionId, section.id), isNull(membership.removedAt), eq(membership.role, 'student')),
      )
      .where(eq(section.courseId, courseId))
      .groupBy(section.id)
      .orderBy(asc(section.position))
      .all();
    const former = context.db
      .select({
        membershipId: membership.id,
        name: user.name,
        lastName: user.lastName,
        role: membership.role,
        section: section.name,
        leftAt: sql<Instant>`${membership.removedAt}`,
      })
      .from(membership)
      .innerJoin(user, eq(user.id, membership.userId))
      .leftJoin(section, eq(section.id, membership.sectionId))
      .where(and(eq(membership.courseId, courseId), isNotNull(membership.removedAt), isNull(membership.onlySitting)))
      .orderBy(desc(membership.removedAt), asc(user.name))
      .all();
    return ok({
      people: sortedByName(people, order).map(({ standing, ...person }) => ({
        ...person,
        extraPercent: standing?.extraPercent ?? 0,
        slowed: slowed.has(person.userId),
      })),
      offers: offersOf(context.db, courseId),
      former: former.map(({ lastName, ...one }) => ({ ...one, name: nameInList({ ...one, lastName }, order) })),
      sections,
      order,
    });
  },
});

const personInput = z.object({
  name: nameInput,
  lastName: lastNameInput.default(''),
  /** Empty where they have none. */
  email: emailInput,
  role: z.enum(roles),
  studentNumber: z.string().trim().max(40).default(''),
  section: z.string().trim().max(80).default(''),
});

/**
 * Adds one person. Someone who is new to Wuzzen and has an email gets an invitation. Whoever has an account already is a
 * student at once; to be more than that is offered to them, and is theirs once they say so.
 */
export const addPerson = command({
  admits: toCourse('people.change'),
  takes: [personInput],
  logs: 'people.add',
  does({ tx, courseId, record, context }, { role, ...input }): Result<{ userId: string; offered: boolean }> {
    const row = { line: 1, ...input };
    const { known, conflicts } = whoseRows(tx, courseId, [row]);
    const [problem] = conflicts;
    if (problem) return refused('conflict', problem.message, problem.field);
    if (role !== 'student' && !row.email) return refused('bad-input', `Whoever is ${role} needs an email.`, 'email');
    const [found] = known;
    if (found?.userId && role !== 'student') {
      if (hasWritten(tx, courseId, found.userId))
        return refused('conflict', `${row.name} has taken an exam of this course, and stays a student in it.`, 'role');
      offerPart(tx, context, courseId, found.userId, role);
      record({ subjectId: found.userId, detail: { email: row.email, role, offered: true } });
      return ok({ userId: found.userId, offered: true });
    }
    const [userId] = enrol(tx, context, courseId, role, known);
    record({ subjectId: userId as string, detail: { email: row.email, role } });
    return ok({ userId: userId as string, offered: false });
  },
});

const rosterText = z.string().max(2_000_000, 'This list is too long to be read at once.');

export type RosterPreview = {
  ready: RosterRow[];
  bad: BadRosterRow[];
  newSections: string[];
  /** Which part of a name came first where nothing named the two; null where there was no doubt. */
  halves: 'first-name' | 'last-name' | null;
  /** Columns of the list that are not read. */
  unread: string[];
  problem: string | null;
  /** Names exactly what was looked at. */
  key: string;
};

const halvesInput = z.enum(['first-name', 'last-name']).optional();

/**
 * Reads a class list and says what would happen; nothing is changed.
 *
 * @param halves which part of a name comes first, where two columns hold it and nothing names them
 */
export const previewRoster = query({
  admits: toCourse('people.change'),
  takes: [field('text', rosterText), halvesInput],
  does: ({ courseId, db }, text, halves): Result<RosterPreview> => ok(rosterRead(db, courseId, text, halves)),
});

type Halves = z.output<typeof halvesInput>;

function rosterRead(
  db: Db | Tx,
  courseId: string,
  text: string,
  halves: Halves,
): RosterPreview & { known: KnownRow[] } {
  const reading = readRoster(text, halves && halves === 'last-name');
  const { known, conflicts } = whoseRows(db, courseId, reading.rows);
  const rows = new Map(reading.rows.map((row) => [row.line, row]));
  const bad = [
    ...reading.bad,
    ...conflicts.map(({ line, message }) => {
      const { name = '', email = '', studentNumber = '' } = rows.get(line) ?? {};
      return { line, text: [name, email || studentNumber].filter(Boolean).join(', '), message };
    }),
  ].sort((a, b) => a.line - b.line);
  const ready = known.map(({ row }) => row);
  const there = sectionNames(db, courseId);
  const newSections = [...new Set(ready.map((row) => row.section).filter((name) => name && !there.has(name)))];
  return {
    ready,
    known,
    bad,
    newSections,
    halves: reading.halves,
    unread: reading.unread,
    problem: reading.problem,
    key: fingerprint([ready, newSections]),
  };
}

/** A class list was added: its students are taken out of the course again; what they have written stays. */
export const rosterAdded = undoable<{ courseId: string; userIds: string[] }>('people.add-list', {
  action: 'people.change',
  says: ({ userIds }) => `${counted(userIds.length, 'student')} added from a list`,
  apply(tx, { now }, { courseId, userIds }) {
    for (let i = 0; i < userIds.length; i += 500)
      tx.update(membership)
        .set({ removedAt: now })
        .where(
          and(
            eq(membership.courseId, courseId),
            eq(membership.role, 'student'),
            inArray(membership.userId, userIds.slice(i, i + 500)),
          ),
        )
        .run();
  },
});

/**
 * Adds every readable row of a class list as a student, all or none.
 *
 * @param key of the preview; without one nobody has looked, and whatever can be added is
 */
export const addRoster = command({
  admits: toCourse('people.change'),
  takes: [field('text', rosterText), previewKey.optional(), halvesInput],
  logs: 'people.add-list',
  does({ tx, context, courseId, record }, text, key, halves): Result<RosterAdded> {
    const preview = rosterRead(tx, courseId, text, halves);
    if (preview.problem) return refused('bad-input', preview.problem, 'text');
    const { known, bad } = preview;
    const otherwise = key === undefined ? null : unlessAsSeen(key, preview.key, 'The course has');
    if (otherwise) return otherwise;
    if (known.length === 0) return refused('bad-input', 'No row of the list can be added.', 'text');
    const userIds = enrol(tx, context, courseId, 'student', known);
    const auditId = record({
      subjectId: courseId,
      detail: { added: known.length },
      undo: rosterAdded.of({ courseId, userIds }),
    });
    const withoutEmail = known.filter(({ row, userId }) => !row.email && userId === null).length;
    return ok({ added: known.length, withoutEmail, left: bad.length, auditId });
  },
});

/** What became of a class list: how many were added, how many of them are new and can be reached by no message. */
export type RosterAdded = { added: number; withoutEmail: number; left: number; auditId: number };
