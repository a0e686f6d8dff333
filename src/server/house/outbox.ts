import type { Tx } from '@/db/client';
import { outbox } from '@/db/schema';
import type { Context } from './context';

/** What is written to a person. Without an email it reaches nobody, and is not sent. */
export type Message = { userId: string; email: string | null; subject: string; body: string };

/**
 * Puts messages into the outbox, in the transaction of what they tell about.
 *
 * @returns how many of them have somebody to reach
 */
export function send(tx: Tx, context: Context, courseId: string, messages: readonly Message[]): number {
  const reaching = messages.flatMap(({ email, ...message }) => (email === null ? [] : { ...message, email }));
  for (let i = 0; i < reaching.length; i += 200)
    tx.insert(outbox)
      .values(reaching.slice(i, i + 200).map((message) => ({ at: context.now, courseId, ...message })))
      .run();
  return reaching.length;
}
