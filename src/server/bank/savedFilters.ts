import { and, asc, eq } from 'drizzle-orm';
import { z } from 'zod';
import { filterFromQuery, filterToQuery } from '@/core/bank/questionFilter';
import { parse } from '@/core/base/parse';
import { notFound, ok, type Result } from '@/core/base/result';
import { savedFilter } from '@/db/schema';
import { type Context, newId } from '../house/context';
import { admitToBank } from './banks';

export type SavedFilter = { id: string; name: string; query: string };

/** This person's filters of a bank. */
export const savedFilters = (context: Context, bankId: string): SavedFilter[] =>
  context.db
    .select({ id: savedFilter.id, name: savedFilter.name, query: savedFilter.query })
    .from(savedFilter)
    .where(and(eq(savedFilter.userId, context.actor.userId), eq(savedFilter.bankId, bankId)))
    .orderBy(asc(savedFilter.name))
    .all();

const input = z.object({
  name: z.string().trim().min(1, 'Give the filter a name.').max(60, 'At most 60 characters.'),
  query: z.string().max(4_000),
});

/** Keeps a filter under a name; the same name again replaces it. */
export function saveFilter(
  context: Context,
  courseId: string,
  bankId: string,
  untrusted: unknown,
): Result<SavedFilter> {
  const admitted = admitToBank(context, courseId, bankId, 'bank.see');
  if (!admitted.ok) return admitted;
  const parsed = parse(input, untrusted);
  if (!parsed.ok) return parsed;
  const filter = filterFromQuery(Object.fromEntries(new URLSearchParams(parsed.value.query)));
  const query = new URLSearchParams(filterToQuery(filter)).toString();
  const values = { id: newId(), userId: context.actor.userId, bankId, name: parsed.value.name, query };
  context.db
    .insert(savedFilter)
    .values(values)
    .onConflictDoUpdate({
      target: [savedFilter.userId, savedFilter.bankId, savedFilter.name],
      set: { query },
    })
    .run();
  return ok({ id: values.id, name: values.name, query });
}

export function dropFilter(context: Context, courseId: string, bankId: string, filterId: string): Result<null> {
  const admitted = admitToBank(context, courseId, bankId, 'bank.see');
  if (!admitted.ok) return admitted;
  const dropped = context.db
    .delete(savedFilter)
    .where(
      and(eq(savedFilter.id, filterId), eq(savedFilter.userId, context.actor.userId), eq(savedFilter.bankId, bankId)),
    )
    .run();
  return dropped.changes ? ok(null) : notFound('filter');
}
