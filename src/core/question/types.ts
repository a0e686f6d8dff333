/** The question types, in the order in which they are offered. A type has one folder below `types/`. */
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
export type QuestionType = (typeof questionTypes)[number];

export const questionTypeNames: Record<QuestionType, string> = {
  'single-choice': 'Single choice',
  'multiple-choice': 'Multiple choice',
  'true-false': 'True/false',
  'short-text': 'Short text',
  numeric: 'Numeric',
  'gap-fill': 'Gap-fill',
  matching: 'Matching',
  ordering: 'Ordering',
  written: 'Written answer',
  'rating-scale': 'Rating scale',
  date: 'Date',
};

/** Points a question of the type is worth where nothing else is said: more where students supply the answer. */
export const usualPoints: Record<QuestionType, number> = {
  'single-choice': 1,
  'multiple-choice': 2,
  'true-false': 0.5,
  'short-text': 2,
  numeric: 2,
  'gap-fill': 3,
  matching: 3,
  ordering: 3,
  written: 5,
  'rating-scale': 1,
  date: 1,
};

/** Types whose answers may wait for a person: written ones always, short texts while they have no key. */
export const typesMarkedByHand: QuestionType[] = ['written', 'short-text'];

export const difficulties = ['easy', 'medium', 'hard'] as const;
export type Difficulty = (typeof difficulties)[number];
