import { randomInt } from 'node:crypto';
import { and, count, desc, eq, isNull, sql } from 'drizzle-orm';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { type Duration, durationText, type Instant, minute } from '@/core/base/time';
import { folded } from '@/core/base/words';
import { readDoorCode } from '@/core/round/doorCode';
import type { WayIn } from '@/core/round/roundRules';
import type { Db, Tx } from '@/db/client';
import { attempt, course, handset, membership, round, sitting, user } from '@/db/schema';
import { startAttempt } from '../attempt/startAttempt';
import { record } from '../house/audit';
import { tell } from '../house/bus';
import { type Actor, type Context, newId } from '../house/context';
import { limitGuesses, paced } from '../house/limitGuesses';
import { afterwards, writing } from '../house/writing';
import { sittingsFor } from '../records/audience';
import { courseOfDoor } from './doors';

/** A code found on the street must not fill the house: so many may come into one round. */
const mostInRound = 2_000;
/** A whole class comes within a minute from one address; a script comes oftener, and then waits. */
const joins = paced(600, 100);
/** Wrong codes from one address, or by one account, before it has to wait: a class mistypes some, a script all. */
const wrongCodes = limitGuesses(60, 600_000);
/** From where which codes were used lately. */
const usedLately = new Map<string, Instant>();
const rememberedFor = 12 * 3_600_000;
const mostPairs = 20_000;
const wrongNumbers = limitGuesses(100, 600_000);
const wrongWays = limitGuesses(8, 600_000);

/** Who stands at a door: whoever is signed in in this browser, and where it is. */
export type AtDoor = { db: Db; now: Instant; address: string; actor: Actor | null };

/** A round that is open behind a door. */
export type OpenRound = {
  sittingId: string;
  title: string;
  /** How long ago it was begun, in words: several may have one title. */
  begun: string;
  pace: 'own' | 'led';
  /** What is asked of whoever comes in here; null where this browser's person comes in as they are. */
  asks: WayIn | null;
  /** Whether this browser is in it already. */
  isIn: boolean;
};

export type DoorView = { courseName: string; code: string; rounds: OpenRound[]; signedInAs: string | null };

const noSuchDoor = (until: Instant | null | undefined) =>
  until === undefined || until === null
    ? 'There is no such code. Look at it once more: letters and digits, six in all.'
    : 'This code has been changed. Ask for the new one.';

/** By whom wrong codes are counted: by the account where there is one, and always by the address. */
const counters = ({ actor, address }: AtDoor): string[] => [address, ...(actor ? [actor.userId] : [])];

function courseAt(at: AtDoor, typed: string): Result<{ courseId: string; courseName: string; code: string }> {
  const code = readDoorCode(typed);
  if (code === null && typed.trim() === '') return refused('bad-input', 'Type the door code.', 'code');
  const found = code === null ? undefined : courseOfDoor(at.db, code);
  if (found?.until !== null || code === null) {
    const wait = Math.max(...counters(at).map((key) => wrongCodes.wait(key, at.now)));
    if (wait > 0) return refused('busy', `Too many wrong codes. Wait ${minutesSaid(wait)}, then try again.`, 'code');
    return refused('not-found', noSuchDoor(found?.until), 'code');
  }
  // Whoever has tried too many wrong ones does not learn by a right one which it is; but one who tries codes in a room
  // shuts the door for nobody there, once it has been opened from there.
  const pair = `${at.address}\n${code}`;
  const isKnown = (usedLately.get(pair) ?? 0) > at.now - rememberedFor;
  const wait = isKnown ? 0 : Math.max(...counters(at).map((key) => wrongCodes.held(key, at.now)));
  if (wait > 0) return refused('busy', `Too many wrong codes. Wait ${minutesSaid(wait)}, then try again.`, 'code');
  if (usedLately.size > mostPairs) usedLately.clear();
  usedLately.set(pair, at.now);
  const row = at.db.select({ name: course.name }).from(course).where(eq(course.id, found.courseId)).get();
  return ok({ courseId: found.courseId, courseName: row?.name ?? '', code });
}

