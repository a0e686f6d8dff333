import { desc, eq } from 'drizzle-orm';
import { ok, type Result } from '@/core/base/result';
import type { Tx } from '@/db/client';
import { outbox, user } from '@/db/schema';
import { admit } from '../people/permission';
import type { Context } from './context';

export type Message = { userId: string; email: string; subject: string; body: string };

/** Puts messages into the outbox, in the transaction of what they tell about. */
export function send(tx: Tx, context: Context, courseId: string, messages: Message[]): void {
  for (let i = 0; i < messages.length; i += 200)
    tx.insert(outbox)
      .values(messages.slice(i, i + 200).map((message) => ({ at: context.now, courseId, ...message })))
      .run();
}

export type SentMessage = { id: number; at: number; name: string; email: string; subject: string; body: string };

/** The newest messages of a course. */
export function listOutbox(context: Context, courseId: string): Result<SentMessage[]> {
  const admitted = admit(context, courseId, 'people.see');
  if (!admitted.ok) return admitted;
  return ok(
    context.db
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
      .all(),
  );
}
