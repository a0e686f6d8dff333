import { asc, eq, sql } from 'drizzle-orm';
import type { Aside } from '@/core/attempt/standing';
import { grouped } from '@/core/base/grouped';
import type { Instant } from '@/core/base/time';
import type { Db } from '@/db/client';
import { preparedOnce } from '@/db/preparedOnce';
import { paperSlot, response, responseAside } from '@/db/schema';
import type { RunningAttempt } from '../records/audience';
import { deadlineOf } from './deadlineOf';
import { questionsNow } from './questionsNow';

const ofAttempt = preparedOnce((db) =>
  db
    .select({ aside: responseAside, slot: paperSlot, value: response.value, revision: response.revision })
    .from(paperSlot)
    .innerJoin(responseAside, eq(responseAside.slotId, paperSlot.id))
    .leftJoin(response, eq(response.slotId, paperSlot.id))
    .where(eq(paperSlot.attemptId, sql.placeholder('attemptId')))
    .orderBy(asc(paperSlot.position), asc(responseAside.epoch), asc(responseAside.sequence))
    .prepare(),
);

const oneOf = preparedOnce((db) =>
  db
    .select({ slotId: responseAside.slotId })
    .from(paperSlot)
    .innerJoin(responseAside, eq(responseAside.slotId, paperSlot.id))
    .where(eq(paperSlot.attemptId, sql.placeholder('attemptId')))
    .limit(1)
    .prepare(),
);

type Row = ReturnType<ReturnType<typeof ofAttempt>['all']>[number];

/** An answer that was kept aside, with what stands in its place. */
export type KeptAside = Aside & Pick<Row, 'slot' | 'value'> & { aside: Row['aside'] };

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a ?? null) === JSON.stringify(b ?? null);

/**
 * The answers of an attempt that were kept aside, in the order of the paper. Of each question the newest that waits, unless
 * it is what counts anyway; beside it the newest that was given in time, where that is another one; and what was decided
 * last.
 */
export function asidesOf(db: Db, one: RunningAttempt): KeptAside[] {
  const attemptId = one.attempt.id;
  if (!oneOf(db).get({ attemptId })) return [];
  const until = new Map(questionsNow(db, one).map((question) => [question.slotId, question.until]));
  const ends = [deadlineOf(one), one.attempt.endedAt].filter((end) => end !== null);
  const end = ends.length ? Math.min(...ends) : null;
  const all = ofAttempt(db)
    .all({ attemptId })
    .map(
      (row): KeptAside => ({
        ...row,
        number: row.slot.position + 1,
        reason: row.aside.reason,
        receivedAt: row.aside.receivedAt,
        givenAt: row.aside.givenAt,
        inTime: isInTime(row.aside, earlier(until.get(row.slot.id) ?? null, end)),
        decision: row.aside.decision,
      }),
    );
  return [...grouped(all, (row) => row.slot.id).values()].flatMap(listed);
}

const earlier = (a: Instant | null, b: Instant | null): Instant | null =>
  a === null || b === null ? (a ?? b) : Math.min(a, b);

/** Whether it was given before its question, and its attempt, had ended. */
const isInTime = ({ givenAt }: Row['aside'], deadline: Instant | null): boolean =>
  givenAt !== null && (deadline === null || givenAt <= deadline);

/** What is listed of the answers to one question, oldest first. */
function listed(rows: readonly KeptAside[]): KeptAside[] {
  const decided = rows.filter((row) => row.decision !== null).slice(-1);
  const open = rows.filter((row) => row.decision === null);
  const last = open.at(-1);
  if (!last || same(last.aside.value, last.value)) return decided;
  const inTime = open.filter((row) => row.inTime).at(-1);
  return [...decided, ...(inTime && inTime !== last && !same(inTime.aside.value, last.value) ? [inTime] : []), last];
}
