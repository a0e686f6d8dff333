import { eq, inArray } from 'drizzle-orm';
import { ok, type Result } from '@/core/base/result';
import { counted, listed } from '@/core/base/words';
import { question } from '@/db/schema';
import { undoable } from '../house/undoable';

/** A question was added: taken back, it is retired. */
export const questionCreated = undoable<{ questionId: string }>('question.create', {
  action: 'bank.change',
  isListed: false,
  says: (_kept, { name }) => `${named(name)} written`,
  apply(tx, { now }, { questionId }) {
    tx.update(question).set({ retiredAt: now }).where(eq(question.id, questionId)).run();
  },
});

/** A question was retired. */
export const questionRetired = undoable<{ questionId: string }>('question.retire', {
  action: 'bank.change',
  says: (_kept, { name }) => `${named(name)} retired`,
  apply(tx, _context, { questionId }) {
    tx.update(question).set({ retiredAt: null }).where(eq(question.id, questionId)).run();
  },
});

const named = (name: unknown) => (typeof name === 'string' && name ? `The question “${name}”` : 'A question');

/**
 * Several questions were added at once: taken back, they are retired. Those that somebody has worked on since stay, and are
 * named.
 */
export const questionsAdded = undoable<{ bankId: string; questionIds: string[] }>('questions.create', {
  action: 'bank.change',
  says: ({ questionIds }, { from }) =>
    `${counted(questionIds.length, 'question')} ${from === undefined ? 'brought in' : 'copied from another bank'}`,
  apply(tx, { now }, { questionIds }): Result<string> {
    const stay: string[] = [];
    let gone = 0;
    for (let i = 0; i < questionIds.length; i += 500) {
      const slice = tx
        .select({ id: question.id, edit: question.edit, name: question.shortName, retiredAt: question.retiredAt })
        .from(question)
        .where(inArray(question.id, questionIds.slice(i, i + 500)))
        .all();
      const untouched = slice.filter((row) => row.edit === 1 && row.retiredAt === null).map((row) => row.id);
      stay.push(
        ...slice
          .filter((row) => row.edit !== 1 && row.retiredAt === null)
          .map((row) => row.name || 'one without a name'),
      );
      gone += untouched.length;
      tx.update(question).set({ retiredAt: now }).where(inArray(question.id, untouched)).run();
    }
    return ok(stay.length === 0 ? '' : `${counted(gone, 'question')} taken back. ${staySaid(stay)}`);
  },
});

/** Names those that were changed since, and so stay. */
export const staySaid = (names: readonly string[]): string =>
  `Changed since, and left as ${names.length === 1 ? 'it is' : 'they are'}: ${listed(names)}.`;
