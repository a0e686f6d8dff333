import { and, eq, ne } from 'drizzle-orm';
import { z } from 'zod';
import { id } from '@/core/base/id';
import { readLocal } from '@/core/base/localTime';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { day, type Instant } from '@/core/base/time';
import { closesFor, lastStartFor, limitFor, opensFor } from '@/core/sitting/clock';
import { type Arrangement, mergeArrangements, noArrangement } from '@/core/sitting/rules';
import type { Tx } from '@/db/client';
import { arrangement, attempt } from '@/db/schema';
import { tell } from '../house/bus';
import type { Context } from '../house/context';
import { command } from '../house/useCase';
import type { Admission } from '../people/permission';
import { audienceOf, rulesOf, type SittingRow } from '../records/audience';
import { entryCode, networks } from './rulesInput';
import { tellArranged } from './tellStudents';
import { toSitting } from './toSitting';

const wholeNumber = z.number({ message: 'Give a whole number.' }).int('Give a whole number.');
const localMoment = z.string().max(16).default('');

const arrangementInput = z.object({
  extraPercent: wholeNumber.min(0, 'Not below 0.').max(300, 'At most 300 %.'),
  extraMinutes: wholeNumber.min(0, 'Not below 0.').max(24 * 60, 'At most a day.'),
  extraAttempts: wholeNumber.min(0, 'Not below 0.').max(20, 'At most 20.'),
  excused: z.boolean(),
  /** Own dates, local to the course's zone; empty where the sitting's hold. */
  opens: localMoment,
  lastStart: localMoment,
  due: localMoment,
  closes: localMoment,
  /** Empty where the sitting's hold. */
  entryCode: entryCode.default(''),
  networks: networks.default([]),
});

/** What of an arrangement is kept for one sitting. */
type Arranged = Omit<Arrangement, 'letThrough'>;

/** A sitting as it was opened for a change of what is arranged in it. */
type Changed = Admission & {
  tx: Tx;
  context: Context;
  sittingId: string;
  sitting: SittingRow;
  afterwards: (act: () => void) => void;
};

/** Keeps what differs for one student of a sitting, if they can start under it, and tells them. Open pages hear of it. */
function keepArranged(look: Changed, userId: string, next: Arranged): Result<null> {
  const { tx, sittingId, sitting: row, afterwards, context, timeZone, courseName, courseId } = look;
  afterwards(() => tell({ sittingId, what: 'rules', userId }));
  if (!audienceOf(tx, row).some((one) => one.userId === userId)) return notFound('student');
  const rules = rulesOf(row);
  const merged = mergeArrangements({ ...noArrangement, ...next }, noArrangement);
  const ownOpens = opensFor(rules, merged);
  const ownCloses = closesFor(rules, merged);
  if (ownOpens !== null && ownCloses !== null && ownOpens >= ownCloses)
    return refused('bad-input', 'It would close for this student before it opens.', 'closes');
  const ownLast = lastStartFor(rules, merged);
  if (next.lastStart !== null && ownCloses !== null && ownLast !== null && ownLast > ownCloses)
    return refused('bad-input', 'The last start lies after the closing.', 'lastStart');
  if (ownOpens !== null && ownLast !== null && ownOpens >= ownLast)
    return refused('bad-input', 'This student could never start: it opens for them after their last start.', 'opens');
  tx.insert(arrangement)
    .values({ sittingId, userId, ...next })
    .onConflictDoUpdate({ target: [arrangement.sittingId, arrangement.userId], set: next })
    .run();
  const after = audienceOf(tx, row).find((one) => one.userId === userId);
  if (row.state === 'scheduled' && after)
    tellArranged(tx, context, { row, student: after, courseId, timeZone, courseName });
  return ok(null);
}

