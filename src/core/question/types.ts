/**
 * The question types, in the order in which they are offered. What each is stands in its definition, in its folder below
 * `types/`; only their names stand here, for what must stay light.
 */
export const questionTypes = [
  'single-choice',
  'multiple-choice',
  'true-false',
  'short-text',
  'numeric',
  'gap-fill',
  'matching',
  'ordering',
  'written',
  'rating-scale',
  'date',
] as const;
/** The name of a question type. */
export type QuestionType = (typeof questionTypes)[number];

/** How hard an author expects a question to be, from the easiest. */
export const difficulties = ['easy', 'medium', 'hard'] as const;
/** One expected difficulty. */
export type Difficulty = (typeof difficulties)[number];
