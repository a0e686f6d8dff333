import type { z } from 'zod';
import type { Random } from '../base/random';
import { emptyRich, type Rich } from '../base/rich';
import type { AnswerFeedback } from './answerFeedback';
import type { Finding } from './finding';
import type { Presentation } from './presentation';
import type { Scored } from './scored';
import type { Rubric } from './types/written/content';

/** Where the variables of a question stand in it besides its stem and its feedback. */
export type Varying<Content> = {
  /** The formulas of its key, each with what an author calls it. */
  formulas: (content: Content) => { label: string; formula: string }[];
  /** Lists whose texts must all differ on every paper. */
  lists: (content: Content) => Rich[][];
  /** What is said where no formula of the key depends on a variable; null where that is as good. */
  fixedKey: string | null;
  /** A copy in which every text and every formula of the key is changed. */
  mapKey: (content: Content, change: { text: (text: Rich) => Rich; formula: (formula: string) => string }) => Content;
};

/**
 * All that a question type is, but for how it is drawn on a screen or on a page. There is one definition for each type, in
 * its folder below `types/`; {@link definitions} lists them. Every member is asked for, so that a new type compiles only
 * once it has said each; most types answer some with one of the stock answers below.
 *
 * Where a response is asked for, it has been read by `read`: it is never empty. Where a content comes with a presentation,
 * it has the values of that paper in it (see {@link withValues}).
 */
export type QuestionTypeDefinition<Schema extends z.ZodType, View, Response, Content = z.output<Schema>> = {
  /** What lists and menus call it. */
  name: string;
  /** Points where nothing else is said, more than 0: more where students supply the answer. */
  usualPoints: number;
  /** Minutes that answering usually takes besides reading, more than 0: a beginning until times have been observed. */
  answeringMinutes: number;

  /** What its content holds, with everything that makes it unfit to be saved. */
  schema: Schema;
  /** A new question. It need not pass the schema. */
  blank: () => Content;
  /** Settings, by name, that the next question of the type begins with. */
  settings: readonly (keyof Content & string)[];
  /** An easy question about nothing that has to be learnt: what has to be learnt is how to answer. */
  example: Content;
  /** Its words, for lists, search and export. */
  text: (content: Content) => string;
  /** Its choices and its key in the readable columns of a table. */
  columns: (content: Content) => { choices: string[]; answer: string };
  /** Without fields that were opened and left empty. */
  withoutEmptyParts: (content: Content) => Content;
  /** What there is to look at that only this type knows. */
  findings: (content: Content) => Finding[];

  /** Fixes what may differ between papers, but for variables and labels. */
  present: (content: Content, random: Random) => Presentation;
  /** The content as an exam shows it whose choices stay as written. */
  asWritten: (content: Content) => Content;
  /** All that `present` draws from, as JSON: papers differ only through it. */
  drawnFrom: (content: Content) => unknown;
  /** Where its variables stand; null for a type without any. */
  varying: Varying<Content> | null;

  /** What a student's browser learns before release: built from what it names, never by leaving out. */
  view: (content: Content, presentation: Presentation) => View;
  /** Reads any JSON as a response: null is a refusal, undefined an empty response. Never throws. */
  read: (input: unknown) => Response | undefined | null;
  /** A response of somebody who knows no more than what is shown: what made-up people enter. `read` takes it. */
  guess: (view: NoInfer<View>, random: Random) => NoInfer<Response>;

  /** Whether answers of some question of the type wait for a person. */
  mayWaitForMark: boolean;
  /** Whether every answer to this question waits for a person. */
  waitsForMark: (content: Content) => boolean;
  /** Whether it is answered on paper, where nothing can be empty here. */
  onPaper: (content: Content) => boolean;
  /** Credit in [0, 1], or that a person judges it. Total: defined for every response that `read` gives. */
  score: (content: Content, presentation: Presentation, response: Response) => Scored;
  /** A response that earns full credit; for written answers, the model answer. */
  right: (content: Content, presentation: Presentation) => Response;
  /** A response in words, for markers and for export. */
  responseText: (content: Content, presentation: Presentation, response: Response) => string;
  /** The boxes that are filled where a response is printed, by the keys of the paper. */
  boxes: (response: Response) => string[];
  /** The content with one more accepted answer; null where it takes none, or has it already. */
  accepting: (content: Content, answer: { text: string; credit: number }) => Content | null;
  /** What markers look at. */
  markingAids: (content: Content) => { modelAnswer: Rich; rubric: Rubric | null };
  /** The content, its fields called feedback taken out, without what else is not its key: advice and rubric. */
  keyOnly: (content: Content) => Content;
  /**
   * The question of a paper with the key of another of its versions: the words as they stood on the paper, all that judges
   * and explains as the other has it. Both have the values of the paper in them. What the other does not know any more is
   * not right.
   */
  judgedBy: (onPaper: Content, judge: Content) => Content;
  /** What it says to the parts of one answer. */
  partFeedback: (content: Content, presentation: Presentation, response: Response) => AnswerFeedback[];
};

/** Makes the definition of a question type; the types of its content, view and responses are read off it. */
export const defineQuestionType = <Schema extends z.ZodType, View, Response>(
  definition: QuestionTypeDefinition<Schema, View, Response>,
): QuestionTypeDefinition<Schema, View, Response> => definition;

const same = <Content>(content: Content): Content => content;

/** Stock answer: nothing differs from paper to paper. */
export const sameOnEveryPaper = {
  present: (): Presentation => ({}),
  asWritten: same,
  drawnFrom: () => null,
};

/** Stock answer: the key judges every answer. */
export const markedByKey = {
  mayWaitForMark: false,
  waitsForMark: () => false,
  onPaper: () => false,
  accepting: () => null,
  markingAids: () => ({ modelAnswer: emptyRich, rubric: null }),
};

/** Stock answer: nothing in it can be left empty but its feedback. */
export const noEmptyParts = { withoutEmptyParts: same };

/** Stock answer: besides its feedback it holds nothing but its key. */
export const onlyKey = { keyOnly: same };

/** Stock answer: its words are its stem, and all the rest of it judges. */
export const keyBesideStem = {
  judgedBy: <Content extends { stem: Rich }>(onPaper: Content, judge: Content): Content => ({
    ...judge,
    stem: onPaper.stem,
  }),
};

/** Stock answer: nothing of it is printed as a box. */
export const noBoxes = { boxes: (): string[] => [] };

/** Stock answer: it says nothing to parts of an answer. */
export const noPartFeedback = { partFeedback: (): AnswerFeedback[] => [] };

/** Stock answer: it has no key, and no choices. */
export const noColumns = { columns: () => ({ choices: [] as string[], answer: '' }) };
