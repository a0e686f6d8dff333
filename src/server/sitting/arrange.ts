import { z } from 'zod';
import { parse } from '@/core/base/parse';
import { notFound, ok, type Result } from '@/core/base/result';
import { arrangement } from '@/db/schema';
import { record } from '../house/audit';
import type { Context } from '../house/context';
import { admit } from '../people/permission';
import { audienceOf, sittingOf } from './audience';

const wholeNumber = z.number({ message: 'Give a whole number.' }).int('Give a whole number.');

const arrangementInput = z.object({
  extraPercent: wholeNumber.min(0).max(300),
  extraMinutes: wholeNumber.min(0).max(24 * 60),
  extraAttempts: wholeNumber.min(0).max(20),
  excused: z.boolean(),
});

/** Sets what differs for one student in one sitting. */
export function arrange(
  context: Context,
  courseId: string,
  sittingId: string,
  userId: string,
  input: unknown,
): Result<null> {
  const admitted = admit(context, courseId, 'sitting.change');
  if (!admitted.ok) return admitted;
  const parsed = parse(arrangementInput, input);
  if (!parsed.ok) return parsed;
  return context.db.transaction(
    (tx) => {
      const row = sittingOf(tx, courseId, sittingId);
      if (!row) return notFound('sitting');
      if (!audienceOf(tx, row).some((student) => student.userId === userId)) return notFound('student');
      tx.insert(arrangement)
        .values({ sittingId, userId, ...parsed.value })
        .onConflictDoUpdate({ target: [arrangement.sittingId, arrangement.userId], set: parsed.value })
        .run();
      record(tx, context, {
        action: 'sitting.arrange',
        courseId,
        subjectId: sittingId,
        detail: { userId, ...parsed.value },
      });
      return ok(null);
    },
    { behavior: 'immediate' },
  );
}
