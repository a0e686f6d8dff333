import { z } from 'zod';
import { id, type Thing } from '../base/id';
import { emptyRich } from '../base/rich';
import { richSchema } from '../base/richSchema';
import { choiceLabels } from '../question/choiceLabels';
import { successRange } from '../question/successRange';
import { difficulties, questionTypes } from '../question/types';
import { usualRules } from '../sitting/lastingRules';

/** A part or line: named by the browser that made it. */
const ownId = z.string().regex(/^[A-Za-z0-9_-]{4,40}$/);
const points = z
  .number({ message: 'Give the points as a number.' })
  .gt(0, 'Points must be more than 0.')
  .max(1_000, 'At most 1000 points for a question.');

const ids = (thing: Thing, most: number) => z.array(id(thing)).max(most, `At most ${most} can be named here.`);

/**
 * Which questions a draw may take. Where they come from adds up: any of the categories, any of the exams, or picked by
 * hand. What they must be narrows: within one property any of the values will do, and every property must be met.
 */
const poolFields = z.object({
  /** Each with or without what lies below it. */
  categories: z.array(z.object({ id: id('category'), below: z.boolean() })).max(100, 'At most 100 categories.'),
  /** Whatever these exams can put on a paper. */
  exams: ids('exam', 50).optional(),
  /** Questions picked by hand. */
  questions: ids('question', 2_000).optional(),
  /** Empty means any difficulty. */
  difficulties: z.array(z.enum(difficulties)),
  /** Absent or empty means any type. */
  types: z.array(z.enum(questionTypes)).optional(),
  /** Absent means any success rate, also none. */
  success: successRange.optional(),
  /** Absent or empty means any objective. */
  objectives: ids('objective', 100).optional(),
  /** Absent or empty means any tag. */
  tags: z.array(z.string().trim().min(1).max(60)).max(50).optional(),
  /** Rests questions that stood on a paper within so many days. */
  restDays: z
    .number({ message: 'Give the days as a number.' })
    .int('Whole days.')
    .min(1, 'At least one day.')
    .max(3_650, 'At most ten years.')
    .optional(),
});

const poolRule = poolFields.refine(
  (rule) => rule.categories.length + (rule.exams?.length ?? 0) + (rule.questions?.length ?? 0) > 0,
  { message: 'Choose where to draw from.', path: ['categories'] },
);

/** What every kind of line can ask of its questions. */
const asked = {
  points,
  /** Hand-in by the student is held back while one of its questions is empty; the clock never is. */
  required: z.boolean().optional(),
  /** Each of its questions has so many minutes of its own, from the moment it is opened. */
  minutes: z
    .number({ message: 'Give the minutes as a number.' })
    .min(0.25, 'At least a quarter of a minute.')
    .max(600, 'At most 600 minutes.')
    .optional(),
  /** A page begins here, where the author breaks the pages. */
  newPage: z.boolean().optional(),
};

const fixedLine = z.object({ kind: z.literal('fixed'), id: ownId, questionId: id('question'), ...asked });

const drawLine = z.object({
  kind: z.literal('draw'),
  id: ownId,
  /** How many questions it draws. */
  count: z
    .number({ message: 'Say how many questions to draw.' })
    .int('Draw a whole number of questions.')
    .min(1, 'Draw at least one question.')
    .max(500, 'Draw at most 500 questions.'),
  ...asked,
  pool: poolRule,
});

const passageLine = z.object({
  kind: z.literal('passage'),
  id: ownId,
  /** How many passages it draws. */
  count: z
    .number({ message: 'Say how many passages to draw.' })
    .int('Draw a whole number of passages.')
    .min(1, 'Draw at least one passage.')
    .max(50, 'Draw at most 50 passages.'),
  /** How many questions of each passage. */
  questions: z
    .number({ message: 'Say how many questions of each passage.' })
    .int('A whole number of questions.')
    .min(1, 'At least one question of each passage.')
    .max(50, 'At most 50 questions of each passage.'),
  ...asked,
  pool: poolRule,
});

/** A line that draws, whatever it draws. */
export const drawnLine = z.discriminatedUnion('kind', [drawLine, passageLine]);
const examLine = z.discriminatedUnion('kind', [fixedLine, drawLine, passageLine]);

