import type { Result } from '@/core/base/result';
import type { Db } from '@/db/client';
import type { Actor } from '../house/context';
import { serverNow } from '../house/installation';
import { type Saved, type SaveInput, saveResponses } from './saveResponses';

type Waiting = {
  actor: Actor;
  save: SaveInput;
  now: number;
  resolve: (answer: Result<Saved>) => void;
  reject: (why: unknown) => void;
};

const queues = new WeakMap<Db, Waiting[]>();

/**
 * Saves a response together with all others that arrive in the same turn of the event loop: one commit, and so one flush
 * of the disk, serves a whole burst. Each is answered after that commit. Should one of them fail unexpectedly, the
 * transaction is undone and each is tried by itself, so that nobody suffers for another's save.
 */
export function saveTogether(db: Db, actor: Actor, save: SaveInput): Promise<Result<Saved>> {
  return new Promise((resolve, reject) => {
    const entry = { actor, save, now: serverNow(), resolve, reject };
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
  } catch (why) {
    const [only] = waiting;
    if (waiting.length === 1) only?.reject(why);
    else for (const entry of waiting) commit(db, [entry]);
  }
}
