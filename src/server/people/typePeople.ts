import { and, eq, inArray, isNull } from 'drizzle-orm';
import { z } from 'zod';
import { id } from '@/core/base/id';
import { mostPasted } from '@/core/base/pastedText';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { counted, listed } from '@/core/base/words';
import { personCellNames, personCells, personCellText, readPersonCell } from '@/core/people/personCells';
import type { Tx } from '@/db/client';
import { membership, section, sittingAudience, user } from '@/db/schema';
import type { Context } from '../house/context';
import { undoable } from '../house/undoable';
import { command } from '../house/useCase';
import { afterwards } from '../house/writing';
import { forgetSessions } from './auth';
import { ensureSections, sectionNames } from './enrol';
import { worksElsewhere } from './invitations';
import { othersNumbers } from './member';
import { mendedAccount } from './mendedAccount';
import { toCourse } from './toCourse';

const typedInput = z.strictObject({
  cells: z
    .array(
      z.strictObject({
        membershipId: id('membership'),
        cell: z.enum(personCells),
        /** As it was typed. */
        text: z.string().max(200),
        /** What the cell held when it was looked at. */
        before: z.string().max(200),
      }),
    )
    .min(1)
    .max(mostPasted, `At most ${mostPasted} cells at once.`),
  /** Whether sections that there are not yet are meant. */
  newSections: z.boolean(),
});

/** What of a person cells hold, and what follows it. */
type Held = {
  sectionId: string | null;
  studentNumber: string | null;
  extraPercent: number;
  signInName: string | null;
};

type KeptPeople = {
  courseId: string;
  people: { membershipId: string; userId: string; before: Held; after: Held }[];
  /** Sections that were begun. */
  sectionIds: string[];
};

/** Everybody in a course, with what cells hold of them. */
const heldIn = (tx: Tx, courseId: string) =>
  new Map(
    tx
      .select({
        membershipId: membership.id,
        userId: user.id,
        name: user.name,
        lastName: user.lastName,
        email: user.email,
        signInName: user.signInName,
        sectionId: membership.sectionId,
        section: section.name,
        studentNumber: membership.studentNumber,
        standing: membership.standing,
      })
      .from(membership)
      .innerJoin(user, eq(user.id, membership.userId))
      .leftJoin(section, eq(section.id, membership.sectionId))
      .where(and(eq(membership.courseId, courseId), isNull(membership.removedAt), isNull(membership.onlySitting)))
      .all()
      .map((row) => [row.membershipId, { ...row, extraPercent: row.standing?.extraPercent ?? 0 }]),
  );

const held = ({ sectionId, studentNumber, extraPercent, signInName }: Held): Held => ({
  sectionId,
  studentNumber,
  extraPercent,
  signInName,
});
const isHeld = (a: Held, b: Held) => (Object.keys(held(b)) as (keyof Held)[]).every((key) => a[key] === b[key]);

const giveName = (tx: Tx, { now }: Context, userId: string, signInName: string | null) =>
  tx
    .update(user)
    .set({ signInName, updatedAt: new Date(now) })
    .where(eq(user.id, userId))
    .run();

/** Nobody's for a moment: names to sign in with that are given anew. */
const setAside = (tx: Tx, userIds: readonly string[]) => {
  for (let i = 0; i < userIds.length; i += 500)
    tx.update(user)
      .set({ signInName: null })
      .where(inArray(user.id, userIds.slice(i, i + 500)))
      .run();
};

