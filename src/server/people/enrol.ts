import { and, eq, inArray, isNotNull, isNull, sql } from 'drizzle-orm';
import { mayBeSameName, signInNameFrom, tidySignInName } from '@/core/people/names';
import type { Role } from '@/core/people/policy';
import type { RosterRow } from '@/core/people/readRoster';
import type { Db, Tx } from '@/db/client';
import { account, course, membership, section, user } from '@/db/schema';
import { type Context, newId } from '../house/context';
import { type Message, send } from '../house/outbox';
import { invitationAddress, invite } from './invitations';

/** Why a row cannot be added, at its field. */
export type Conflict = { line: number; message: string; field: 'name' | 'email' | 'studentNumber' };

/** A row that can be added, and whose account it is; null where there is none yet. */
export type KnownRow = { row: RosterRow; userId: string | null };

const chunk = 500;

function inChunks<T>(values: readonly string[], read: (some: string[]) => T[]): T[] {
  const rows: T[] = [];
  for (let i = 0; i < values.length; i += chunk) rows.push(...read(values.slice(i, i + chunk)));
  return rows;
}

/**
 * Whose rows these are. An email is one account's. A student number without an email is an account's that signs in with it,
 * or that has it in another course, if the names may be the same: a number counts within the school. A name alone is that
 * of somebody who has left this course, and otherwise a new person.
 */
export function whoseRows(
  db: Db | Tx,
  courseId: string,
  rows: readonly RosterRow[],
): { known: KnownRow[]; conflicts: Conflict[] } {
  const members = db
    .select({
      userId: user.id,
      name: user.name,
      email: user.email,
      studentNumber: membership.studentNumber,
      removedAt: membership.removedAt,
    })
    .from(membership)
    .innerJoin(user, eq(user.id, membership.userId))
    .where(and(eq(membership.courseId, courseId), isNull(membership.onlySitting)))
    .all();
  const here = members.filter((one) => one.removedAt === null);
  const isHere = new Set(here.map((one) => one.userId));
  const numbers = new Map(here.flatMap((one) => (one.studentNumber ? [[one.studentNumber, one.name] as const] : [])));
  const names = new Set(here.map((one) => one.name));
  const byEmail = new Map(
    inChunks(
      rows.flatMap((row) => row.email || []),
      (emails) => db.select({ id: user.id, email: user.email }).from(user).where(inArray(user.email, emails)).all(),
    ).map((one) => [one.email, one.id]),
  );
  const byNumber = holdersOf(
    db,
    rows.flatMap((row) => (row.email ? [] : row.studentNumber || [])),
  );

  const whose = (row: RosterRow): string | null | Conflict => {
    const conflict = (field: Conflict['field'], message: string): Conflict => ({ line: row.line, field, message });
    if (row.email) return byEmail.get(row.email) ?? null;
    if (row.studentNumber) {
      const holders = byNumber.get(tidySignInName(row.studentNumber)) ?? [];
      const same = holders.filter((one) => mayBeSameName(one.name, row.name));
      const [one] = same.sort((a, b) => Number(b.signsIn) - Number(a.signsIn));
      if (one) return one.userId;
      if (!holders.some((holder) => holder.signsIn)) return null;
      return conflict(
        'studentNumber',
        `Somebody with quite another name signs in with ${row.studentNumber} in this school. Check the number, or give an email.`,
      );
    }
    if (names.has(row.name))
      return conflict(
        'name',
        `${row.name} is already in this course. For another person of that name give a student number or an email.`,
      );
    const former = members.filter((one) => one.removedAt !== null && one.name === row.name);
    return former.length === 1 ? (former[0]?.userId ?? null) : null;
  };

  const known: KnownRow[] = [];
  const conflicts: Conflict[] = [];
  const taken = new Set<string>();
  for (const row of rows) {
    const found = whose(row);
    if (found !== null && typeof found === 'object') {
      conflicts.push(found);
      continue;
    }
    const called = row.email || row.name;
    const holder = numbers.get(row.studentNumber);
    if (found !== null && (isHere.has(found) || taken.has(found)))
      conflicts.push({
        line: row.line,
        message: `${called} is already in this course.`,
        field: row.email ? 'email' : 'studentNumber',
      });
    else if (holder)
      conflicts.push({
        line: row.line,
        message: `Student number ${row.studentNumber} already belongs to ${holder}.`,
        field: 'studentNumber',
      });
    else {
      if (found !== null) taken.add(found);
      known.push({ row, userId: found });
    }
  }
  return { known, conflicts };
}

type Holder = { userId: string; name: string; signsIn: boolean };

/** Who signs in with these student numbers, or has them in any course; by the number in small letters. */
function holdersOf(db: Db | Tx, numbers: readonly string[]): Map<string, Holder[]> {
  const asked = [...new Set(numbers)];
  const signing = inChunks(asked.map(tidySignInName), (some) =>
    db
      .select({ userId: user.id, name: user.name, number: user.signInName })
      .from(user)
      .where(inArray(user.signInName, some))
      .all(),
  );
  const having = inChunks(asked, (some) =>
    db
      .selectDistinct({ userId: user.id, name: user.name, number: membership.studentNumber })
      .from(membership)
      .innerJoin(user, eq(user.id, membership.userId))
      .where(inArray(membership.studentNumber, some))
      .all(),
  );
  const holders = new Map<string, Map<string, Holder>>();
  const add = (found: typeof having, signsIn: boolean) => {
    for (const { userId, name, number } of found) {
      const own = holders.get(tidySignInName(number ?? '')) ?? new Map<string, Holder>();
      if (!own.has(userId)) own.set(userId, { userId, name, signsIn });
      holders.set(tidySignInName(number ?? ''), own);
    }
  };
  add(signing, true);
  add(having, false);
  return new Map([...holders].map(([number, own]) => [number, [...own.values()]]));
}

