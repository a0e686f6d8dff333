import { and, desc, eq, ne, sql } from 'drizzle-orm';
import type { Instant } from '@/core/base/time';
import type { QuestionContent } from '@/core/question/content';
import type { Db } from '@/db/client';
import { attempt, exam, examRevision, paperSlot, sitting } from '@/db/schema';
import { type Observed, observed } from './observed';

export type QuestionUsage = Observed & { sittings: { title: string; exam: string; at: Instant; drawn: number }[] };

/** Where and how often a question has stood on papers, the newest sitting first. */
export function questionUsage(db: Db, questionId: string): QuestionUsage | null {
  const seen = observed(db, [questionId]).get(questionId);
  if (!seen) return null;
  const sittings = db
    .select({
      title: sitting.title,
      exam: exam.title,
      at: sql<number>`max(${attempt.startedAt})`,
      drawn: sql<number>`count(*)`,
    })
    .from(paperSlot)
    .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
    .innerJoin(sitting, eq(sitting.id, attempt.sittingId))
    .innerJoin(examRevision, eq(examRevision.id, sitting.revisionId))
    .innerJoin(exam, eq(exam.id, examRevision.examId))
    .where(and(eq(paperSlot.questionId, questionId), ne(attempt.state, 'voided')))
    .groupBy(sitting.id)
    .orderBy(desc(sql`max(${attempt.startedAt})`))
    .all();
  return { ...seen, sittings };
}

const partNames: Record<string, string> = {
  stem: 'text',
  choices: 'choices',
  accepted: 'accepted answers',
  feedback: 'feedback',
  shuffle: 'shuffling',
  rule: 'credit rule',
  matching: 'comparison',
  gaps: 'gaps',
  pairs: 'pairs',
  extras: 'extra options',
  items: 'items',
  variables: 'values',
  constraints: 'conditions',
  units: 'units',
  modelAnswer: 'model answer',
  rubric: 'rubric',
  words: 'word limits',
  answer: 'right answer',
};

/** Which parts of a question differ between two versions, in words. */
export function whatChanged(before: QuestionContent | undefined, after: QuestionContent): string[] {
  if (!before) return [];
  const [a, b] = [before, after] as unknown as Record<string, unknown>[];
  const names = new Set([...Object.keys(a ?? {}), ...Object.keys(b ?? {})]);
  return [...names]
    .filter((name) => JSON.stringify(a?.[name]) !== JSON.stringify(b?.[name]))
    .map((name) => partNames[name] ?? name);
}
