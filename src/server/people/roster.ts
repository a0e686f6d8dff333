import { and, asc, count, eq, inArray, isNull } from 'drizzle-orm';
import { z } from 'zod';
import { id } from '@/core/base/id';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { type Role, roles } from '@/core/people/policy';
import { type BadRosterRow, type RosterRow, readRoster } from '@/core/people/readRoster';
import type { Tx } from '@/db/client';
import { course, membership, section, user } from '@/db/schema';
import { type Context, newId } from '../house/context';
import { type Message, send } from '../house/outbox';
import { fingerprint, previewKey, unlessAsSeen } from '../house/staged';
import { undoable } from '../house/undoable';
import { command, field, query } from '../house/useCase';
import { forgetSessions } from './auth';
import { cameIn, invitationAddress, invite, worksElsewhere } from './invitations';
import { toCourse } from './toCourse';

export type Person = {
  membershipId: string;
  userId: string;
  name: string;
  email: string;
  role: Role;
  section: string | null;
  sectionId: string | null;
  studentNumber: string | null;
  extraPercent: number;
  /** Whether they have chosen a password. */
  cameIn: boolean;
};

export type People = { people: Person[]; sections: { id: string; name: string; students: number }[] };

/** Everybody in a course, with the sections and how many students each has. */
export const listPeople = query({
  admits: toCourse('people.see'),
  does({ courseId, context }): Result<People> {
    const people = context.db
      .select({
        membershipId: membership.id,
        userId: user.id,
        name: user.name,
        email: user.email,
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
    return ok({
      people: people.map(({ standing, ...person }) => ({ ...person, extraPercent: standing?.extraPercent ?? 0 })),
      sections,
    });
  },
});

const nameInput = z.string().trim().min(1, 'The name is missing.').max(120);
const emailInput = z
  .string()
  .trim()
  .toLowerCase()
  .pipe(z.email('This is not an email address.'))
  .pipe(z.string().max(200));

const personInput = z.object({
  name: nameInput,
  email: emailInput,
  role: z.enum(roles),
  studentNumber: z.string().trim().max(40).default(''),
  section: z.string().trim().max(80).default(''),
});

/** Adds one person. Someone who is new to Wuzzen gets an invitation. */
export const addPerson = command({
  admits: toCourse('people.change'),
  takes: [personInput],
  logs: 'people.add',
  does({ tx, courseId, record, context }, { role, ...row }): Result<{ userId: string }> {
    const problem = alreadyThere(context, courseId, [{ line: 1, ...row }])[0];
    if (problem) return refused('conflict', problem.message, problem.field);
    const [userId] = enrol(tx, context, courseId, role, [{ line: 1, ...row }]);
    record({ subjectId: userId as string, detail: { email: row.email, role } });
    return ok({ userId: userId as string });
  },
});

const rosterText = z.string().max(2_000_000, 'This list is too long to be read at once.');

export type RosterPreview = {
  ready: RosterRow[];
  bad: BadRosterRow[];
  newSections: string[];
  /** Columns of the list that are not read. */
  unread: string[];
  problem: string | null;
  /** Names exactly what was looked at. */
  key: string;
};

/** Reads a class list and says what would happen; nothing is changed. */
export const previewRoster = query({
  admits: toCourse('people.change'),
  takes: [field('text', rosterText)],
  does({ courseId, context }, text): Result<RosterPreview> {
    const reading = readRoster(text);
    const there = new Map(alreadyThere(context, courseId, reading.rows).map((one) => [one.line, one.message]));
    const ready = reading.rows.filter((row) => !there.has(row.line));
    const bad = [
      ...reading.bad,
      ...reading.rows.flatMap((row) => {
        const message = there.get(row.line);
        return message ? [{ line: row.line, text: `${row.name}, ${row.email}`, message }] : [];
      }),
    ].sort((a, b) => a.line - b.line);
    const known = new Set(sectionNames(context, courseId).keys());
    const newSections = [...new Set(ready.map((row) => row.section).filter((name) => name && !known.has(name)))];
    return ok({
      ready,
      bad,
      newSections,
      unread: reading.unread,
      problem: reading.problem,
      key: fingerprint([ready, newSections]),
    });
  },
});

/** A class list was added: its students are taken out of the course again; what they have written stays. */
export const rosterAdded = undoable('people.add-list', {
  action: 'people.change',
  apply(tx, { now }, { courseId, userIds }: { courseId: string; userIds: string[] }) {
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
  takes: [field('text', rosterText), previewKey.optional()],
  logs: 'people.add-list',
  does({ tx, context, courseId, record }, text, key): Result<{ added: number; left: number; auditId: number }> {
    const preview = previewRoster(context, courseId, text);
    if (!preview.ok) return preview;
    if (preview.value.problem) return refused('bad-input', preview.value.problem, 'text');
    const { ready, bad } = preview.value;
    const otherwise = key === undefined ? null : unlessAsSeen(key, preview.value.key, 'The course has');
    if (otherwise) return otherwise;
    if (ready.length === 0) return refused('bad-input', 'No row of the list can be added.', 'text');
    const userIds = enrol(tx, context, courseId, 'student', ready);
    const auditId = record({
      subjectId: courseId,
      detail: { added: ready.length },
      undo: rosterAdded.of({ courseId, userIds }),
    });
    return ok({ added: ready.length, left: bad.length, auditId });
  },
});

const changeInput = z.object({
  /** Absent: they stay. */
  name: nameInput.optional(),
  email: emailInput.optional(),
  section: z.string().trim().max(80),
  studentNumber: z.string().trim().max(40),
  extraPercent: z
    .number({ message: 'Give a number.' })
    .int()
    .min(0, 'Extra time cannot be negative.')
    .max(300, 'At most 300 %.'),
});

/**
 * Changes what is known of one person: section, student number and standing extra time in this course; name and email
 * everywhere, which is refused for whoever works in a course that the one who changes them does not teach.
 */
export const changePerson = command({
  admits: toCourse('people.change'),
  takes: [id('membership'), changeInput],
  logs: 'people.change',
  does({ tx, courseId, record, context }, membershipId, input): Result<null> {
    const { section: inSection, studentNumber, extraPercent, name, email } = input;
    const before = tx
      .select({ userId: user.id, name: user.name, email: user.email })
      .from(membership)
      .innerJoin(user, eq(user.id, membership.userId))
      .where(and(eq(membership.id, membershipId), eq(membership.courseId, courseId), isNull(membership.removedAt)))
      .get();
    if (!before) return notFound('person');
    const mended = { name: name ?? before.name, email: email ?? before.email };
    if (mended.name !== before.name || mended.email !== before.email) {
      if (worksElsewhere(tx, context.actor.userId, [before.userId]).has(before.userId))
        return refused(
          'conflict',
          `${before.name} also works in a course that you do not teach: name and email are changed there.`,
          mended.name !== before.name ? 'name' : 'email',
        );
      const holder = tx.select({ id: user.id }).from(user).where(eq(user.email, mended.email)).get();
      if (holder && holder.id !== before.userId)
        return refused('conflict', `Somebody else has the email ${mended.email}.`, 'email');
      tx.update(user)
        .set({ ...mended, updatedAt: new Date(context.now) })
        .where(eq(user.id, before.userId))
        .run();
      forgetSessions();
    }
    const sections = ensureSections(tx, context, courseId, [inSection]);
    const changed = tx
      .update(membership)
      .set({
        sectionId: sections.get(inSection) ?? null,
        studentNumber: studentNumber || null,
        standing: { extraPercent },
      })
      .where(and(eq(membership.id, membershipId), eq(membership.courseId, courseId), isNull(membership.removedAt)))
      .run();
    if (changed.changes === 0) return notFound('person');
    record({ subjectId: membershipId, detail: input });
    return ok(null);
  },
});

/** A person was taken out. */
export const personRemoved = undoable('people.remove', {
  action: 'people.change',
  apply(tx, _context, { membershipId }: { membershipId: string }) {
    tx.update(membership).set({ removedAt: null }).where(eq(membership.id, membershipId)).run();
  },
});

/** Takes a person out of a course. What they have written stays; adding them again brings them back. */
export const removePerson = command({
  admits: toCourse('people.change'),
  takes: [id('membership')],
  logs: 'people.remove',
  does({ tx, courseId, record, context }, membershipId): Result<{ auditId: number }> {
    const found = tx
      .select({ userId: membership.userId })
      .from(membership)
      .where(and(eq(membership.id, membershipId), eq(membership.courseId, courseId), isNull(membership.removedAt)))
      .get();
    if (!found) return notFound('person');
    if (found.userId === context.actor.userId)
      return refused('conflict', 'You cannot take yourself out of the course.');
    tx.update(membership).set({ removedAt: context.now }).where(eq(membership.id, membershipId)).run();
    const undo = personRemoved.of({ membershipId });
    return ok({ auditId: record({ subjectId: membershipId, undo }) });
  },
});

function sectionNames(context: Context, courseId: string): Map<string, string> {
  const rows = context.db.select().from(section).where(eq(section.courseId, courseId)).all();
  return new Map(rows.map((row) => [row.name, row.id]));
}

type Conflict = { line: number; message: string; field: string };

/** Rows whose email or student number is taken in this course. */
function alreadyThere(context: Context, courseId: string, rows: readonly RosterRow[]): Conflict[] {
  const here = context.db
    .select({ email: user.email, studentNumber: membership.studentNumber, name: user.name })
    .from(membership)
    .innerJoin(user, eq(user.id, membership.userId))
    .where(and(eq(membership.courseId, courseId), isNull(membership.removedAt)))
    .all();
  const emails = new Set(here.map((one) => one.email));
  const numbers = new Map(here.flatMap((one) => (one.studentNumber ? [[one.studentNumber, one.name] as const] : [])));
  return rows.flatMap((row): Conflict[] => {
    if (emails.has(row.email))
      return [{ line: row.line, message: `${row.email} is already in this course.`, field: 'email' }];
    const holder = numbers.get(row.studentNumber);
    if (!holder) return [];
    return [
      {
        line: row.line,
        message: `Student number ${row.studentNumber} already belongs to ${holder}.`,
        field: 'studentNumber',
      },
    ];
  });
}

function ensureSections(tx: Tx, context: Context, courseId: string, names: readonly string[]): Map<string, string> {
  const known = sectionNames(context, courseId);
  for (const name of new Set(names)) {
    if (!name || known.has(name)) continue;
    const sectionId = newId();
    tx.insert(section).values({ id: sectionId, courseId, name, position: known.size }).run();
    known.set(name, sectionId);
  }
  return known;
}

/** Adds people whose rows have been checked. @returns their user ids in the order of the rows */
function enrol(tx: Tx, context: Context, courseId: string, role: Role, rows: readonly RosterRow[]): string[] {
  const sections = ensureSections(
    tx,
    context,
    courseId,
    rows.map((row) => row.section),
  );
  const known = new Map<string, string>();
  for (let i = 0; i < rows.length; i += 500) {
    const emails = rows.slice(i, i + 500).map((row) => row.email);
    for (const one of tx.select({ id: user.id, email: user.email }).from(user).where(inArray(user.email, emails)).all())
      known.set(one.email, one.id);
  }
  const courseName = tx.select({ name: course.name }).from(course).where(eq(course.id, courseId)).get()?.name ?? '';
  const invitations: Message[] = [];
  const ids = rows.map((row) => {
    let userId = known.get(row.email);
    if (!userId) {
      userId = newId();
      const at = new Date(context.now);
      tx.insert(user).values({ id: userId, name: row.name, email: row.email, createdAt: at, updatedAt: at }).run();
      const address = invitationAddress(invite(tx, userId, context.now));
      invitations.push({
        userId,
        email: row.email,
        subject: `Your place in ${courseName}`,
        body: `${context.actor.name} has added you to ${courseName}.\n\nSet a password here; the address works once and for 30 days:\n${address}`,
      });
    }
    const part = { role, sectionId: sections.get(row.section) ?? null, studentNumber: row.studentNumber || null };
    tx.insert(membership)
      .values({ id: newId(), courseId, userId, ...part, addedAt: context.now })
      .onConflictDoUpdate({ target: [membership.courseId, membership.userId], set: { ...part, removedAt: null } })
      .run();
    return userId;
  });
  send(tx, context, courseId, invitations);
  return ids;
}
