import { inArray } from 'drizzle-orm';
import katex from 'katex';
import { typeset } from '@/core/base/typeset';
import type { QuestionContent } from '@/core/question/content';
import type { Db, Tx } from '@/db/client';
import { questionVersion } from '@/db/schema';

const kept = new Map<string, QuestionContent>();
const mostKept = 4_000;

/**
 * The contents of versions as they are shown on papers, mathematics typeset. Frozen ones are kept in memory.
 *
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
      const content = typeset(row.content, katex);
      found.set(row.id, content);
      if (row.frozenAt !== null) kept.set(row.id, content);
    }
  }
  return found;
}
