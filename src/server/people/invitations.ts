import { createHash, randomInt } from 'node:crypto';
import { hashPassword, verifyPassword } from 'better-auth/crypto';
import { and, eq, inArray, isNull, ne, or, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/sqlite-core';
import { z } from 'zod';
import { id } from '@/core/base/id';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { day, type Instant } from '@/core/base/time';
import type { Role } from '@/core/people/policy';
import type { Db, Tx } from '@/db/client';
import { account, attempt, course, invitation, membership, offer, section, sitting, user } from '@/db/schema';
import { record } from '../house/audit';
import { type Context, newId } from '../house/context';
import { command } from '../house/useCase';
import { writing } from '../house/writing';
import { forgiveTries, keepPassword } from './auth';
import { isMember } from './member';
import { signInTries } from './signInTries';
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

/** Makes a one-time token with which a person sets a password, and takes up an offer. Only its hash is kept. */
export function invite(tx: Tx, userId: string, now: Instant, offerId: string | null = null): string {
  const token = newToken();
  tx.insert(invitation)
    .values({ tokenHash: hashOf(token), userId, offerId, expiresAt: now + validFor })
    .run();
  return token;
}

/** What a person types to sign in: an email, or where there is none a number or a name. */
export const signsInAs = sql<string>`coalesce(${user.email}, ${user.signInName}, '')`;

/** The address at which a person sets their password, once. */
export const invitationAddress = (token: string): string => `${process.env.WUZZEN_ORIGIN ?? ''}/invitation/${token}`;

/** What is handed to a person so that they can get in. */
export type Slip = {
  userId: string;
  name: string;
  /** What they type to sign in from then on. */
  signsInAs: string;
  section: string | null;
  address: string;
};

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
        userId: user.id,
        name: user.name,
        signsInAs,
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
    const slips = invited.map((one) => ({ ...one, address: invitationAddress(invite(tx, one.userId, now)) }));
    if (slips.length === 0)
      return refused(
        'conflict',
        `${people[0]?.name} also works in a course that you do not teach: a new address could open that one too. They can ask there.`,
      );
    for (const { userId } of invited) forgiveTries(userId);
    record({ subjectId: courseId, detail: { people: invited.map((one) => one.userId) } });
    return ok({ slips, refused: people.filter((one) => elsewhere.has(one.userId)).map((one) => one.name) });
  },
});

/** Lets people try to sign in again at once who were slowed down by wrong passwords, their own or a classmate's. */
export const letTryAgain = command({
  admits: toCourse('people.change'),
  takes: [id('membership')],
  logs: 'people.let-try-again',
  does({ tx, courseId, record, afterwards }, membershipId): Result<null> {
    const found = tx
      .select({ userId: membership.userId })
      .from(membership)
      .where(isMember(courseId, membershipId))
      .get();
    if (!found) return notFound('person');
    record({ subjectId: membershipId });
    afterwards(() => forgiveTries(found.userId));
    return ok(null);
  },
});

/**
 * Who of these works or has worked, or is asked to, as anything but a student, in a course that somebody does not teach. Who
 * has left counts: they may be brought back.
 */
export function worksElsewhere(tx: Tx, teacherId: string, userIds: readonly string[]): Set<string> {
  const taught = tx
    .select({ id: membership.courseId })
    .from(membership)
    .where(and(eq(membership.userId, teacherId), eq(membership.role, 'instructor'), isNull(membership.removedAt)))
    .all()
    .map((row) => row.id);
  const found = new Set<string>();
  for (let i = 0; i < userIds.length; i += 500) {
    const some = userIds.slice(i, i + 500);
    const working = tx
      .select({ userId: membership.userId, courseId: membership.courseId })
      .from(membership)
      .where(and(inArray(membership.userId, some), ne(membership.role, 'student')))
      .all();
    const asked = tx
      .select({ userId: offer.userId, courseId: offer.courseId })
      .from(offer)
      .where(inArray(offer.userId, some))
      .all();
    for (const row of [...working, ...asked])
      if (!taught.includes(row.courseId) && row.userId !== teacherId) found.add(row.userId);
  }
  return found;
}

/** Whether a person has come in: chosen a password. */
export const cameIn =
  sql<boolean>`exists (select 1 from ${account} where ${account.userId} = ${membership.userId})`.mapWith(Boolean);

/** Whom an address is for, and what it offers. */
export type Invited = {
  userId: string;
  name: string;
  signsInAs: string;
  hasPassword: boolean;
  /** The part that waits for their word; null where the address only opens the account. */
  offer: { id: string; courseId: string; courseName: string; role: Role; by: string } | null;
};

const giver = alias(user, 'giver');

