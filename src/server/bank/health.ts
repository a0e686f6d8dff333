import { and, eq, isNull, sql } from 'drizzle-orm';
import { nearDuplicates } from '@/core/bank/nearDuplicates';
import { findings } from '@/core/bank/questionHealth';
import { crowded, type RightPlaces, rightPlaces } from '@/core/bank/rightPlaces';
import { ok, type Result } from '@/core/base/result';
import { contentText } from '@/core/question/content';
import type { Finding } from '@/core/question/finding';
import type { QuestionType } from '@/core/question/types';
import type { Db } from '@/db/client';
import { question, questionVersion } from '@/db/schema';
import { keptWhile } from '../house/keptWhile';
import { query } from '../house/useCase';
import { toBank } from './toBank';

export type Named = { id: string; name: string; text: string; type: QuestionType };

export type BankHealth = {
  questions: number;
  /** Pairs that are nearly the same, the likest first; at most {@link mostPairs} of `duplicatesInAll`. */
  duplicates: { a: Named; b: Named; likeness: number }[];
  duplicatesInAll: number;
  places: RightPlaces & { crowded: boolean };
  findings: (Named & { finding: Finding })[];
};

const mostPairs = 200;

/** What a look through all questions in use of a bank finds. Nothing is stored: what is mended is gone the next time. */
export const bankHealth = query({
  admits: toBank('bank.see'),
  does({ bankId, context }): Result<BankHealth> {
    return ok(
      looked(
        context.db,
        bankId,
        (db) => contentStamp(db, bankId),
        () => lookThrough(context.db, bankId),
      ),
    );
  },
});

/** Looking through thousands of questions takes most of a second, and people come back after every look at one. */
const looked = keptWhile<BankHealth>();

/** The questions in use of a bank, each with its count of edits. */
const contentStamp = (db: Db, bankId: string): string =>
  db
    .select({ id: question.id, edit: question.edit })
    .from(question)
    .where(and(eq(question.bankId, bankId), isNull(question.retiredAt)))
    .orderBy(question.id)
    .values()
    .join();

function lookThrough(db: Db, bankId: string): BankHealth {
  const rows = db
    .select({ id: question.id, shortName: question.shortName, type: question.type, content: questionVersion.content })
    .from(question)
    .innerJoin(questionVersion, eq(questionVersion.id, question.currentVersionId))
    .where(and(eq(question.bankId, bankId), isNull(question.retiredAt)))
    .orderBy(question.createdAt, sql`${question}.rowid`)
    .all();
  const texts = rows.map((row) => ({ id: row.id, text: contentText(row.content) }));
  const named = new Map<string, Named>(
    rows.map((row, i) => {
      const text = texts[i]?.text ?? '';
      return [
        row.id,
        { id: row.id, name: row.shortName || (text.split('\n')[0] ?? ''), text: text.slice(0, 400), type: row.type },
      ];
    }),
  );
  const pairs = nearDuplicates(texts);
  const places = rightPlaces(rows.map((row) => row.content));
  return {
    questions: rows.length,
    duplicates: pairs.slice(0, mostPairs).map((pair) => ({
      a: named.get(pair.a) as Named,
      b: named.get(pair.b) as Named,
      likeness: pair.likeness,
    })),
    duplicatesInAll: pairs.length,
    places: { ...places, crowded: crowded(places) },
    findings: rows.flatMap((row) =>
      findings(row.content).map((finding) => ({ ...(named.get(row.id) as Named), finding })),
    ),
  };
}
