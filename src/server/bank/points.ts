import { eq } from 'drizzle-orm';
import { z } from 'zod';
import { parse } from '@/core/base/parse';
import { ok, type Result } from '@/core/base/result';
import { type QuestionType, questionTypes, usualPoints } from '@/core/question/types';
import type { Db, Tx } from '@/db/client';
import { bank } from '@/db/schema';
import { record } from '../house/audit';
import type { Context } from '../house/context';
import { admitToBank } from './banks';

/** The points a question of each type is worth in a bank where the question itself does not say. */
export function pointsIn(db: Db | Tx, bankId: string): (type: QuestionType) => number {
  const own = db.select({ points: bank.usualPoints }).from(bank).where(eq(bank.id, bankId)).get()?.points;
  return (type) => own?.[type] ?? usualPoints[type];
}

const pointsInput = z.partialRecord(
  z.enum(questionTypes),
  z
    .number({ message: 'Give the points as a number.' })
    .gt(0, 'Points must be more than 0.')
    .max(1_000, 'At most 1000.'),
);

/** Sets the points that questions of each type begin with in a bank. */
export function setUsualPoints(context: Context, courseId: string, bankId: string, input: unknown): Result<null> {
  const admitted = admitToBank(context, courseId, bankId, 'bank.change');
  if (!admitted.ok) return admitted;
  const parsed = parse(pointsInput, input);
  if (!parsed.ok) return parsed;
  return context.db.transaction(
    (tx) => {
      tx.update(bank).set({ usualPoints: parsed.value }).where(eq(bank.id, bankId)).run();
      record(tx, context, { action: 'bank.points', courseId, subjectId: bankId, detail: parsed.value });
      return ok(null);
    },
    { behavior: 'immediate' },
  );
}

/** The points that a bank sets for itself, by type. */
export function ownPoints(
  context: Context,
  courseId: string,
  bankId: string,
): Result<Partial<Record<QuestionType, number>>> {
  const admitted = admitToBank(context, courseId, bankId, 'bank.see');
  if (!admitted.ok) return admitted;
  return ok(context.db.select({ points: bank.usualPoints }).from(bank).where(eq(bank.id, bankId)).get()?.points ?? {});
}
