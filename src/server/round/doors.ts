import { randomInt } from 'node:crypto';
import { and, eq, isNull } from 'drizzle-orm';
import { ok, type Result } from '@/core/base/result';
import { newDoorCode } from '@/core/round/doorCode';
import type { Db, Tx } from '@/db/client';
import { doorCode } from '@/db/schema';
import type { Context } from '../house/context';
import { command } from '../house/useCase';
import { toCourse } from '../people/toCourse';

const inUse = (db: Db | Tx, courseId: string): string | undefined =>
  db
    .select({ code: doorCode.code })
    .from(doorCode)
    .where(and(eq(doorCode.courseId, courseId), isNull(doorCode.until)))
    .get()?.code;

/** The door code of a course; it gets one with its first round. */
export const doorOf = (db: Db | Tx, courseId: string): string | null => inUse(db, courseId) ?? null;

/** Makes sure that a course has a door code. @returns the one in use */
export const ensureDoor = (tx: Tx, context: Context, courseId: string): string =>
  inUse(tx, courseId) ?? newDoor(tx, context, courseId);

/** Gives a course a code that no course has or ever had. */
function newDoor(tx: Tx, { now }: Context, courseId: string): string {
  let code = newDoorCode((below) => randomInt(below));
  while (tx.select({ code: doorCode.code }).from(doorCode).where(eq(doorCode.code, code)).get())
    code = newDoorCode((below) => randomInt(below));
  tx.insert(doorCode).values({ code, courseId, since: now }).run();
  return code;
}

/** Which course a code leads to, and whether it still does; undefined for one that never did. */
export const courseOfDoor = (db: Db | Tx, code: string): { courseId: string; until: number | null } | undefined =>
  db.select({ courseId: doorCode.courseId, until: doorCode.until }).from(doorCode).where(eq(doorCode.code, code)).get();

/** Changes the door code of a course: the one before leads nowhere from now on. Whoever is in a round stays in. */
export const changeDoor = command({
  admits: toCourse('sitting.change'),
  logs: 'round.door',
  does({ tx, context, now, courseId, record }): Result<{ code: string }> {
    tx.update(doorCode)
      .set({ until: now })
      .where(and(eq(doorCode.courseId, courseId), isNull(doorCode.until)))
      .run();
    const code = newDoor(tx, context, courseId);
    record({ subjectId: courseId });
    return ok({ code });
  },
});