/**
 * What happens to answers beyond those that a choose-part asks for: they are refused; the best ones count; or what they
 * bring counts on top, up to the points of the part or of the exam.
 */
export const extraAnswerRules = ['refused', 'best', 'credit-in-part', 'credit-in-exam'] as const;
/** What happens in a choose-part to answers beyond those asked for. */
export type ExtraAnswerRule = (typeof extraAnswerRules)[number];

/** What a choose-part asks for: any so many of its questions, and what happens to more. */
export type ChooseRule = { count: number; extra: ExtraAnswerRule };

const examPart = z
  .object({
    id: ownId,
    title: z.string().trim().min(1, 'Give the part a name.').max(200),
    order: z.enum(['as-written', 'shuffled']),
    lines: z.array(examLine).max(2_000, 'At most 2000 lines.'),
    /** In a choose-part the student answers any so many of its questions, which all carry the same points. */
    choose: z
      .object({
        count: z
          .number({ message: 'Say how many questions the student answers.' })
          .int('A whole number of questions.')
          .min(1, 'At least one question is answered.')
          .max(500, 'At most 500 questions.'),
        extra: z.enum(extraAnswerRules),
      })
      .optional(),
  })
  .superRefine((part, context) => {
    if (!part.choose) return;
    part.lines.forEach((line, i) => {
      if (line.points !== part.lines[0]?.points)
        context.addIssue({
          code: 'custom',
          path: ['lines', i, 'points'],
          message: 'In a choose-part all questions carry the same points.',
        });
      if (line.required)
        context.addIssue({
          code: 'custom',
          path: ['lines', i, 'required'],
          message: 'A choose-part leaves the choice to the student: none of its questions can be required.',
        });
    });
  });

/** What an exam is for, as three separate questions. */
const purposeFields = z.object({
  /** Whether answers are scored at all. */
  scored: z.boolean(),
  /** How it counts in the gradebook: by score, in full for taking part, or not at all. */
  counts: z.enum(['score', 'taking-part', 'no']),
  /** In an anonymous one no stored row links answers to a person. */
  anonymous: z.boolean(),
});

const examPurpose = purposeFields
  .refine((purpose) => purpose.scored || purpose.counts !== 'score', {
    message: 'What is not scored cannot count by its score.',
    path: ['counts'],
  })
  .refine((purpose) => !purpose.anonymous || purpose.counts !== 'score', {
    message: 'Anonymous answers cannot count by their score: nobody knows whose they are.',
    path: ['counts'],
  });

/** Whether an exam is scored, how it counts, and whether it is anonymous. */
export type ExamPurpose = z.output<typeof examPurpose>;

/** What an exam is for unless it says otherwise. */
export const usualPurpose: ExamPurpose = { scored: true, counts: 'score', anonymous: false };

/** How questions come on the screen: one at a time, all on one page, or with a new page where the author puts one. */
const pageRules = ['each', 'all', 'breaks'] as const;
/** How questions come on the screen. */
export type PageRule = (typeof pageRules)[number];

/** The most lines of an exam that is composed line by line; see {@link mostItems} for off-screen exams. */
const mostLines = 500;

/** The design of an exam: what a revision stores. It has no dates. */
export const examDesign = z
  .object({
    instructions: richSchema,
    /** What the exam is worth in the gradebook; null means as many points as it has. */
    worth: z.number().gt(0, 'The worth must be more than 0.').max(100_000).nullable(),
    parts: z.array(examPart).max(50),
    /** Absent: scored, counts by score, named. */
    purpose: examPurpose.optional(),
    usual: usualRules.optional(),
    /** Absent: one at a time. */
    pages: z.enum(pageRules).optional(),
    /** Absent: choices are shuffled where their question allows it; else never. */
    choices: z.literal('as-written').optional(),
    /** How choices are labelled where their question does not say it; absent: from A on. */
    labels: choiceLabels.optional(),
    /** The questions stand on paper or on the board: the lines are items, kept in a bank that belongs to the exam alone. */
    offScreen: z
      .object({
        /** The paper, and whether students see it while they answer. */
        document: z
          .object({ hash: z.string().regex(/^[0-9a-f]{64}$/), name: z.string().max(200), shown: z.boolean() })
          .optional(),
      })
      .optional(),
    /** What share of the points should lie with a category or an objective, in percent. */
    targets: z
      .array(
        z.object({
          of: z.enum(['category', 'objective']),
          id: ownId,
          percent: z.number({ message: 'Give a percentage.' }).min(0, 'At least 0 %.').max(100, 'At most 100 %.'),
        }),
      )
      .max(200)
      .optional(),
    /** Papers are adjusted within their pools until each lies so near to the mean expected score, in points of 100. */
    equalHardness: z
      .object({
        within: z
          .number({ message: 'Give the distance as a number.' })
          .min(0.1, 'At least 0.1 points of 100.')
          .max(50, 'At most 50 points of 100.'),
      })
      .optional(),
  })
  .superRefine((design, context) => {
    if (design.offScreen) return;
    design.parts.forEach((part, i) => {
      if (part.lines.length > mostLines)
        context.addIssue({
          code: 'custom',
          path: ['parts', i, 'lines'],
          message: `A part has at most ${mostLines} lines.`,
        });
    });
  });