/** Whom an address is for; null when it is unknown, used or too old. */
export function invitedPerson(db: Db | Tx, token: string, now: Instant): Invited | null {
  const row = db
    .select({
      userId: user.id,
      name: user.name,
      signsInAs,
      hash: account.password,
      expiresAt: invitation.expiresAt,
      offer,
      courseName: course.name,
      by: giver.name,
    })
    .from(invitation)
    .innerJoin(user, eq(user.id, invitation.userId))
    .leftJoin(account, eq(account.userId, user.id))
    .leftJoin(offer, eq(offer.id, invitation.offerId))
    .leftJoin(course, eq(course.id, offer.courseId))
    .leftJoin(giver, eq(giver.id, offer.offeredBy))
    .where(and(eq(invitation.tokenHash, hashOf(token)), isNull(invitation.usedAt)))
    .get();
  if (!row || row.expiresAt < now) return null;
  const { userId, name, offer: offered } = row;
  return {
    userId,
    name,
    signsInAs: row.signsInAs,
    hasPassword: row.hash !== null,
    offer: offered && {
      id: offered.id,
      courseId: offered.courseId,
      courseName: row.courseName ?? '',
      role: offered.role,
      by: row.by ?? '',
    },
  };
}

const tries = signInTries();
const usedAlready = () => refused('not-found', 'This address has been used or is too old. Ask for a new one.');

/**
 * Uses an address up: sets the password, or knows its owner by the one they have; and takes up the part that is offered with
 * it. Whoever had opened the account before is signed out by a new password, and by nothing else is let into the part.
 *
 * @param how the password is the one they `have`, where the address offers a part, or a `new` one
 */
export async function acceptInvitation(
  db: Db,
  token: string,
  password: string,
  how: 'have' | 'new',
  now: Instant,
): Promise<Result<{ signsInAs: string }>> {
  const person = invitedPerson(db, token, now);
  if (!person) return usedAlready();
  if (how === 'have') {
    const wait = tries.wait(person.userId, '', now);
    if (wait > 0) return refused('busy', `Wait ${Math.ceil(wait / 1_000)} seconds, then try again.`, 'password');
    const own = db.select({ hash: account.password }).from(account).where(eq(account.userId, person.userId)).get();
    if (!person.offer || !own?.hash || !(await verifyPassword({ hash: own.hash, password }))) {
      tries.failed(person.userId, '', now);
      return refused('not-allowed', 'This is not the password of this account. Choose a new one instead.', 'password');
    }
    tries.succeeded(person.userId, '');
  } else if (password.length < 10)
    return refused('bad-input', 'Choose a password of at least 10 characters.', 'password');
  else if (password.length > 200)
    return refused('bad-input', 'Choose a password of at most 200 characters.', 'password');
  const hash = how === 'new' ? await hashPassword(password) : null;
  const actor = { userId: person.userId, name: person.name };
  return writing({ db, now, actor }, (tx, within): Result<{ signsInAs: string }> => {
    // Others may have used it up while the password was being made.
    const still = invitedPerson(tx, token, now);
    if (!still || still.offer?.id !== person.offer?.id) return usedAlready();
    // Other addresses of theirs, in a mailbox or on a slip of paper, open nothing any more; what they offer goes on waiting.
    tx.update(invitation)
      .set({ usedAt: now })
      .where(
        and(
          eq(invitation.userId, person.userId),
          isNull(invitation.usedAt),
          or(isNull(invitation.offerId), eq(invitation.tokenHash, hashOf(token))),
        ),
      )
      .run();
    if (hash !== null) keepPassword(tx, person.userId, hash);
    if (still.offer) {
      if (hasWritten(tx, still.offer.courseId, person.userId))
        return refused(
          'conflict',
          `You have taken an exam of ${still.offer.courseName}, and stay a student in it. Tell ${still.offer.by}.`,
        );
      takeUp(tx, within, still.offer, person.userId);
    } else record(tx, within, { action: 'people.come-in', courseId: null, subjectId: person.userId });
    return ok({ signsInAs: person.signsInAs });
  });
}

/** Whether somebody has an attempt in a course: then they are a student of it for good, because results are a student's. */
export const hasWritten = (tx: Tx, courseId: string, userId: string): boolean =>
  tx
    .select({ id: attempt.id })
    .from(attempt)
    .innerJoin(sitting, eq(sitting.id, attempt.sittingId))
    .where(and(eq(attempt.userId, userId), eq(sitting.courseId, courseId)))
    .limit(1)
    .get() !== undefined;

/** Gives somebody the part they were offered. */
function takeUp(tx: Tx, context: Context, offered: NonNullable<Invited['offer']>, userId: string): void {
  const { id: offerId, courseId, role } = offered;
  tx.insert(membership)
    .values({ id: newId(), courseId, userId, role, addedAt: context.now })
    .onConflictDoUpdate({ target: [membership.courseId, membership.userId], set: { role, removedAt: null } })
    .run();
  tx.delete(offer).where(eq(offer.id, offerId)).run();
  record(tx, context, { action: 'people.take-up', courseId, subjectId: userId, detail: { role } });
}
