import { eq, inArray } from 'drizzle-orm';
import { type ExamDesign, linesOf } from '@/core/exam/design';
import { type Item, itemOf } from '@/core/exam/items/item';
import type { QuestionContent } from '@/core/question/content';
import type { Db, Tx } from '@/db/client';
import { question, questionVersion } from '@/db/schema';

type StoredItem = {
  item: Item;
  lineId: string;
  content: QuestionContent;
  /** The version that is current, for whoever changes it. */
  version: { id: string; number: number; frozenAt: number | null };
};

/** The items of an off-screen exam in the order of its lines, with what is stored of each. */
export function storedItems(db: Db | Tx, design: ExamDesign): StoredItem[] {
  const lines = linesOf(design).flatMap(({ line }) => (line.kind === 'fixed' ? [line] : []));
  const rows = db
    .select({ questionId: question.id, version: questionVersion })
    .from(question)
    .innerJoin(questionVersion, eq(questionVersion.id, question.currentVersionId))
    .where(
      inArray(
        question.id,
        lines.map((line) => line.questionId),
      ),
    )
    .all();
  const byId = new Map(rows.map((row) => [row.questionId, row.version]));
  return lines.flatMap((line): StoredItem[] => {
    const version = byId.get(line.questionId);
    const item = version && itemOf(line.questionId, version.content, line.points);
    if (!version || !item) return [];
    const { id, number, frozenAt, content } = version;
    return [{ item, lineId: line.id, content, version: { id, number, frozenAt } }];
  });
}
