import { eq, sql } from 'drizzle-orm';
import { type QuestionContent, searchedText } from '@/core/question/content';
import type { Tx } from '@/db/client';
import { questionWords } from '@/db/schema';

/** Keeps the full-text row of a question: called in the transaction of every change of its name or content. */
export function keepWords(tx: Tx, questionId: string, name: string, content: QuestionContent): void {
  const words = searchedText(content);
  tx.insert(questionWords).values({ questionId }).onConflictDoNothing().run();
  const row = tx
    .select({ row: questionWords.row })
    .from(questionWords)
    .where(eq(questionWords.questionId, questionId))
    .get()?.row;
  tx.run(sql`delete from question_search where rowid = ${row}`);
  tx.run(sql`insert into question_search (rowid, name, words) values (${row}, ${name}, ${words})`);
}

/** The questions in which every word of a full-text query stands, as a part of a statement. */
export const questionsWith = (query: string) =>
  sql`select w.question_id from question_search s join question_words w on w.row = s.rowid where question_search match ${query}`;
