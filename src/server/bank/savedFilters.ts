import { and, asc, eq } from 'drizzle-orm';
import { z } from 'zod';
import { filterFromQuery, filterToQuery } from '@/core/bank/questionFilter';
import { id } from '@/core/base/id';
import { notFound, ok, type Result } from '@/core/base/result';
import { savedFilter } from '@/db/schema';
import { newId } from '../house/context';
import { command, query } from '../house/useCase';
import { toBank } from './toBank';

type SavedFilter = { id: string; name: string; query: string };

/** This person's filters of a bank. */
export const listFilters = query({
  admits: toBank('bank.see'),
  does: ({ db, actor, bankId }): Result<SavedFilter[]> =>
    ok(
      db
        .select({ id: savedFilter.id, name: savedFilter.name, query: savedFilter.query })
        .from(savedFilter)
        .where(and(eq(savedFilter.userId, actor.userId), eq(savedFilter.bankId, bankId)))
        .orderBy(asc(savedFilter.name))
        .all(),
    ),
});

const input = z.object({
  name: z.string().trim().min(1, 'Give the filter a name.').max(60, 'At most 60 characters.'),
  query: z.string().max(4_000),
});

/** Keeps a filter under a name; the same name again replaces it. */
export const saveFilter = command({
  admits: toBank('bank.see'),
  takes: [input],
  unlogged: 'a filter is its keeper’s own',
  does({ tx, bankId, actor }, sent): Result<SavedFilter> {
    const filter = filterFromQuery(Object.fromEntries(new URLSearchParams(sent.query)));
    const query = new URLSearchParams(filterToQuery(filter)).toString();
    const values = { id: newId(), userId: actor.userId, bankId, name: sent.name, query };
    tx.insert(savedFilter)
      .values(values)
      .onConflictDoUpdate({
        target: [savedFilter.userId, savedFilter.bankId, savedFilter.name],
        set: { query },
      })
      .run();
    return ok({ id: values.id, name: values.name, query });
  },
});

/** Lets a kept filter go. */
export const dropFilter = command({
  admits: toBank('bank.see'),
  takes: [id('filter')],
  unlogged: 'a filter is its keeper’s own',
  does({ tx, bankId, actor }, filterId): Result<null> {
    const dropped = tx
      .delete(savedFilter)
      .where(and(eq(savedFilter.id, filterId), eq(savedFilter.userId, actor.userId), eq(savedFilter.bankId, bankId)))
      .run();
    return dropped.changes ? ok(null) : notFound('filter');
  },
});
