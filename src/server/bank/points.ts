import { eq } from 'drizzle-orm';
import { z } from 'zod';
import { ok, type Result } from '@/core/base/result';
import { definitionOf } from '@/core/question/definitions';
import { type QuestionType, questionTypes } from '@/core/question/types';
import type { Db, Tx } from '@/db/client';
import { bank } from '@/db/schema';
import { joinedWithKept } from '../house/keptMeanwhile';
import { command, query } from '../house/useCase';
import { toBank } from './toBank';

/** The points a question of each type is worth in a bank where the question itself does not say. */
export function pointsIn(db: Db | Tx, bankId: string): (type: QuestionType) => number {
  const own = db.select({ points: bank.usualPoints }).from(bank).where(eq(bank.id, bankId)).get()?.points;
  return (type) => own?.[type] ?? definitionOf(type).usualPoints;
}

const pointsInput = z.partialRecord(
  z.enum(questionTypes),
  z
    .number({ message: 'Give the points as a number.' })
    .gt(0, 'Points must be more than 0.')
    .max(1_000, 'At most 1000.'),
);

/** Sets the points that questions of each type begin with in a bank. */
export const setUsualPoints = command({
  admits: toBank('bank.change'),
  takes: [pointsInput, pointsInput.optional()],
  logs: 'bank.points',
  does({ tx, bankId, record }, input, seen): Result<null> {
    const now = tx.select({ points: bank.usualPoints }).from(bank).where(eq(bank.id, bankId)).get()?.points ?? {};
    const joined = joinedWithKept(seen, input, now, 'points');
    if (!joined.ok) return joined;
    tx.update(bank).set({ usualPoints: joined.value }).where(eq(bank.id, bankId)).run();
    record({ subjectId: bankId, detail: joined.value });
    return ok(null);
  },
});

/** The points that a bank sets for itself, by type. */
export const ownPoints = query({
  admits: toBank('bank.see'),
  does({ bankId, context }): Result<Partial<Record<QuestionType, number>>> {
    return ok(
      context.db.select({ points: bank.usualPoints }).from(bank).where(eq(bank.id, bankId)).get()?.points ?? {},
    );
  },
});
