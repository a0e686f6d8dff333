import type { Tx } from '@/db/client';
import { bank, category } from '@/db/schema';
import { type Context, newId } from '../house/context';

/** The bank that holds the items of an off-screen exam, with its one category. */
export function beginItemBank(tx: Tx, context: Context, examId: string, title: string): void {
  const bankId = newId();
  tx.insert(bank)
    .values({ id: bankId, name: title, examId, createdBy: context.actor.userId, createdAt: context.now })
    .run();
  tx.insert(category).values({ id: newId(), bankId, parentId: null, name: 'Items', position: 0 }).run();
}
