import { and, eq, inArray, isNull } from 'drizzle-orm';
import { z } from 'zod';
import { id } from '@/core/base/id';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { type Proposal, proposeMatches } from '@/core/round/matchNames';
import type { Db, Tx } from '@/db/client';
import { attempt, attemptEvent, handset, membership, user } from '@/db/schema';
import { giveToPerson, takeFromPerson } from '../attempt/whoseAttempt';
import { tell } from '../house/bus';
import { undoable } from '../house/undoable';
import { command, query } from '../house/useCase';
import { nameInput } from '../people/personFields';
import { audienceOf, type SittingRow } from '../records/audience';
import type { HandsetRow } from '../records/roundOf';
import { toRound } from './toRound';

/** A device that is in a round. */
const deviceIn = (db: Db | Tx, sittingId: string, userId: string): HandsetRow | undefined =>
  db
    .select()
    .from(handset)
    .where(and(eq(handset.sittingId, sittingId), eq(handset.userId, userId), isNull(handset.sentOutAt)))
    .get();

const onlyDevices = 'Whoever signed in is called what the roster says.';

/** Gives a device another name: the wall never shows one, and its owner sees the new one. */
export const renameDevice = command({
  admits: toRound('sitting.invigilate'),
  takes: [id('user'), nameInput],
  logs: 'round.rename',
  does({ tx, sittingId, record, afterwards }, userId, name): Result<null> {
    const device = deviceIn(tx, sittingId, userId);
    if (!device) return refused('conflict', onlyDevices);
    tx.update(user).set({ name }).where(eq(user.id, userId)).run();
    tx.update(handset).set({ typed: name }).where(eq(handset.userId, userId)).run();
    record({ subjectId: sittingId, detail: { userId, from: device.typed, to: name } });
    afterwards(() => tell({ sittingId, what: 'attempt', userId }));
    return ok(null);
  },
});

/** Sends a device out of a round: nothing it did counts, and it comes in again only as somebody else. */
export const sendOut = command({
  admits: toRound('sitting.invigilate'),
  takes: [id('user')],
  logs: 'round.send-out',
  does({ tx, now, context, sittingId, record, afterwards }, userId): Result<null> {
    const device = deviceIn(tx, sittingId, userId);
    if (!device) return refused('conflict', 'Only devices are sent out: whoever signed in can be voided in the room.');
    tx.update(handset).set({ sentOutAt: now, studentNumber: null }).where(eq(handset.userId, userId)).run();
    tx.update(membership).set({ removedAt: now }).where(eq(membership.userId, userId)).run();
    const voided = tx
      .update(attempt)
      .set({ state: 'voided', stateBefore: 'running', endedAt: now, endedBy: 'invigilator' })
      .where(and(eq(attempt.sittingId, sittingId), eq(attempt.userId, userId)))
      .returning({ id: attempt.id })
      .all();
    for (const one of voided)
      tx.insert(attemptEvent)
        .values({
          attemptId: one.id,
          at: now,
          kind: 'voided',
          actorId: context.actor.userId,
          detail: { reason: 'sent out of the round' },
        })
        .run();
    record({ subjectId: sittingId, detail: { userId, name: device.typed } });
    afterwards(() => tell({ sittingId, what: 'attempt', userId }));
    return ok(null);
  },
});

/** The names that were typed in a round with whoever they most likely are, and the roster to choose from. */
export type Matching = {
  proposals: Proposal[];
  /** Those who are matched, with whom. */
  matched: { guestId: string; typed: string; userId: string; name: string }[];
  roster: { userId: string; name: string }[];
};

/** The roster as names are matched to it: students of the course, without those who came by a link or in at a door. */
function rosterOf(db: Db | Tx, row: SittingRow): { userId: string; name: string }[] {
  const listed = new Set(
    db
      .select({ userId: membership.userId })
      .from(membership)
      .where(
        and(
          eq(membership.courseId, row.courseId),
          eq(membership.role, 'student'),
          isNull(membership.removedAt),
          isNull(membership.onlySitting),
        ),
      )
      .all()
      .map((one) => one.userId),
  );
  return audienceOf(db, row)
    .filter((one) => listed.has(one.userId))
    .map(({ userId, name }) => ({ userId, name }));
}