const takingBack = {
  action: 'people.change' as const,
  says: (_kept: KeptPeople, { entered, cells }: Readonly<Record<string, unknown>>) =>
    `${String(cells)} of ${counted(Number(entered), 'person', 'people')} entered`,
  hindered(tx: Tx, { courseId, people }: KeptPeople): string | null {
    const there = heldIn(tx, courseId);
    const other = people.filter(({ membershipId, after }) => {
      const now = there.get(membershipId);
      return !now || !isHeld(now, after);
    });
    const names = other.map((one) => there.get(one.membershipId)?.name ?? 'somebody who has left');
    if (names.length > 0) return `${listed(names, 3)} ${names.length === 1 ? 'has' : 'have'} been changed since.`;
    const sections = new Set(sectionNames(tx, courseId).values());
    if (people.some(({ before }) => before.sectionId !== null && !sections.has(before.sectionId)))
      return 'A section that somebody was in is gone since.';
    const back = people.filter((one) => one.before.signInName !== one.after.signInName);
    const own = new Set(back.map((one) => one.userId));
    const wanted = back.flatMap((one) => one.before.signInName ?? []);
    const taken: string[] = [];
    for (let i = 0; i < wanted.length; i += 500)
      taken.push(
        ...tx
          .select({ userId: user.id, signInName: user.signInName })
          .from(user)
          .where(inArray(user.signInName, wanted.slice(i, i + 500)))
          .all()
          .flatMap((one) => (own.has(one.userId) ? [] : (one.signInName ?? []))),
      );
    return taken.length > 0 ? `Somebody else signs in with ${listed(taken, 3)} since.` : null;
  },
  apply(tx: Tx, context: Context, { courseId, people, sectionIds }: KeptPeople): Result<string> | undefined {
    const there = heldIn(tx, courseId);
    for (const { membershipId, before } of people) setHeld(tx, membershipId, there.get(membershipId)?.standing, before);
    const others = othersNumbers(tx, courseId);
    const given = people.find(
      (one) => others.has(one.membershipId) && one.before.studentNumber !== one.after.studentNumber,
    );
    if (given)
      return refused(
        'conflict',
        `Student number ${given.before.studentNumber} belongs to ${others.get(given.membershipId)} since.`,
      );
    const renamed = people.filter((one) => one.before.signInName !== one.after.signInName);
    setAside(
      tx,
      renamed.map((one) => one.userId),
    );
    for (const { userId, before } of renamed) giveName(tx, context, userId, before.signInName);
    if (renamed.length > 0) afterwards(context, forgetSessions);
    removeUnused(tx, sectionIds);
    return undefined;
  },
};

/** One cell of a person was typed into. */
export const personTyped = undoable<KeptPeople>('people.type', { ...takingBack, isListed: false });
/** Several cells were pasted over. */
export const peoplePasted = undoable<KeptPeople>('people.paste', takingBack);

/** @param standing what else there is of their arrangement stays */
const setHeld = (
  tx: Tx,
  membershipId: string,
  standing: (typeof membership.$inferSelect)['standing'] | undefined,
  { sectionId, studentNumber, extraPercent }: Held,
) =>
  tx
    .update(membership)
    .set({ sectionId, studentNumber, standing: { ...standing, extraPercent } })
    .where(eq(membership.id, membershipId))
    .run();

/** Takes away sections that nobody is or was in, and that no sitting is for. */
function removeUnused(tx: Tx, sectionIds: readonly string[]): void {
  if (sectionIds.length === 0) return;
  const used = new Set([
    ...tx
      .select({ id: membership.sectionId })
      .from(membership)
      .where(inArray(membership.sectionId, [...sectionIds]))
      .all()
      .map((one) => one.id),
    ...tx
      .select({ id: sittingAudience.refId })
      .from(sittingAudience)
      .where(inArray(sittingAudience.refId, [...sectionIds]))
      .all()
      .map((one) => one.id),
  ]);
  const unused = sectionIds.filter((one) => !used.has(one));
  tx.delete(section).where(inArray(section.id, unused)).run();
}

/**
 * Changes sections, student numbers and standing extra time of people as they are typed or pasted into the list, all or
 * nothing. Where a cell has been changed meanwhile, a number would be two people's, or a section is new and that is not said
 * to be meant, nothing is changed, and it is said of whom. Who signs in with their student number signs in with the new one;
 * of whoever works in a course that the one who changes it does not teach, that is refused.
 */
