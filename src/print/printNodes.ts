import type { Formula } from './formula';

/**
 * What a printed page is made of: a small tree of plain data that the typesetter's program walks through. Measures are
 * in points (1/72 inch). Whatever a person typed stands in `s`, `title`, `foot` and `alt`, and is set as it is.
 */
export type PrintInline =
  | { k: 't'; s: string; marks?: ('bold' | 'italic' | 'underline' | 'code' | 'super' | 'sub')[] }
  | { k: 'br' }
  | { k: 'formula'; f: Formula; alt: string }
  /** A box to be ticked, round where one is picked; a right one is filled where the key is printed. */
  | { k: 'box'; round: boolean; full: boolean }
  /** A frame, or with `line` a line, to write one sign into. */
  | { k: 'place'; width: number; line: boolean }
  | { k: 'space'; width: number }
  /** Of a width of its own, such as what stands before the lines of a paragraph that hangs. */
  | { k: 'cell'; width: number; c: PrintInline[] };

/** How words look; what is not said is as on the page around. */
export type Look = { size?: number; sans?: boolean; quiet?: boolean; strong?: boolean; align?: 'right' | 'center' };

/** What stands on lines of its own. */
export type PrintBlock =
  /** `hang`: how far its lines stand in, all but the first. */
  | ({ k: 'p'; c: PrintInline[]; hang?: number } & Look)
  /** A formula on lines of its own. */
  | { k: 'display'; f: Formula; alt: string }
  | ({ k: 'h'; level: 1 | 2; s: string } & Look)
  | {
      k: 'stack';
      c: PrintBlock[];
      /** Stands on one page, if it fits on any. */
      keep?: boolean;
      above?: number;
      left?: number;
      right?: number;
      /** A bar along its left side, or a frame around it, or a line above or below. */
      edge?: 'bar' | 'frame' | 'above' | 'below';
    }
  /** Side by side, row below row as cells go on; 0 as a width shares what is left. */
  | { k: 'columns'; widths: number[]; c: PrintBlock[][]; gap?: number; rowGap?: number; above?: number }
  /** Blocks with words in the margin to their left and right, beside their first line. */
  | { k: 'beside'; left: number; right: number; c: PrintBlock[]; before: PrintBlock; behind: PrintBlock }
  | { k: 'list'; ordered: boolean; c: PrintBlock[][] }
  | { k: 'table'; widths: number[]; head: PrintBlock[][]; rows: PrintBlock[][][]; right: number[]; grid: boolean }
  | { k: 'picture'; hash: string; alt: string; width: number; height: number }
  | { k: 'lines'; count: number; height: number; width?: number };

/** A document of its own within a file: it begins on a new page and counts its own pages. */
export type PrintDocument = { title: string; foot: string; c: PrintBlock[] };

/** Words on a line of their own. */
export const words = (s: string, look: Look = {}): PrintBlock => ({ k: 'p', c: linesOf(s), ...look });

/** A text with its line breaks. */
export const linesOf = (s: string): PrintInline[] =>
  s.split('\n').flatMap((line, i): PrintInline[] => [...(i ? [{ k: 'br' as const }] : []), { k: 't', s: line }]);
