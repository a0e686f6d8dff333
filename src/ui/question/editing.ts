import type { Problem } from '@/core/base/result';
import type { QuestionContent } from '@/core/question/content';

/** What every type's editor takes. Problems come with paths below `content.`. */
export type EditorProps<Content extends QuestionContent> = {
  content: Content;
  onChange: (content: Content) => void;
  problems: readonly Problem[];
  /** The gap whose answers are shown, for a text with gaps. */
  openGap?: string | null;
  onOpenGap?: (id: string | null) => void;
};

export const contentProblem = (problems: readonly Problem[], path: string): string | null =>
  problems.find((problem) => problem.field === `content.${path}`)?.message ?? null;