const minutesSaid = (wait: number): string => {
  const minutes = Math.ceil(wait / 60_000);
  return minutes === 1 ? 'a minute' : `${minutes} minutes`;
};

type OpenRow = { sitting: typeof sitting.$inferSelect; held: typeof round.$inferSelect };

const openRounds = (db: Db | Tx, courseId: string): OpenRow[] =>
  db
    .select({ sitting, held: round })
    .from(round)
    .innerJoin(sitting, eq(sitting.id, round.sittingId))
    .where(and(eq(sitting.courseId, courseId), eq(sitting.state, 'scheduled'), isNull(round.stoppedAt)))
    // The latest is what is going on in the room.
    .orderBy(desc(sitting.opens), desc(sitting.createdAt))
    .all();

/** The one device or person this browser is in a round as. */
const isInside = (db: Db | Tx, sittingId: string, userId: string): boolean =>
  db
    .select({ id: attempt.id })
    .from(attempt)
    .where(and(eq(attempt.sittingId, sittingId), eq(attempt.userId, userId), sql`${attempt.state} <> 'voided'`))
    .limit(1)
    .get() !== undefined;

/** What is asked at the door of a round of somebody who stands there. */
function asksOf(db: Db, { sitting: row, held }: OpenRow, actor: Actor | null): WayIn | null {
  const way = held.rules.comingIn;
  if (way === 'nameless' || !actor) return way;
  const given = sittingsFor(db, actor.userId, row.id)[0];
  // Somebody who came in as a device is asked again; somebody of the roster is known.
  const isDevice = db.select({ id: handset.userId }).from(handset).where(eq(handset.userId, actor.userId)).get();
  return given && !isDevice ? null : way;
}

const begunSaid = (ago: Duration): string =>
  ago < minute ? 'begun just now' : `begun ${durationText(Math.floor(ago / minute) * minute)} ago`;

/** Looks at what a code leads to. */
export function lookAtDoor(at: AtDoor, typed: string): Result<DoorView> {
  const found = courseAt(at, typed);
  if (!found.ok) return found;
  const { courseId, courseName, code } = found.value;
  const { db, actor } = at;
  return ok({
    courseName,
    code,
    signedInAs: actor?.name ?? null,
    rounds: openRounds(db, courseId).map((open) => {
      const isIn = actor !== null && isInside(db, open.sitting.id, actor.userId);
      return {
        sittingId: open.sitting.id,
        title: open.sitting.title,
        begun: begunSaid(at.now - (open.sitting.opens ?? at.now)),
        pace: open.held.rules.pace,
        asks: isIn ? null : asksOf(db, open, actor),
        isIn,
      };
    }),
  });
}

export type ComingIn = {
  code: string;
  sittingId: string;
  name?: string;
  number?: string;
  wayBack?: string;
  /** What only made-up handsets of this round have. */
  madeUp?: string;
};

export type CameIn = {
  sittingId: string;
  attemptId: string;
  pace: 'own' | 'led';
  /** Who is in this browser from now on; null where it is whoever was signed in already. */
  letIn: string | null;
};

/**
 * Lets somebody into a round: as who they are where they are signed in, else as a device that stands for them. Coming in
 * again from the same browser, or with the word of the way back from another one, goes on where they were.
 */
export function comeIn(at: AtDoor, input: ComingIn): Result<CameIn> {
  const found = courseAt(at, input.code);
  if (!found.ok) return found;
  const { db, now, actor } = at;
  const open = openRounds(db, found.value.courseId).find((one) => one.sitting.id === input.sittingId);
  if (!open) return refused('too-late', 'This round has been stopped.');
  const { sitting: row, held } = open;
  if (joins(`${at.address}\n${row.id}`, now) > 0)
    return refused('busy', 'Very many are coming in at once. Try again in a second.');
  const isMadeUp = held.madeUpKey !== null && input.madeUp === held.madeUpKey;
  if (input.madeUp !== undefined && !isMadeUp)
    return refused('not-allowed', 'Made-up handsets do not come into this round: their key has changed.');
  if (actor && !isMadeUp) {
    const isIn = isInside(db, row.id, actor.userId);
    if (isIn || asksOf(db, open, actor) === null) return asThemselves(at, actor, open);
  }
  return asDevice(at, open, input, isMadeUp);
}

