/** The question types, in the order in which they are offered. A type has one folder below `types/`. */
export const questionTypes = ['single-choice', 'numeric', 'written'] as const;
export type QuestionType = (typeof questionTypes)[number];

export const questionTypeNames: Record<QuestionType, string> = {
  'single-choice': 'Single choice',
  numeric: 'Numeric',
  written: 'Written answer',
};

/** Points a question of the type is worth where nothing else is said: more where students supply the answer. */
export const usualPoints: Record<QuestionType, number> = { 'single-choice': 1, numeric: 2, written: 5 };

export const difficulties = ['easy', 'medium', 'hard'] as const;
export type Difficulty = (typeof difficulties)[number];
