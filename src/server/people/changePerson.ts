import { eq } from 'drizzle-orm';
import { z } from 'zod';
import { id } from '@/core/base/id';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { mostExtraPercent } from '@/core/people/personCells';
import { roles } from '@/core/people/policy';
import type { Tx } from '@/db/client';
import { membership, user } from '@/db/schema';
import { command } from '../house/useCase';
import { forgetSessions } from './auth';
import { ensureSections } from './enrol';
import { hasWritten, worksElsewhere } from './invitations';
import { isMember, othersNumbers } from './member';
import { type Account, mendedAccount } from './mendedAccount';
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
    .max(mostExtraPercent, `At most ${mostExtraPercent} %.`),
});

type Change = z.output<typeof changeInput>;
type Before = { userId: string; role: (typeof roles)[number] } & Account;

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
        standing: membership.standing,
      })
      .from(membership)
      .innerJoin(user, eq(user.id, membership.userId))
      .where(here)
      .get();
    if (!before) return notFound('person');

    const mended = mendedAccount(tx, before, input);
    if (!mended.ok) return mended;
    const first = (['name', 'lastName', 'email', 'signInName'] as const).find(
      (key) => mended.value[key] !== before[key],
    );
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
        standing: { ...before.standing, extraPercent: input.extraPercent },
        ...(part.value === 'at-once' ? { role: input.role } : {}),
      })
      .where(here)
      .run();
    const other = othersNumbers(tx, courseId).get(membershipId);
    if (other && before.studentNumber !== input.studentNumber)
      return refused('conflict', `Student number ${input.studentNumber} already belongs to ${other}.`, 'studentNumber');
    if (part.value === 'offered' && input.role) offerPart(tx, context, courseId, before.userId, input.role);
    record({ subjectId: membershipId, detail: input });
    return ok({ offered: part.value === 'offered' });
  },
});

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
  if (before.userId === actorId) return refused('conflict', 'You cannot change your own role.', 'role');
  if (before.role !== 'student') return ok('at-once');
  if (hasWritten(tx, courseId, before.userId))
    return refused('conflict', `${before.name} has taken an exam of this course, and stays a student in it.`, 'role');
  if (before.email === null && !input.email)
    return refused('bad-input', `Whoever is ${input.role} needs an email.`, 'email');
  return ok('offered');
}