/**
 * Gives new people names to sign in with that nobody else has: their student number; without one and without an email,
 * their own name, with a number behind it where it is taken. Each name given counts as taken from then on.
 */
export function signInNames(db: Db | Tx): (who: Pick<RosterRow, 'name' | 'email' | 'studentNumber'>) => string | null {
  const taken = new Set(
    db
      .select({ name: user.signInName })
      .from(user)
      .where(isNotNull(user.signInName))
      .all()
      .map((one) => one.name),
  );
  const take = (name: string) => {
    taken.add(name);
    return name;
  };
  return ({ name, email, studentNumber }) => {
    const number = tidySignInName(studentNumber);
    if (number && !number.includes('@') && !taken.has(number)) return take(number);
    if (email) return null;
    const own = signInNameFrom(name) || 'person';
    let tried = own;
    for (let more = 2; taken.has(tried); more++) tried = `${own}${more}`;
    return take(tried);
  };
}

/** The sections of a course by name. */
export function sectionNames(db: Db | Tx, courseId: string): Map<string, string> {
  const rows = db.select().from(section).where(eq(section.courseId, courseId)).all();
  return new Map(rows.map((row) => [row.name, row.id]));
}

/** The same, with those of these names that there were not yet. */
export function ensureSections(tx: Tx, courseId: string, names: readonly string[]): Map<string, string> {
  const known = sectionNames(tx, courseId);
  for (const name of new Set(names)) {
    if (!name || known.has(name)) continue;
    const sectionId = newId();
    tx.insert(section).values({ id: sectionId, courseId, name, position: known.size }).run();
    known.set(name, sectionId);
  }
  return known;
}

/**
 * Adds people whose rows have been checked, and tells those who have an email: with an address at which they choose a
 * password, as long as they have none.
 *
 * @returns their user ids in the order of the rows
 */
export function enrol(tx: Tx, context: Context, courseId: string, role: Role, rows: readonly KnownRow[]): string[] {
  const sections = ensureSections(
    tx,
    courseId,
    rows.map(({ row }) => row.section),
  );
  const courseName = tx.select({ name: course.name }).from(course).where(eq(course.id, courseId)).get()?.name ?? '';
  const signInName = signInNames(tx);
  const at = new Date(context.now);
  const known = knownOf(
    tx,
    courseId,
    rows.flatMap(({ userId }) => userId ?? []),
  );
  const invitations: Message[] = [];
  const ids = rows.map(({ row, userId: own }) => {
    const userId = own ?? newId();
    const { name, lastName, email, studentNumber } = row;
    const before = known.get(userId);
    if (own === null)
      tx.insert(user)
        .values({
          id: userId,
          name,
          lastName,
          email: email || null,
          signInName: signInName(row),
          createdAt: at,
          updatedAt: at,
        })
        .run();
    // Added again with the right name: theirs alone is mended, as long as nobody else knows them by the other one.
    else if (before?.isNew && before.name !== name)
      tx.update(user).set({ name, lastName, updatedAt: at }).where(eq(user.id, userId)).run();
    const to = before ? before.email : email || null;
    if (to)
      invitations.push({
        userId,
        email: to,
        subject: `Your place in ${courseName}`,
        body: `${context.actor.name} has added you to ${courseName}.\n\n${
          before?.cameIn
            ? 'You find it where you sign in.'
            : `Set a password here; the address works once and for 30 days:\n${invitationAddress(invite(tx, userId, context.now))}`
        }`,
      });
    // What a row does not say stays as it was.
    const said = {
      role,
      ...(row.section ? { sectionId: sections.get(row.section) ?? null } : {}),
      ...(studentNumber ? { studentNumber } : {}),
    };
    tx.insert(membership)
      .values({ id: newId(), courseId, userId, ...said, addedAt: context.now })
      .onConflictDoUpdate({ target: [membership.courseId, membership.userId], set: { ...said, removedAt: null } })
      .run();
    return userId;
  });
  send(tx, context, courseId, invitations);
  return ids;
}

type KnownAccount = {
  name: string;
  email: string | null;
  /** Whether their owner has chosen a password. */
  cameIn: boolean;
  /** Whether nobody has come in, and no other course has them. */
  isNew: boolean;
};

/** What is known of accounts there are already. */
function knownOf(tx: Tx, courseId: string, userIds: readonly string[]): Map<string, KnownAccount> {
  const elsewhere = sql<boolean>`exists (select 1 from ${membership} where ${membership.userId} = ${user.id} and ${membership.courseId} <> ${courseId})`;
  const found = inChunks(userIds, (some) =>
    tx
      .select({ id: user.id, name: user.name, email: user.email, hash: account.password, elsewhere })
      .from(user)
      .leftJoin(account, eq(account.userId, user.id))
      .where(inArray(user.id, some))
      .all(),
  );
  return new Map(
    found.map(({ id, name, email, hash, elsewhere: isElsewhere }) => [
      id,
      { name, email, cameIn: hash !== null, isNew: hash === null && !isElsewhere },
    ]),
  );
}
