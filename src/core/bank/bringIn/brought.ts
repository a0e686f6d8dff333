import type { QuestionContent } from '../../question/content';
import type { Difficulty } from '../../question/types';

/** A question read from a document or a table, before it is taken into a bank. */
export type Brought = {
  /** Where it stands in what was brought: a line of text or a row of a table, counted from 1. */
  at: number;
  /** What a person recognises it by. */
  title: string;
  content: QuestionContent | null;
  shortName: string;
  points: number | null;
  difficulty: Difficulty | null;
  /** The path of its category, names divided by ›; empty for the one chosen. */
  category: string;
  tags: string[];
  /** Codes of objectives. */
  objectives: string[];
  /** Why it cannot be taken (error), what a person has to decide before it is (ask), or what to look at (warning). */
  problems: { severity: 'error' | 'ask' | 'warning'; message: string }[];
};

/**
 * A brought-in question of which nothing has been read yet.
 * @param at the line or row of the source where it begins, from 1
 */
export const blankBrought = (at: number): Brought => ({
  at,
  title: '',
  content: null,
  shortName: '',
  points: null,
  difficulty: null,
  category: '',
  tags: [],
  objectives: [],
  problems: [],
});
