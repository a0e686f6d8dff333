import type { Tx } from '@/db/client';
import { outbox } from '@/db/schema';
import type { Context } from './context';

export type Message = { userId: string; email: string; subject: string; body: string };

/** Puts messages into the outbox, in the transaction of what they tell about. */
export function send(tx: Tx, context: Context, courseId: string, messages: Message[]): void {
  for (let i = 0; i < messages.length; i += 200)
    tx.insert(outbox)
      .values(messages.slice(i, i + 200).map((message) => ({ at: context.now, courseId, ...message })))
      .run();
}
