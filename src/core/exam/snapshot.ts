import { inSuccessRange, type Success } from '../question/successRange';
import type { Difficulty, QuestionType } from '../question/types';
import type { ExamDesign, PoolRule } from './design';

/** A question as it stood when a sitting's first attempt started: all that drawing needs to know of it. */
export type PoolEntry = {
  questionId: string;
  versionId: string;
  type: QuestionType;
  /** The question's category and all above it, from the root down. */
  categoryPath: string[];
  difficulty: Difficulty | null;
  objectives: string[];
  tags: string[];
  /** The exams, among those a design draws from, that can put it on a paper. */
  exams: string[];
  /** Whole days since it last stood on a paper; null if it never did. */
  daysSinceUse: number | null;
  passageId: string | null;
  /** What has been observed of it; null while no first attempt that counts has met it. */
  success: Success | null;
  /** Expected credit in [0, 1]. */
  expected: number;
  /** Minutes it is expected to take, and over how many observed times besides type and words. */
  minutes: number;
  timed: number;
};

/** Entries sorted by question id, so that the same bank gives the same snapshot. */
export type PoolSnapshot = { entries: PoolEntry[] };

/** A snapshot of some questions, sorted by their ids. */
export const snapshotOf = (entries: PoolEntry[]): PoolSnapshot => ({
  entries: [...entries].sort((a, b) => (a.questionId < b.questionId ? -1 : a.questionId > b.questionId ? 1 : 0)),
});

/** Whether a question is in a pool. A question that belongs to a passage is in no ordinary pool. */
export const inPool = (entry: PoolEntry, rule: PoolRule): boolean => entry.passageId === null && meets(entry, rule);

/** Whether a passage line may take a question together with its passage. */
export const inPassagePool = (entry: PoolEntry, rule: PoolRule): boolean =>
  entry.passageId !== null && meets(entry, rule);

function meets(entry: PoolEntry, rule: PoolRule): boolean {
  if (!isFrom(entry, rule)) return false;
  if (rule.difficulties.length > 0 && !(entry.difficulty && rule.difficulties.includes(entry.difficulty))) return false;
  if (rule.types?.length && !rule.types.includes(entry.type)) return false;
  if (rule.success && !inSuccessRange(entry.success, rule.success)) return false;
  if (rule.objectives?.length && !rule.objectives.some((one) => entry.objectives.includes(one))) return false;
  if (rule.tags?.length && !rule.tags.some((one) => entry.tags.includes(one))) return false;
  return !(rule.restDays && entry.daysSinceUse !== null && entry.daysSinceUse < rule.restDays);
}

function isFrom(entry: PoolEntry, rule: PoolRule): boolean {
  const own = entry.categoryPath[entry.categoryPath.length - 1];
  return (
    rule.categories.some((category) =>
      category.below ? entry.categoryPath.includes(category.id) : own === category.id,
    ) ||
    (rule.exams?.some((exam) => entry.exams.includes(exam)) ?? false) ||
    (rule.questions?.includes(entry.questionId) ?? false)
  );
}

/** Only what the design can draw: the fixed questions and every question in one of its pools. */
export function neededFor(design: ExamDesign, snapshot: PoolSnapshot): PoolSnapshot {
  const lines = design.parts.flatMap((part) => part.lines);
  const fixed = new Set(lines.flatMap((line) => (line.kind === 'fixed' ? [line.questionId] : [])));
  const rules = lines.flatMap((line) => (line.kind === 'draw' ? [line.pool] : []));
  const passages = lines.flatMap((line) => (line.kind === 'passage' ? [line.pool] : []));
  return {
    entries: snapshot.entries.filter(
      (entry) =>
        fixed.has(entry.questionId) ||
        rules.some((rule) => inPool(entry, rule)) ||
        passages.some((rule) => inPassagePool(entry, rule)),
    ),
  };
}

/** How many answers the prior of a question weighs as much as. */
const priorWeight = 10;

/**
 * Expected credit of a question: what was observed over first attempts that count, leaning on a prior by difficulty while
 * answers are few: (Σ credit + 10·prior) / (n + 10).
 */
export function expectedCredit(difficulty: Difficulty | null, success: Success | null): number {
  const prior = priorCredit(difficulty);
  if (!success) return prior;
  return (success.mean * success.n + priorWeight * prior) / (success.n + priorWeight);
}

/** Expected credit where nothing has been observed yet: a prior by difficulty. */
export const priorCredit = (difficulty: Difficulty | null): number =>
  difficulty === 'easy' ? 0.85 : difficulty === 'hard' ? 0.45 : 0.65;
