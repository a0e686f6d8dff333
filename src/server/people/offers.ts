import { and, eq } from 'drizzle-orm';
import { id } from '@/core/base/id';
import { notFound, ok, type Result } from '@/core/base/result';
import type { Instant } from '@/core/base/time';
import type { Role } from '@/core/people/policy';
import type { Db, Tx } from '@/db/client';
import { course, offer, user } from '@/db/schema';
import { type Context, newId } from '../house/context';
import { send } from '../house/outbox';
import { command } from '../house/useCase';
import { invitationAddress, invite, type Slip, signsInAs } from './invitations';
import { toCourse } from './toCourse';

/** A part in a course that waits for its owner's word. */
export type Offered = {
  offerId: string;
  userId: string;
  name: string;
  email: string | null;
  role: Role;
  offeredAt: Instant;
};

/** The parts of a course that wait. */
export const offersOf = (db: Db, courseId: string): Offered[] =>
  db
    .select({
      offerId: offer.id,
      userId: user.id,
      name: user.name,
      email: user.email,
      role: offer.role,
      offeredAt: offer.offeredAt,
    })
    .from(offer)
    .innerJoin(user, eq(user.id, offer.userId))
    .where(eq(offer.courseId, courseId))
    .orderBy(user.name)
    .all();

/**
 * Offers a part to somebody who has an account already. It is theirs once they open the address that is sent to them: an
 * account may have been opened by somebody else before its owner came, and must not be worth more for it.
 */
export function offerPart(tx: Tx, context: Context, courseId: string, userId: string, role: Role): void {
  tx.delete(offer)
    .where(and(eq(offer.courseId, courseId), eq(offer.userId, userId)))
    .run();
  const offerId = newId();
  tx.insert(offer)
    .values({ id: offerId, courseId, userId, role, offeredAt: context.now, offeredBy: context.actor.userId })
    .run();
  const to = tx.select({ email: user.email }).from(user).where(eq(user.id, userId)).get();
  const courseName = tx.select({ name: course.name }).from(course).where(eq(course.id, courseId)).get()?.name ?? '';
  const address = invitationAddress(invite(tx, userId, context.now, offerId));
  send(tx, context, courseId, [
    {
      userId,
      email: to?.email ?? null,
      subject: `You are asked to be ${role} in ${courseName}`,
      body: `${context.actor.name} asks you to be ${role} in ${courseName}.\n\nSay yes here, with your password or a new one; the address works once and for 30 days:\n${address}`,
    },
  ]);
}

/** A new address at which somebody takes up the part that is offered to them, shown once to whoever asks for it. */
export const offerAgain = command({
  admits: toCourse('people.change'),
  takes: [id('offer')],
  logs: 'people.offer-again',
  does({ tx, courseId, now, record }, offerId): Result<{ slips: Slip[]; refused: string[] }> {
    const found = tx
      .select({ userId: user.id, name: user.name, signsInAs })
      .from(offer)
      .innerJoin(user, eq(user.id, offer.userId))
      .where(and(eq(offer.id, offerId), eq(offer.courseId, courseId)))
      .get();
    if (!found) return notFound('offer');
    record({ subjectId: found.userId });
    const address = invitationAddress(invite(tx, found.userId, now, offerId));
    return ok({ slips: [{ ...found, section: null, address }], refused: [] });
  },
});

/** Takes an offer back: its addresses open nothing any more. */
export const withdrawOffer = command({
  admits: toCourse('people.change'),
  takes: [id('offer')],
  logs: 'people.withdraw-offer',
  does({ tx, courseId, record }, offerId): Result<null> {
    const gone = tx
      .delete(offer)
      .where(and(eq(offer.id, offerId), eq(offer.courseId, courseId)))
      .run();
    if (gone.changes === 0) return notFound('offer');
    record({ subjectId: offerId });
    return ok(null);
  },
});
