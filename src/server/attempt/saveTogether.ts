import type { Result } from '@/core/base/result';
import type { Db } from '@/db/client';
import type { Context } from '../house/context';
import { progressed } from './progressed';
import { type Saved, type SaveInput, saveResponses } from './saveResponses';

type Waiting = {
  context: Context;
  save: SaveInput;
  resolve: (answer: Result<Saved>) => void;
  reject: (why: unknown) => void;
};

const queues = new WeakMap<Db, Waiting[]>();

/**
 * Saves a response together with all others that arrive in the same turn of the event loop: one commit, and so one flush
 * of the disk, serves a whole burst. Each is answered after that commit. Should one of them fail unexpectedly, the
 * transaction is undone and each is tried by itself, so that nobody suffers for another's save.
 */
export function saveTogether(context: Context, save: SaveInput): Promise<Result<Saved>> {
  const { db } = context;
  return new Promise((resolve, reject) => {
    const entry = { context, save, resolve, reject };
    const queue = queues.get(db);
    if (queue?.length) {
      queue.push(entry);
      return;
    }
    const begun = [entry];
    queues.set(db, begun);
    setImmediate(() => {
      queues.delete(db);
      commit(db, begun);
    });
  });
}

function commit(db: Db, waiting: Waiting[]): void {
  try {
    const answers = saveResponses(db, waiting);
    for (const [i, entry] of waiting.entries()) entry.resolve(answers[i] as Result<Saved>);
    for (const [i, { save, context }] of waiting.entries()) if (answers[i]?.ok) progressed(db, save.attemptId, context);
  } catch (why) {
    const [only] = waiting;
    if (waiting.length === 1) only?.reject(why);
    else for (const entry of waiting) commit(db, [entry]);
  }
}
