import { createHash, randomInt } from 'node:crypto';
import { and, eq, inArray, isNull, ne, sql } from 'drizzle-orm';
import { z } from 'zod';
import { id } from '@/core/base/id';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { day, type Instant } from '@/core/base/time';
import type { Db, Tx } from '@/db/client';
import { account, invitation, membership, section, user } from '@/db/schema';
import { command } from '../house/useCase';
import { forgiveTries, setPassword } from './auth';
import { toCourse } from './toCourse';

const validFor = 30 * day;

/** Letters and digits that nobody mistakes for one another, typed from paper: 31 of them, 16 at a time, are 79 bits. */
const signs = 'abcdefghjkmnpqrstuvwxyz23456789';
const newToken = (): string =>
  Array.from({ length: 16 }, (_, i) => (i > 0 && i % 4 === 0 ? '-' : '') + signs[randomInt(signs.length)]).join('');

/** A token is the same however it is typed: in capitals, without its hyphens. */
const hashOf = (token: string) =>
  createHash('sha256')
    .update(token.toLowerCase().replace(/[^a-z0-9]/g, ''))
    .digest('hex');

/** Makes a one-time token with which a person sets a password. Only its hash is kept. */
export function invite(tx: Tx, userId: string, now: Instant): string {
  const token = newToken();
  tx.insert(invitation)
    .values({ tokenHash: hashOf(token), userId, expiresAt: now + validFor })
    .run();
  return token;
}

/** The address at which a person sets their password, once. */
export const invitationAddress = (token: string): string => `${process.env.WUZZEN_ORIGIN ?? ''}/invitation/${token}`;

/** What is handed to a person so that they can get in. */
export type Slip = { membershipId: string; name: string; email: string; section: string | null; address: string };

/**
 * Makes new addresses for people of a course, at which each of them chooses a password: for who has not come in yet, and for
 * who cannot get in any more. They are shown once, to whoever asked; who of them were slowed down by wrong passwords may try
 * again at once. Whoever works in a course that the one who asks does not teach gets none by other hands than their own: it
 * would open that course too.
 */
export const inviteAgain = command({
  admits: toCourse('people.change'),
  takes: [z.array(id('membership')).min(1).max(1_000)],
  logs: 'people.invite-again',
  does({ tx, courseId, now, actor, record }, membershipIds): Result<{ slips: Slip[]; refused: string[] }> {
    const people = tx
      .select({
        membershipId: membership.id,
        userId: user.id,
        name: user.name,
        email: user.email,
        section: section.name,
      })
      .from(membership)
      .innerJoin(user, eq(user.id, membership.userId))
      .leftJoin(section, eq(section.id, membership.sectionId))
      .where(
        and(eq(membership.courseId, courseId), isNull(membership.removedAt), inArray(membership.id, membershipIds)),
      )
      .orderBy(section.position, user.name)
      .all();
    if (people.length !== new Set(membershipIds).size) return notFound('person');
    const elsewhere = worksElsewhere(
      tx,
      actor.userId,
      people.map((one) => one.userId),
    );
    const invited = people.filter((one) => !elsewhere.has(one.userId));
    const slips = invited.map(({ userId, ...one }) => ({
      ...one,
      address: invitationAddress(invite(tx, userId, now)),
    }));
    if (slips.length === 0)
      return refused(
        'conflict',
        `${people[0]?.name} also works in a course that you do not teach: a new address could open that one too. They can ask there.`,
      );
    for (const { email } of invited) forgiveTries(email);
    record({ subjectId: courseId, detail: { people: invited.map((one) => one.userId) } });
    return ok({ slips, refused: people.filter((one) => elsewhere.has(one.userId)).map((one) => one.name) });
  },
});

/** Who of these works, as anything but a student, in a course that somebody does not teach. */
export function worksElsewhere(tx: Tx, teacherId: string, userIds: readonly string[]): Set<string> {
  const taught = tx
    .select({ id: membership.courseId })
    .from(membership)
    .where(and(eq(membership.userId, teacherId), eq(membership.role, 'instructor'), isNull(membership.removedAt)))
    .all()
    .map((row) => row.id);
  const found = new Set<string>();
  for (let i = 0; i < userIds.length; i += 500)
    for (const row of tx
      .select({ userId: membership.userId, courseId: membership.courseId })
      .from(membership)
      .where(
        and(
          inArray(membership.userId, userIds.slice(i, i + 500)),
          ne(membership.role, 'student'),
          isNull(membership.removedAt),
        ),
      )
      .all())
      if (!taught.includes(row.courseId) && row.userId !== teacherId) found.add(row.userId);
  return found;
}

/** Whether a person has come in: chosen a password. */
export const cameIn =
  sql<boolean>`exists (select 1 from ${account} where ${account.userId} = ${membership.userId})`.mapWith(Boolean);

/** Whom an invitation is for; null when it is unknown, used or too old. */
export function invitedPerson(
  db: Db,
  token: string,
  now: Instant,
): { userId: string; name: string; email: string } | null {
  const row = db
    .select({ userId: user.id, name: user.name, email: user.email, expiresAt: invitation.expiresAt })
    .from(invitation)
    .innerJoin(user, eq(user.id, invitation.userId))
    .where(and(eq(invitation.tokenHash, hashOf(token)), isNull(invitation.usedAt)))
    .get();
  return row && row.expiresAt >= now ? { userId: row.userId, name: row.name, email: row.email } : null;
}

/** Uses an invitation up and sets the password. */
export async function acceptInvitation(
  db: Db,
  token: string,
  password: string,
  now: Instant,
): Promise<Result<{ email: string }>> {
  if (password.length < 10) return refused('bad-input', 'Choose a password of at least 10 characters.', 'password');
  if (password.length > 200) return refused('bad-input', 'Choose a password of at most 200 characters.', 'password');
  const person = invitedPerson(db, token, now);
  if (!person) return refused('not-found', 'This invitation has been used or is too old. Ask for a new one.');
  const used = db
    .update(invitation)
    .set({ usedAt: now })
    .where(and(eq(invitation.tokenHash, hashOf(token)), isNull(invitation.usedAt)))
    .run();
  if (used.changes === 0) return refused('not-found', 'This invitation has been used. Ask for a new one.');
  // Other addresses of theirs, in a mailbox or on a slip of paper, open nothing any more.
  db.update(invitation)
    .set({ usedAt: now })
    .where(and(eq(invitation.userId, person.userId), isNull(invitation.usedAt)))
    .run();
  await setPassword(db, person.userId, password);
  return ok({ email: person.email });
}
