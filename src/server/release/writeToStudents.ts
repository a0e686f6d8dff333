import { z } from 'zod';
import { id } from '@/core/base/id';
import { ok, type Result, refused } from '@/core/base/result';
import { send } from '../house/outbox';
import { command } from '../house/useCase';
import { audienceOf } from '../records/audience';
import { toSitting } from '../sitting/toSitting';

const input = z.strictObject({
  userIds: z.array(id('user')).min(1, 'Pick the students first.').max(2_000),
  subject: z.string().trim().min(1, 'Give it a subject.').max(200, 'At most 200 characters.'),
  text: z.string().trim().min(1, 'Write something first.').max(5_000, 'At most 5,000 characters.'),
});

/** Writes to some students of a sitting: each gets a message of their own, and nobody learns who else did. */
export const writeToStudents = command({
  admits: toSitting('results.publish'),
  takes: [input],
  logs: 'results.write',
  does(
    { tx, courseId, sittingId, sitting: row, record, context },
    { userIds, subject, text },
  ): Result<{ sent: number }> {
    const wanted = new Set(userIds);
    const students = audienceOf(tx, row).filter((one) => wanted.has(one.userId));
    const sent = send(
      tx,
      context,
      courseId,
      students.map(({ userId, email }) => ({ userId, email, subject, body: text })),
    );
    if (sent === 0) return refused('conflict', 'None of them has an email to be written to.');
    record({ subjectId: sittingId, detail: { sent, subject } });
    return ok({ sent });
  },
});
