import type { Rich } from '../base/rich';
import type { ShownQuestion } from '../question/student';

/** A question as it stands on a printed paper: the student's view of it, and its key only where a key is printed. */
export type PrintedSlot = {
  number: number;
  /** Given with the first question of a part. */
  heading: string | null;
  /** What a choose-part asks for; given with its first question. */
  choose: string | null;
  points: string;
  required: boolean;
  view: ShownQuestion;
  /** Given with the first question of a passage. */
  passage: Rich | null;
  /** What goes into gaps, by their ids, and which choices are right, by their keys. */
  key: { text: string; right: string[]; solution: Rich | null } | null;
};

/** A paper to be printed: plain data, so that it can be sent to the process that prints. */
export type PrintedPaper = {
  title: string;
  /** Whose paper it is; null leaves a line for the name, '' none. */
  student: string | null;
  /** What tells this paper from others of the same exam: a number or a receipt code. */
  code: string;
  points: string;
  instructions: Rich;
  withKey: boolean;
  slots: PrintedSlot[];
};
