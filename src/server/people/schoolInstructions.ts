import { and, count, eq, isNull } from 'drizzle-orm';
import { z } from 'zod';
import { id } from '@/core/base/id';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { emptyRich, type Rich } from '@/core/base/rich';
import { richSchema } from '@/core/base/richSchema';
import type { Db, Tx } from '@/db/client';
import { installation, membership, user } from '@/db/schema';
import { joinedWithKept } from '../house/keptMeanwhile';
import { command, type Door, field, query } from '../house/useCase';
import { type Admission, admit } from './permission';
import { toCourse } from './toCourse';

const name = 'instructions';

/** What the school tells every student before every exam; empty where it tells nothing. */
export function schoolInstructions(db: Db | Tx): Rich {
  const stored = db.select().from(installation).where(eq(installation.name, name)).get()?.value;
  return stored ? (JSON.parse(stored) as Rich) : emptyRich;
}

const keeps = (db: Db | Tx, userId: string): boolean =>
  db.select({ keeps: user.keepsSchool }).from(user).where(eq(user.id, userId)).get()?.keeps ?? false;

/** To what all courses share: for an instructor who keeps it. */
const toSchool: Door<readonly ['courseId'], Admission> = {
  ...toCourse('course.create'),
  open(context, courseId) {
    const admitted = admit(context, courseId, 'course.create');
    if (!admitted.ok || keeps(context.db, context.actor.userId)) return admitted;
    return refused('not-allowed', 'What the school tells all students is set by who keeps it.');
  },
};

/** Sets what the school tells every student of every course. */
export const setHouseInstructions = command({
  admits: toSchool,
  takes: [field('instructions', richSchema), richSchema.optional()],
  logs: 'house.instructions',
  does({ tx, record }, instructions, seen): Result<null> {
    const joined = joinedWithKept(seen, instructions, schoolInstructions(tx), 'words of the school');
    if (!joined.ok) return joined;
    const value = JSON.stringify(joined.value);
    tx.insert(installation)
      .values({ name, value })
      .onConflictDoUpdate({ target: installation.name, set: { value } })
      .run();
    record({ subjectId: 'house' });
    return ok(null);
  },
});

/** Lets an instructor of this course keep what the school shares, or no longer. Somebody always does. */
export const setKeeper = command({
  admits: toSchool,
  takes: [id('user'), z.boolean()],
  logs: 'house.keeper',
  does({ tx, courseId, record }, userId, keepsSchool): Result<null> {
    const colleague = tx
      .select({ id: membership.id })
      .from(membership)
      .where(
        and(
          eq(membership.courseId, courseId),
          eq(membership.userId, userId),
          eq(membership.role, 'instructor'),
          isNull(membership.removedAt),
        ),
      )
      .get();
    if (!colleague) return notFound('instructor');
    tx.update(user).set({ keepsSchool }).where(eq(user.id, userId)).run();
    const left = tx.select({ n: count() }).from(user).where(eq(user.keepsSchool, true)).get()?.n ?? 0;
    if (left === 0) return refused('conflict', 'Somebody has to keep it: name another instructor first.');
    record({ subjectId: userId, detail: { keepsSchool } });
    return ok(null);
  },
});

export type School = {
  instructions: Rich;
  /** Whether whoever asks may set them. */
  keeps: boolean;
  /** Who may, by name. */
  keepers: string[];
  /** The instructors of this course, for who keeps it to hand it on. */
  colleagues: { userId: string; name: string; keeps: boolean }[];
};

/** What the school tells students, as an instructor reads it or, if they keep it, edits it. */
export const editHouseInstructions = query({
  admits: toCourse('course.create'),
  does({ db, courseId, actor }): Result<School> {
    const own = keeps(db, actor.userId);
    return ok({
      instructions: schoolInstructions(db),
      keeps: own,
      keepers: db
        .select({ name: user.name })
        .from(user)
        .where(eq(user.keepsSchool, true))
        .orderBy(user.name)
        .all()
        .map((one) => one.name),
      colleagues: own
        ? db
            .select({ userId: user.id, name: user.name, keeps: user.keepsSchool })
            .from(membership)
            .innerJoin(user, eq(user.id, membership.userId))
            .where(
              and(eq(membership.courseId, courseId), eq(membership.role, 'instructor'), isNull(membership.removedAt)),
            )
            .orderBy(user.name)
            .all()
        : [],
    });
  },
});
