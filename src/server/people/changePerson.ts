import { and, eq, ne } from 'drizzle-orm';
import { z } from 'zod';
import { id } from '@/core/base/id';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { tidySignInName } from '@/core/people/names';
import { roles } from '@/core/people/policy';
import type { Tx } from '@/db/client';
import { membership, user } from '@/db/schema';
import { command } from '../house/useCase';
import { forgetSessions } from './auth';
import { ensureSections, signInNames } from './enrol';
import { hasWritten, worksElsewhere } from './invitations';
import { isMember } from './member';
import { offerPart } from './offers';
import { emailInput, lastNameInput, nameInput, signInNameInput } from './personFields';
import { toCourse } from './toCourse';

const changeInput = z.object({
  /** Absent: they stay. */
  name: nameInput.optional(),
  lastName: lastNameInput.optional(),
  email: emailInput.optional(),
  signInName: z.union([z.literal(''), signInNameInput]).optional(),
  role: z.enum(roles).optional(),
  section: z.string().trim().max(80),
  studentNumber: z.string().trim().max(40),
  extraPercent: z
    .number({ message: 'Give a number.' })
    .int()
    .min(0, 'Extra time cannot be negative.')
    .max(300, 'At most 300 %.'),
});

type Change = z.output<typeof changeInput>;
type Before = {
  userId: string;
  name: string;
  lastName: string;
  email: string | null;
  signInName: string | null;
  role: (typeof roles)[number];
  studentNumber: string | null;
};

/**
 * Changes what is known of one person: section, student number, part and standing extra time in this course; names, email
 * and what they sign in with everywhere, which is refused for whoever works in a course that the one who changes them does
 * not teach. Who signs in with their student number signs in with the new one.
 */
export const changePerson = command({
  admits: toCourse('people.change'),
  takes: [id('membership'), changeInput],
  logs: 'people.change',
  does({ tx, courseId, record, context, afterwards }, membershipId, input): Result<{ offered: boolean }> {
    const here = isMember(courseId, membershipId);
    const before = tx
      .select({
        userId: user.id,
        name: user.name,
        lastName: user.lastName,
        email: user.email,
        signInName: user.signInName,
        role: membership.role,
        studentNumber: membership.studentNumber,
      })
      .from(membership)
      .innerJoin(user, eq(user.id, membership.userId))
      .where(here)
      .get();
    if (!before) return notFound('person');

    const mended = mendedAccount(tx, before, input);
    if (!mended.ok) return mended;
    const changed = (Object.keys(mended.value) as (keyof Account)[]).filter((key) => mended.value[key] !== before[key]);
    const [first] = changed;
    if (first) {
      if (worksElsewhere(tx, context.actor.userId, [before.userId]).has(before.userId))
        return refused(
          'conflict',
          `${before.name} also works in a course that you do not teach: names and what they sign in with are changed there.`,
          first,
        );
      tx.update(user)
        .set({ ...mended.value, updatedAt: new Date(context.now) })
        .where(eq(user.id, before.userId))
        .run();
      afterwards(forgetSessions);
    }

    const part = mendedPart(tx, context.actor.userId, courseId, before, input);
    if (!part.ok) return part;
    const sections = ensureSections(tx, courseId, [input.section]);
    tx.update(membership)
      .set({
        sectionId: sections.get(input.section) ?? null,
        studentNumber: input.studentNumber || null,
        standing: { extraPercent: input.extraPercent },
        ...(part.value === 'at-once' ? { role: input.role } : {}),
      })
      .where(here)
      .run();
    if (part.value === 'offered' && input.role) offerPart(tx, context, courseId, before.userId, input.role);
    record({ subjectId: membershipId, detail: input });
    return ok({ offered: part.value === 'offered' });
  },
});

type Account = Pick<Before, 'name' | 'lastName' | 'email' | 'signInName'>;

/** The account as it shall be: there is always something to sign in with, and it is nobody else's. */
function mendedAccount(tx: Tx, before: Before, input: Change): Result<Account> {
  const email = input.email === undefined ? before.email : input.email || null;
  const ownNumber = tidySignInName(before.studentNumber ?? '');
  const followsNumber = input.signInName === undefined || input.signInName === (before.signInName ?? '');
  const kept = input.signInName === undefined ? before.signInName : input.signInName || null;
  const wanted =
    followsNumber && kept !== null && kept === ownNumber && input.studentNumber
      ? tidySignInName(input.studentNumber)
      : kept;
  const name = input.name ?? before.name;
  const signInName =
    wanted ?? (email === null ? signInNames(tx)({ name, email: '', studentNumber: input.studentNumber }) : null);
  const taken = (column: typeof user.email | typeof user.signInName, value: string | null) =>
    value !== null &&
    tx
      .select({ id: user.id })
      .from(user)
      .where(and(eq(column, value), ne(user.id, before.userId)))
      .get() !== undefined;
  if (taken(user.email, email)) return refused('conflict', `Somebody else has the email ${email}.`, 'email');
  if (taken(user.signInName, signInName))
    return refused(
      'conflict',
      `Somebody else signs in with ${signInName} in this school.`,
      wanted === kept ? 'signInName' : 'studentNumber',
    );
  const lastName = input.lastName ?? before.lastName;
  // The part of a name that was mended away is none of it any more, unless somebody says so anew.
  const isGone = lastName === before.lastName && name !== before.name && !` ${name} `.includes(` ${lastName} `);
  return ok({ name, lastName: isGone ? '' : lastName, email, signInName });
}

/**
 * How somebody comes to another part: a student to any other only by their own word; who is no student at once. Whoever
 * has written an exam here stays a student here, because their results are a student's.
 */
function mendedPart(
  tx: Tx,
  actorId: string,
  courseId: string,
  before: Before,
  input: Change,
): Result<'as-it-was' | 'at-once' | 'offered'> {
  if (input.role === undefined || input.role === before.role) return ok('as-it-was');
  if (before.userId === actorId) return refused('conflict', 'You cannot change your own part.', 'role');
  if (before.role !== 'student') return ok('at-once');
  if (hasWritten(tx, courseId, before.userId))
    return refused('conflict', `${before.name} has taken an exam of this course, and stays a student in it.`, 'role');
  if (before.email === null && !input.email)
    return refused('bad-input', `Whoever is ${input.role} needs an email.`, 'email');
  return ok('offered');
}