export const typePeople = command({
  admits: toCourse('people.change'),
  takes: [typedInput],
  logs: 'people.type',
  does({ tx, courseId, record, context, afterwards: later }, { cells, newSections }): Result<{ auditId: number }> {
    const there = heldIn(tx, courseId);
    const known = sectionNames(tx, courseId);
    const typed = new Map<string, { section?: string; studentNumber?: string; extraPercent?: string }>();
    for (const { membershipId, cell, text, before } of cells) {
      const person = there.get(membershipId);
      if (!person) return notFound('person');
      const read = readPersonCell(cell, text);
      const of = `${person.name}, ${personCellNames[cell]}`;
      if (read.kind === 'wrong') return refused('bad-input', `${of}: ${read.message}`);
      if (personCellText(cell, person) !== before)
        return refused('conflict', `${of}: this cell has been changed meanwhile. Look again.`);
      if (cell === 'section' && read.text && !known.has(read.text) && !newSections)
        return refused('bad-input', `${of}: there is no section “${read.text}” yet.`, 'newSections');
      typed.set(membershipId, { ...typed.get(membershipId), [cell]: read.text });
    }
    const sections = ensureSections(
      tx,
      courseId,
      [...typed.values()].flatMap((one) => one.section || []),
    );
    const sectionIds = [...sections].flatMap(([name, id]) => (known.has(name) ? [] : id));
    const changed = [...typed].flatMap(([membershipId, cell]) => {
      const before = there.get(membershipId);
      if (!before) return [];
      const { section: name, studentNumber, extraPercent } = cell;
      return {
        before,
        after: {
          sectionId: name === undefined ? before.sectionId : (sections.get(name) ?? null),
          studentNumber: studentNumber === undefined ? before.studentNumber : studentNumber || null,
          extraPercent: extraPercent === undefined ? before.extraPercent : Number(extraPercent),
          signInName: before.signInName,
        },
      };
    });
    // Numbers may change hands among those who are changed: none of them counts as taken while the new ones are looked at.
    const numbered = changed.filter(({ before, after }) => before.studentNumber !== after.studentNumber);
    setAside(
      tx,
      numbered.map(({ before }) => before.userId),
    );
    for (const { before, after } of numbered) {
      const mended = mendedAccount(tx, before, { studentNumber: after.studentNumber ?? '' });
      if (!mended.ok) return mended;
      after.signInName = mended.value.signInName;
      giveName(tx, context, before.userId, after.signInName);
    }
    const renamed = numbered.filter(({ before, after }) => before.signInName !== after.signInName);
    const elsewhere = worksElsewhere(
      tx,
      context.actor.userId,
      renamed.map(({ before }) => before.userId),
    );
    const kept = renamed.find(({ before }) => elsewhere.has(before.userId));
    if (kept)
      return refused(
        'conflict',
        `${kept.before.name} also works in a course that you do not teach, and signs in with this number: it is changed there.`,
      );
    if (renamed.length > 0) later(forgetSessions);
    for (const { before, after } of changed) setHeld(tx, before.membershipId, before.standing, after);
    const others = othersNumbers(tx, courseId);
    for (const { before, after } of numbered) {
      const other = others.get(before.membershipId);
      if (other)
        return refused(
          'conflict',
          `${before.name}: student number ${after.studentNumber} already belongs to ${other}.`,
        );
    }
    const names = [...new Set(cells.map((one) => personCellNames[one.cell]))];
    const auditId = record({
      subjectId: courseId,
      detail: {
        entered: typed.size,
        cells: listed(names, 3),
        typed: cells.map(({ membershipId, cell, text }) => ({ membershipId, cell, text })),
      },
      undo: (cells.length > 1 ? peoplePasted : personTyped).of({
        courseId,
        sectionIds,
        people: changed.map(({ before, after }) => ({
          membershipId: before.membershipId,
          userId: before.userId,
          before: held(before),
          after,
        })),
      }),
    });
    return ok({ auditId });
  },
});
