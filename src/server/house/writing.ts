import type { Result } from '@/core/base/result';
import type { Tx } from '@/db/client';
import type { Context, Under } from './context';

/** Carries a refusal out of a transaction, so that the transaction is rolled back. */
class Refused extends Error {
  constructor(readonly result: { ok: false }) {
    super('refused');
  }
}

/**
 * The one place where something is written: one IMMEDIATE transaction, which a refusal rolls back as an exception does,
 * at whatever depth it was refused. Within another transaction it is a savepoint: refused, it leaves what was written
 * before it.
 */
export function writing<T>(context: Context, write: (tx: Tx, within: Context) => Result<T>): Result<T> {
  const under: Under = context.under ?? { later: [], anyway: [], lines: 0 };
  const before = { later: under.later.length, lines: under.lines };
  try {
    const done = context.db.transaction(
      (tx) => {
        const answer = write(tx, { ...context, under });
        if (!answer.ok) throw new Refused(answer);
        return answer;
      },
      { behavior: 'immediate' },
    );
    if (!context.under) for (const act of under.later) act();
    return done;
  } catch (why) {
    under.later.length = before.later;
    under.lines = before.lines;
    if (why instanceof Refused) return why.result as Result<T>;
    throw why;
  } finally {
    if (!context.under) for (const act of under.anyway) act();
  }
}

/** Does something once everything is committed; at once where nothing is being written. */
export function afterwards(context: Context, act: () => void): void {
  if (context.under) context.under.later.push(act);
  else act();
}
