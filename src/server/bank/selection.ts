import { and, eq, inArray, isNotNull, isNull } from 'drizzle-orm';
import { z } from 'zod';
import { questionFilterSchema } from '@/core/bank/questionFilter';
import { id } from '@/core/base/id';
import type { Instant } from '@/core/base/time';
import type { Db, Tx } from '@/db/client';
import { question } from '@/db/schema';
import { matchingIds } from './questionList';

/** Questions named one by one, or all that match a filter but some. */
export const selectionSchema = z.union([
  z.object({ ids: z.array(id('question')).min(1, 'Select questions first.').max(20_000) }),
  z.object({ filter: questionFilterSchema, but: z.array(id('question')).max(20_000).default([]) }),
]);

export type Selection = z.output<typeof selectionSchema>;

/**
 * The questions in use of this bank that a selection names; ids of elsewhere are left out.
 *
 * @param retired whether it names retired ones instead
 */
export function selectedIds(
  db: Db | Tx,
  bankId: string,
  selection: Selection,
  now: Instant,
  retired = false,
): string[] {
  if ('filter' in selection) {
    const but = new Set(selection.but);
    return matchingIds(db, bankId, { ...selection.filter, retired }, now).filter((id) => !but.has(id));
  }
  const found: string[] = [];
  for (let i = 0; i < selection.ids.length; i += 500)
    found.push(
      ...db
        .select({ id: question.id })
        .from(question)
        .where(
          and(
            eq(question.bankId, bankId),
            retired ? isNotNull(question.retiredAt) : isNull(question.retiredAt),
            inArray(question.id, selection.ids.slice(i, i + 500)),
          ),
        )
        .all()
        .map((row) => row.id),
    );
  return found;
}