const came = (open: OpenRow, attemptId: string, letIn: string | null): CameIn => ({
  sittingId: open.sitting.id,
  attemptId,
  pace: open.held.rules.pace,
  letIn,
});

const contextOf = ({ db, now, address }: AtDoor, actor: Actor): Context => ({ db, now, actor, address });

function asThemselves(at: AtDoor, actor: Actor, open: OpenRow): Result<CameIn> {
  const own = at.db
    .select({ id: attempt.id })
    .from(attempt)
    .where(
      and(eq(attempt.sittingId, open.sitting.id), eq(attempt.userId, actor.userId), sql`${attempt.state} <> 'voided'`),
    )
    .get();
  if (own) return ok(came(open, own.id, null));
  const started = startAttempt(contextOf(at, actor), open.sitting.id, '');
  return started.ok ? ok(came(open, started.value.attemptId, null)) : started;
}

/** A name as it is shown to others: without signs that cannot be seen or that turn the text around them. */
const tidyName = (typed: string): string =>
  typed
    .normalize('NFC')
    .replace(/[\p{Cc}\p{Cf}\p{Co}\p{Cn}\u2028\u2029]/gu, ' ')
    .replace(/\s+/g, ' ')
    .trim();

const longestName = 80;

type Wanted = { name: string; studentNumber: string | null; standsFor: string | null };

/** Under what somebody comes in who is not signed in, or why they cannot. */
function wantedBy(at: AtDoor, { sitting: row, held }: OpenRow, input: ComingIn, isMadeUp: boolean): Result<Wanted> {
  const way = isMadeUp ? 'name' : held.rules.comingIn;
  if (way === 'sign-in') return refused('signed-out', 'Sign in to come into this round.');
  if (way === 'nameless') return ok({ name: '', studentNumber: null, standsFor: null });
  if (way === 'name') {
    const name = tidyName(input.name ?? '');
    if (name === '') return refused('bad-input', 'Type your name.', 'name');
    if ([...name].length > longestName) return refused('bad-input', `At most ${longestName} characters.`, 'name');
    return ok({ name, studentNumber: null, standsFor: null });
  }
  const number = (input.number ?? '').trim();
  if (number === '') return refused('bad-input', 'Type your student number.', 'number');
  const key = `${at.address}\n${row.id}`;
  const listed = at.db
    .select({ userId: user.id, name: user.name })
    .from(membership)
    .innerJoin(user, eq(user.id, membership.userId))
    .where(
      and(
        eq(membership.courseId, row.courseId),
        eq(membership.role, 'student'),
        isNull(membership.removedAt),
        sql`lower(${membership.studentNumber}) = ${number.toLowerCase()}`,
      ),
    )
    .get();
  const isGiven = listed && sittingsFor(at.db, listed.userId, row.id).length > 0;
  if (!listed || !isGiven) {
    const wait = wrongNumbers.wait(key, at.now);
    return wait > 0
      ? refused('busy', `Too many numbers that are not on the roster. Wait ${minutesSaid(wait)}.`, 'number')
      : refused('not-found', 'This number is not on the roster of this round. Look at it once more.', 'number');
  }
  return ok({ name: listed.name, studentNumber: number.toLowerCase(), standsFor: listed.userId });
}

/** Who is in a round under the same name or number already. */
function sameInside(db: Db | Tx, sittingId: string, { name, studentNumber, standsFor }: Wanted) {
  const devices = db
    .select()
    .from(handset)
    .where(and(eq(handset.sittingId, sittingId), isNull(handset.sentOutAt)))
    .all();
  const device =
    studentNumber === null
      ? devices.find((one) => one.typed !== '' && folded(one.typed) === folded(name))
      : devices.find((one) => one.studentNumber === studentNumber);
  if (device) return { device };
  const people = db
    .select({ userId: user.id, name: user.name })
    .from(attempt)
    .innerJoin(user, eq(user.id, attempt.userId))
    .where(and(eq(attempt.sittingId, sittingId), sql`${attempt.state} <> 'voided'`))
    .all();
  const person = people.find((one) =>
    standsFor === null ? folded(one.name) === folded(name) : one.userId === standsFor,
  );
  return person ? { person } : {};
}

