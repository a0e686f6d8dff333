import { inArray } from 'drizzle-orm';
import type { QuestionContent } from '@/core/question/content';
import type { Db, Tx } from '@/db/client';
import { questionVersion } from '@/db/schema';

const kept = new Map<string, QuestionContent>();
const mostKept = 4_000;

/**
 * The contents of versions that stand on papers. They are frozen, so that they may be kept in memory.
 *
 * @param versionIds versions that are frozen, or are being frozen in this transaction
 */
export function frozenContents(db: Db | Tx, versionIds: readonly string[]): Map<string, QuestionContent> {
  const found = new Map<string, QuestionContent>();
  const lacking = new Set<string>();
  for (const id of versionIds) {
    const content = kept.get(id);
    if (content) found.set(id, content);
    else lacking.add(id);
  }
  if (lacking.size) {
    if (kept.size + lacking.size > mostKept) kept.clear();
    const rows = db
      .select({ id: questionVersion.id, content: questionVersion.content, frozenAt: questionVersion.frozenAt })
      .from(questionVersion)
      .where(inArray(questionVersion.id, [...lacking]))
      .all();
    for (const row of rows) {
      found.set(row.id, row.content);
      if (row.frozenAt !== null) kept.set(row.id, row.content);
    }
  }
  return found;
}
