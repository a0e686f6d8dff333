import type { SheetPlan } from './sheetRow';
import type { Grade } from './standIn';

/** A sheet to be printed: a copy of a layout, made out for somebody, or with room for a name. */
export type OrderedSheet = {
  layout: string;
  copy: number;
  /** Null for a blank. */
  name: string | null;
  /** What stands beside the name, such as the section. */
  note: string;
};

/** Answer sheets to be printed into one file. All layouts have the same number to a page. */
export type AnswerSheetOrder = {
  installation: string;
  title: string;
  layouts: Readonly<Record<string, SheetPlan>>;
  sheets: readonly OrderedSheet[];
  /** Whether a sheet of an odd number of pages is followed by an empty one, so that both sides are the same student's. */
  bothSides: boolean;
};

/** Answer sheets to be filled in by a made-up class, as a stand-in for printer and scanner. */
export type FillOrder = {
  order: AnswerSheetOrder;
  /** How well the pictures are taken. */
  grade: Grade;
  seed: string;
  /** The numbers that are filled in on blanks, one after the other; '' for one that somebody forgot. */
  numbers: readonly string[];
};