function asDevice(at: AtDoor, open: OpenRow, input: ComingIn, isMadeUp: boolean): Result<CameIn> {
  const wanted = wantedBy(at, open, input, isMadeUp);
  if (!wanted.ok) return wanted;
  const { sitting: row, held } = open;
  const { db, now } = at;
  const isNamed = wanted.value.name !== '';
  const there = isNamed ? sameInside(db, row.id, wanted.value) : {};
  if ('device' in there && there.device) return goOnAs(at, open, there.device, input, isMadeUp);
  if ('person' in there)
    return refused(
      'conflict',
      wanted.value.studentNumber === null
        ? 'Somebody of this name is in this round already. Add something to yours, or sign in if that is you.'
        : 'Whoever has this number is in this round already, signed in.',
      wanted.value.studentNumber === null ? 'name' : 'number',
    );
  const userId = newId();
  const actor = { userId, name: wanted.value.name };
  return writing(contextOf(at, actor), (tx, within): Result<CameIn> => {
    const so = tx.select({ n: count() }).from(handset).where(eq(handset.sittingId, row.id)).get()?.n ?? 0;
    if (so >= mostInRound) return refused('conflict', 'This round takes nobody more.');
    const name = wanted.value.name || `Device ${so + 1}`;
    const date = new Date(now);
    tx.insert(user).values({ id: userId, name, createdAt: date, updatedAt: date }).run();
    tx.insert(membership)
      .values({ id: newId(), courseId: row.courseId, userId, role: 'student', onlySitting: row.id, addedAt: now })
      .run();
    tx.insert(handset)
      .values({
        userId,
        sittingId: row.id,
        typed: wanted.value.name,
        studentNumber: wanted.value.studentNumber,
        // Found by a number, it is known from the beginning whose it is; it counts as theirs once the round is stopped.
        standsFor: null,
        wayBack: String(randomInt(1_000, 10_000)),
        madeUp: isMadeUp,
        joinedAt: now,
      })
      .run();
    record(tx, within, { action: 'round.come-in', courseId: row.courseId, subjectId: row.id });
    const started = startAttempt(within, row.id, '');
    if (!started.ok) return started;
    afterwards(within, () => tell({ sittingId: row.id, what: 'attempt', userId }));
    return ok({
      sittingId: row.id,
      attemptId: started.value.attemptId,
      pace: held.rules.pace,
      letIn: userId,
    });
  });
}

/** Goes on as a device that is in the round already, with the word that only its owner and the instructor know. */
function goOnAs(
  at: AtDoor,
  open: OpenRow,
  device: typeof handset.$inferSelect,
  input: ComingIn,
  isMadeUp: boolean,
): Result<CameIn> {
  const byNumber = device.studentNumber !== null;
  const typed = (input.wayBack ?? '').trim();
  if (typed === '' || device.madeUp !== isMadeUp)
    return refused(
      'conflict',
      byNumber
        ? 'This number is in the round already. To go on at this device, type the four digits of the other one; your instructor sees them too.'
        : 'Somebody of this name is in the round already. Add something to yours; or, to go on at this device, type the four digits of the other one.',
      byNumber ? 'wayBack' : 'name',
    );
  const wait = wrongWays.wait(device.userId, at.now);
  if (wait > 0) return refused('busy', `Too many tries. Wait ${minutesSaid(wait)}, or ask your instructor.`, 'wayBack');
  if (typed !== device.wayBack)
    return refused('not-allowed', 'These are not its four digits. Your instructor sees them too.', 'wayBack');
  wrongWays.forget(device.userId);
  const own = at.db
    .select({ id: attempt.id })
    .from(attempt)
    .where(and(eq(attempt.sittingId, open.sitting.id), eq(attempt.userId, device.userId)))
    .get();
  return own ? ok(came(open, own.id, device.userId)) : notFound('round');
}