/** The devices of a round with a typed name that are real. */
const namedDevices = (db: Db | Tx, sittingId: string) =>
  db
    .select()
    .from(handset)
    .where(and(eq(handset.sittingId, sittingId), isNull(handset.sentOutAt), eq(handset.madeUp, false)))
    .all()
    .filter((one) => one.typed !== '');

/** Who is in a round in their own name, or as whom a device was found to be. */
function taken(db: Db | Tx, sittingId: string): Set<string> {
  const rows = db
    .select({ userId: attempt.userId })
    .from(attempt)
    .where(and(eq(attempt.sittingId, sittingId), inArray(attempt.state, ['handed-in', 'running', 'not-handed-in'])))
    .all();
  return new Set(rows.map((one) => one.userId));
}

/** Proposes who those are that typed a name. */
export const seeMatching = query({
  admits: toRound('results.publish'),
  does({ db, sittingId, sitting: row }): Result<Matching> {
    const roster = rosterOf(db, row);
    const names = new Map(roster.map((one) => [one.userId, one.name]));
    const devices = namedDevices(db, sittingId);
    return ok({
      roster,
      proposals: proposeMatches(
        devices.filter((one) => one.standsFor === null).map((one) => ({ guestId: one.userId, typed: one.typed })),
        roster,
        taken(db, sittingId),
      ),
      matched: devices.flatMap((one) =>
        one.standsFor === null
          ? []
          : [{ guestId: one.userId, typed: one.typed, userId: one.standsFor, name: names.get(one.standsFor) ?? '' }],
      ),
    });
  },
});

type Matched = { sittingId: string; guestIds: string[] };

/** Taking matches back: what was typed under a name is nobody's on the roster again. */
export const namesMatched = undoable<Matched>('round.match', {
  action: 'results.publish',
  says: ({ guestIds }) => `Matched ${guestIds.length} typed ${guestIds.length === 1 ? 'name' : 'names'} to the roster`,
  apply(tx, context, { sittingId, guestIds }) {
    for (const userId of guestIds) takeFromPerson(tx, { userId, sittingId }, context.now, context.actor.userId);
  },
});

/** Says who those are that typed a name: what they did counts as theirs from now on. All of it, or nothing. */
export const matchNames = command({
  admits: toRound('results.publish'),
  takes: [
    z
      .array(z.object({ guestId: id('user'), userId: id('user') }))
      .min(1, 'Nobody was named.')
      .max(2_000),
  ],
  logs: 'round.match',
  does({ tx, now, context, sittingId, sitting: row, held, record, afterwards }, pairs): Result<{ undo: number }> {
    if (held.stoppedAt === null) return refused('conflict', 'Names are matched once the round is stopped.');
    const running = tx
      .select({ id: attempt.id })
      .from(attempt)
      .where(and(eq(attempt.sittingId, sittingId), eq(attempt.state, 'running')))
      .limit(1)
      .get();
    if (running) return refused('conflict', 'The last answers are still coming in. Try again in a moment.');
    const listed = new Set(rosterOf(tx, row).map((one) => one.userId));
    const free = new Set(namedDevices(tx, sittingId).flatMap((one) => (one.standsFor === null ? [one.userId] : [])));
    const inside = taken(tx, sittingId);
    const persons = new Set<string>();
    for (const { guestId, userId } of pairs) {
      if (!listed.has(userId)) return notFound('person');
      if (!free.delete(guestId)) return refused('conflict', 'Somebody has matched one of these names meanwhile.');
      if (persons.has(userId)) return refused('bad-input', 'Two names cannot be the same person.');
      if (inside.has(userId))
        return refused('conflict', 'Somebody you named is in this round in their own name already.');
      persons.add(userId);
      giveToPerson(tx, { userId: guestId, sittingId }, userId, now, context.actor.userId);
    }
    const undo = record({
      subjectId: sittingId,
      within: sittingId,
      detail: { names: pairs.length },
      undo: namesMatched.of({ sittingId, guestIds: pairs.map((one) => one.guestId) }),
    });
    afterwards(() => tell({ sittingId, what: 'rules' }));
    return ok({ undo });
  },
});
