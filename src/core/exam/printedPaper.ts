import type { Rich } from '../base/rich';
import type { SheetDocument } from '../gradebook/sheetDocument';
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

/** A paper to be printed: plain data, so that it can be sent to the thread that prints. */
export type PrintedPaper = {
  title: string;
  /** Whose paper it is; null leaves a line for the name. */
  student: string | null;
  /** What tells this paper from others of the same exam: a number or a receipt code. */
  code: string;
  points: string;
  instructions: Rich;
  withKey: boolean;
  slots: PrintedSlot[];
};

/** A picture by the hash of its content, as PNG. */
export type PrintedPicture = { data: Uint8Array; width: number; height: number };

/** What is printed: papers into one PDF; sheets each into a file of its own in one archive, or all into one PDF. */
export type PrintOrder = { pictures: Record<string, PrintedPicture> } & (
  | { papers: PrintedPaper[] }
  | { sheets: SheetDocument[]; format: 'pdf' | 'docx'; into: 'archive' }
  | { sheets: SheetDocument[]; format: 'pdf'; into: 'one-pdf' }
);

/** What the printing thread says. */
export type PrintMessage =
  | { kind: 'progress'; done: number }
  | { kind: 'done'; bytes: Uint8Array }
  | { kind: 'failed'; message: string };