/** Sets what differs for one student in one sitting. Open pages hear of it, and the student is told. */
export const arrange = command({
  admits: toSitting('sitting.change'),
  takes: [id('user'), arrangementInput],
  logs: 'sitting.arrange',
  does(look, userId, { opens, lastStart, due, closes, entryCode: code, networks: ranges, ...rest }): Result<null> {
    const moments: Record<'opens' | 'lastStart' | 'due' | 'closes', Instant | null> = {
      opens: null,
      lastStart: null,
      due: null,
      closes: null,
    };
    for (const [name, text] of Object.entries({ opens, lastStart, due, closes }) as [keyof typeof moments, string][]) {
      if (text === '') continue;
      const read = readLocal(text, look.timeZone);
      if (!read.ok) return refused('bad-input', read.why, name);
      moments[name] = read.at;
    }
    const next = { ...rest, ...moments, entryCode: code || null, networks: ranges.length ? ranges : null };
    const kept = keepArranged(look, userId, next);
    if (!kept.ok) return kept;
    look.record({ subjectId: look.sittingId, detail: { userId, ...next, entryCode: next.entryCode ? 'set' : null } });
    return kept;
  },
});

const makeUpInput = z.object({
  /** When they write, local to the course's zone; empty while that is not known: until then they count as excused. */
  opens: localMoment,
  /** Until when; empty for as long as the others had, and at least their own full time. */
  closes: localMoment,
  /** Empty where the sitting's holds. */
  entryCode: entryCode.default(''),
});

/**
 * Lets one student who could not take a sitting with the others write it later, in the same column: by times of their own.
 * What was arranged for them, such as more time, stays; nothing of theirs counts as missing until those times are over.
 */
export const makeUp = command({
  admits: toSitting('sitting.change'),
  takes: [id('user'), makeUpInput],
  logs: 'sitting.make-up',
  does(look, userId, { opens, closes, entryCode: code }): Result<null> {
    const { tx, sittingId, sitting: row, timeZone } = look;
    if (row.state !== 'scheduled')
      return refused('conflict', 'This sitting is not scheduled: its own times can still be set.');
    const mine = and(eq(attempt.sittingId, sittingId), eq(attempt.userId, userId), ne(attempt.state, 'voided'));
    const attempts = tx.select({ state: attempt.state }).from(attempt).where(mine).all();
    if (attempts.some((one) => one.state === 'running')) return refused('conflict', 'This student is writing now.');
    const before =
      tx
        .select()
        .from(arrangement)
        .where(and(eq(arrangement.sittingId, sittingId), eq(arrangement.userId, userId)))
        .get() ?? noArrangement;
    const { extraPercent, extraMinutes, extraAttempts, networks: own, lastStart, due } = before;
    const kept = { extraPercent, extraMinutes, extraAttempts, networks: own };
    const made = opens
      ? makeUpTimes(look, userId, { opens, closes })
      : ok({ opens: before.opens, closes: before.closes, lastStart, due });
    if (!made.ok) return made;
    const allowed = row.attemptsAllowed;
    const next: Arranged = {
      ...kept,
      ...made.value,
      // Who broke off an attempt gets one more for it.
      extraAttempts: allowed === null ? extraAttempts : Math.max(extraAttempts, attempts.length + 1 - allowed),
      excused: !opens,
      entryCode: code || before.entryCode,
    };
    const done = keepArranged(look, userId, next);
    if (done.ok)
      look.record({ subjectId: sittingId, detail: { userId, ...made.value, dayKnown: Boolean(opens), timeZone } });
    return done;
  },
});

/** The times of a make-up: as long as the others had, where nothing is said, and at least the student's own full time. */
function makeUpTimes(
  { tx, sitting: row, timeZone }: Changed,
  userId: string,
  typed: { opens: string; closes: string },
): Result<Pick<Arranged, 'opens' | 'closes' | 'lastStart' | 'due'>> {
  const opens = readLocal(typed.opens, timeZone);
  if (!opens.ok) return refused('bad-input', opens.why, 'opens');
  const student = audienceOf(tx, row).find((one) => one.userId === userId);
  if (!student) return notFound('student');
  const rules = rulesOf(row);
  const limit = limitFor(rules, student.arrangement);
  const window = rules.opens !== null && rules.closes !== null ? rules.closes - rules.opens : (limit ?? day);
  const closes = typed.closes
    ? readLocal(typed.closes, timeZone)
    : { ok: true as const, at: opens.at + Math.max(window, limit ?? 0) };
  if (!closes.ok) return refused('bad-input', closes.why, 'closes');
  return ok({
    opens: opens.at,
    closes: closes.at,
    // The others' last start and due are over.
    lastStart: rules.lastStart === null ? null : closes.at,
    due: rules.due === null ? null : closes.at,
  });
}
