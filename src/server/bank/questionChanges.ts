import { eq, inArray } from 'drizzle-orm';
import { question } from '@/db/schema';
import { undoable } from '../house/undoable';

/** A question was added: taken back, it is retired. */
export const questionCreated = undoable('question.create', {
  action: 'bank.change',
  apply(tx, { now }, { questionId }: { questionId: string }) {
    tx.update(question).set({ retiredAt: now }).where(eq(question.id, questionId)).run();
  },
});

/** A question was retired. */
export const questionRetired = undoable('question.retire', {
  action: 'bank.change',
  apply(tx, _context, { questionId }: { questionId: string }) {
    tx.update(question).set({ retiredAt: null }).where(eq(question.id, questionId)).run();
  },
});

/** Several questions were added at once: taken back, they are retired. */
export const questionsAdded = undoable('questions.create', {
  action: 'bank.change',
  apply(tx, { now }, { questionIds }: { bankId: string; questionIds: string[] }) {
    for (let i = 0; i < questionIds.length; i += 500)
      tx.update(question)
        .set({ retiredAt: now })
        .where(inArray(question.id, questionIds.slice(i, i + 500)))
        .run();
  },
});
