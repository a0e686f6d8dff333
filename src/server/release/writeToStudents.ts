import { z } from 'zod';
import { parse } from '@/core/base/parse';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { record } from '../house/audit';
import type { Context } from '../house/context';
import { send } from '../house/outbox';
import { admit } from '../people/permission';
import { audienceOf, sittingOf } from '../sitting/audience';
import { isNobodysAddress } from '../sitting/tellStudents';

const input = z.strictObject({
  userIds: z.array(z.string().max(40)).min(1, 'Pick the students first.').max(2_000),
  subject: z.string().trim().min(1, 'Give it a subject.').max(200, 'At most 200 characters.'),
  text: z.string().trim().min(1, 'Write something first.').max(5_000, 'At most 5,000 characters.'),
});

/** Writes to some students of a sitting: each gets a message of their own, and nobody learns who else did. */
export function writeToStudents(
  context: Context,
  courseId: string,
  sittingId: string,
  message: unknown,
): Result<{ sent: number }> {
  const admitted = admit(context, courseId, 'results.publish');
  if (!admitted.ok) return admitted;
  const parsed = parse(input, message);
  if (!parsed.ok) return parsed;
  const { userIds, subject, text } = parsed.value;
  return context.db.transaction(
    (tx) => {
      const row = sittingOf(tx, courseId, sittingId);
      if (!row) return notFound('sitting');
      const wanted = new Set(userIds);
      const students = audienceOf(tx, row).filter((one) => wanted.has(one.userId) && !isNobodysAddress(one.email));
      if (students.length === 0) return refused('conflict', 'None of them can be written to.');
      send(
        tx,
        context,
        courseId,
        students.map(({ userId, email }) => ({ userId, email, subject, body: text })),
      );
      record(tx, context, {
        action: 'results.write',
        courseId,
        subjectId: sittingId,
        detail: { sent: students.length, subject },
      });
      return ok({ sent: students.length });
    },
    { behavior: 'immediate' },
  );
}
