import { desc, eq } from 'drizzle-orm';
import { ok, type Result } from '@/core/base/result';
import { outbox, user } from '@/db/schema';
import { query } from '../house/useCase';
import { toCourse } from './toCourse';

type SentMessage = { id: number; at: number; name: string; email: string; subject: string; body: string };

/** What opens an account stands in the message itself, and for nobody else to read. */
const masked = (body: string): string =>
  body.replace(/\/invitation\/[\w-]+/g, '/invitation/… (only in the message itself)');

/** The newest messages of a course. Addresses that open an account are left out: they are their owner's. */
export const listOutbox = query({
  admits: toCourse('people.see'),
  does: ({ db, courseId }): Result<SentMessage[]> =>
    ok(
      db
        .select({
          id: outbox.id,
          at: outbox.at,
          name: user.name,
          email: outbox.email,
          subject: outbox.subject,
          body: outbox.body,
        })
        .from(outbox)
        .innerJoin(user, eq(user.id, outbox.userId))
        .where(eq(outbox.courseId, courseId))
        .orderBy(desc(outbox.id))
        .limit(300)
        .all()
        .map((one) => ({ ...one, body: masked(one.body) })),
    ),
});
