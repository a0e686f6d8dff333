import type { Rich } from '../base/rich';

/** One piece of a printed sheet, the same for every format it is printed in. */
export type SheetBlock =
  | { kind: 'heading'; text: string }
  | { kind: 'text'; text: string; quiet?: boolean }
  /** Large, with a word beside it: a score and its band. */
  | { kind: 'result'; text: string; note: string }
  | { kind: 'table'; head: string[]; rows: string[][]; right: number[] }
  | {
      kind: 'question';
      number: string;
      points: string;
      stem: Rich;
      /** What was answered, in words. */
      answer: string;
      verdict: string;
      /** Why it has these points, where they are not simply what its key or its marker gave. */
      why: string | null;
      /** The right answer in words; null where it is not printed. */
      right: string | null;
      solution: Rich | null;
      comment: string;
    }
  /** Ruled lines to write on. */
  | { kind: 'lines'; label: string; count: number };

/** A sheet to be printed: plain data, so that it can be sent to the printer. */
export type SheetDocument = {
  fileName: string;
  title: string;
  /** Under the title: whose it is, when. */
  note: string;
  /** At the foot of every page. */
  foot: string;
  blocks: SheetBlock[];
};