/** The design of an exam, valid by {@link examDesign}. */
export type ExamDesign = z.output<typeof examDesign>;
/** A part: a title, an order, and its lines. */
export type ExamPart = ExamDesign['parts'][number];
/** A line: draws from a pool, draws a passage with questions of it, or holds one question fixed. */
export type ExamLine = z.output<typeof examLine>;
/** A line that draws so many questions from a pool. */
export type DrawLine = Extract<ExamLine, { kind: 'draw' }>;
/** A line that draws so many passages, each with so many of its questions. */
export type PassageLine = Extract<ExamLine, { kind: 'passage' }>;
/** A line that puts one question on every paper. */
export type FixedLine = Extract<ExamLine, { kind: 'fixed' }>;
/** What a question must meet to be drawn by a line: within one property any value will do, properties add up. */
export type PoolRule = z.output<typeof poolRule>;

/** The exams from whose questions a design draws. */
export const examsDrawnFrom = (design: ExamDesign): Set<string> =>
  new Set(
    design.parts.flatMap((part) =>
      part.lines.flatMap((line) => (line.kind === 'fixed' ? [] : (line.pool.exams ?? []))),
    ),
  );

/**
 * A design with one empty part.
 * @param partId the id of that part
 */
export const blankDesign = (partId: string): ExamDesign => ({
  instructions: emptyRich,
  worth: null,
  parts: [{ id: partId, title: 'Part A', order: 'as-written', lines: [] }],
});

/** An off-screen exam has one part, whose lines are its items, and all of them on pages of many. */
export const blankOffScreen = (partId: string): ExamDesign => ({
  ...blankDesign(partId),
  parts: [{ id: partId, title: 'Items', order: 'as-written', lines: [] }],
  offScreen: {},
});

/** How many questions a line puts on every paper. */
export const lineCount = (line: ExamLine): number =>
  line.kind === 'draw' ? line.count : line.kind === 'passage' ? line.count * line.questions : 1;

/** How many questions a part puts on every paper. */
export const partCount = (part: ExamPart): number => part.lines.reduce((sum, line) => sum + lineCount(line), 0);

/**
 * What share of its questions a part asks the student to answer: 1, or k of n in a choose-part. A part that asks for more
 * than it has asks for all.
 */
export function shareAsked(part: ExamPart): number {
  const count = partCount(part);
  return part.choose && count > 0 ? Math.min(1, part.choose.count / count) : 1;
}

/** The points of a part: those of its questions, or in a choose-part k times the points of each. */
export const partPoints = (part: ExamPart): number =>
  shareAsked(part) * part.lines.reduce((sum, line) => sum + line.points * lineCount(line), 0);

/** All points a paper of the design carries; every paper carries the same. */
export const designPoints = (design: ExamDesign): number =>
  design.parts.reduce((sum, part) => sum + partPoints(part), 0);

/** How many questions stand on every paper of the design. */
export const designCount = (design: ExamDesign): number => design.parts.reduce((sum, part) => sum + partCount(part), 0);

/** Every line of the design with its part, in order. */
export const linesOf = (design: ExamDesign): { part: ExamPart; line: ExamLine }[] =>
  design.parts.flatMap((part) => part.lines.map((line) => ({ part, line })));
