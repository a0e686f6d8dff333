import { z } from 'zod';
import { emptyRich } from '../base/rich';
import { richSchema } from '../base/richSchema';
import { successRange } from '../question/successRange';
import { difficulties, questionTypes } from '../question/types';

const id = z.string().regex(/^[A-Za-z0-9_-]{4,40}$/);
const points = z
  .number({ message: 'Give the points as a number.' })
  .gt(0, 'Points must be more than 0.')
  .max(1_000, 'At most 1000 points for a question.');

const ids = (most: number) => z.array(id).max(most, `At most ${most} can be named here.`);

/**
 * Which questions a draw may take. Where they come from adds up: any of the categories, any of the exams, or picked by
 * hand. What they must be narrows: within one property any of the values will do, and every property must be met.
 */
const poolFields = z.object({
  /** Each with or without what lies below it. */
  categories: z.array(z.object({ id, below: z.boolean() })).max(100, 'At most 100 categories.'),
  /** Whatever these exams can put on a paper. */
  exams: ids(50).optional(),
  /** Questions picked by hand. */
  questions: ids(2_000).optional(),
  /** Empty means any difficulty. */
  difficulties: z.array(z.enum(difficulties)),
  /** Absent or empty means any type. */
  types: z.array(z.enum(questionTypes)).optional(),
  /** Absent means any success rate, also none. */
  success: successRange.optional(),
  /** Absent or empty means any objective. */
  objectives: ids(100).optional(),
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

export const poolRule = poolFields.refine(
  (rule) => rule.categories.length + (rule.exams?.length ?? 0) + (rule.questions?.length ?? 0) > 0,
  { message: 'Choose where to draw from.', path: ['categories'] },
);

const fixedLine = z.object({ kind: z.literal('fixed'), id, questionId: id, points });

const drawLine = z.object({
  kind: z.literal('draw'),
  id,
  /** How many questions it draws. */
  count: z
    .number({ message: 'Say how many questions to draw.' })
    .int('Draw a whole number of questions.')
    .min(1, 'Draw at least one question.')
    .max(500, 'Draw at most 500 questions.'),
  points,
  pool: poolRule,
});

const passageLine = z.object({
  kind: z.literal('passage'),
  id,
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
  points,
  pool: poolRule,
});

export const examLine = z.discriminatedUnion('kind', [fixedLine, drawLine, passageLine]);

const examPart = z.object({
  id,
  title: z.string().trim().min(1, 'Give the part a name.').max(200),
  order: z.enum(['as-written', 'shuffled']),
  lines: z.array(examLine).max(500),
});

/** The design of an exam: what a revision stores. It has no dates. */
export const examDesign = z.object({
  instructions: richSchema,
  /** What the exam is worth in the gradebook; null means as many points as it has. */
  worth: z.number().gt(0, 'The worth must be more than 0.').max(100_000).nullable(),
  parts: z.array(examPart).max(50),
  /** What share of the points should lie with a category or an objective, in percent. */
  targets: z
    .array(
      z.object({
        of: z.enum(['category', 'objective']),
        id,
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
});

export type ExamDesign = z.output<typeof examDesign>;
export type ExamPart = ExamDesign['parts'][number];
export type ExamLine = z.output<typeof examLine>;
export type DrawLine = Extract<ExamLine, { kind: 'draw' }>;
export type PassageLine = Extract<ExamLine, { kind: 'passage' }>;
export type FixedLine = Extract<ExamLine, { kind: 'fixed' }>;
export type PoolRule = z.output<typeof poolRule>;

/** The exams from whose questions a design draws. */
export const examsDrawnFrom = (design: ExamDesign): Set<string> =>
  new Set(
    design.parts.flatMap((part) =>
      part.lines.flatMap((line) => (line.kind === 'fixed' ? [] : (line.pool.exams ?? []))),
    ),
  );

export const blankDesign = (partId: string): ExamDesign => ({
  instructions: emptyRich,
  worth: null,
  parts: [{ id: partId, title: 'Part A', order: 'as-written', lines: [] }],
});

/** How many questions a line puts on every paper. */
export const lineCount = (line: ExamLine): number =>
  line.kind === 'draw' ? line.count : line.kind === 'passage' ? line.count * line.questions : 1;

/** All points a paper of the design carries; every paper carries the same. */
export const designPoints = (design: ExamDesign): number =>
  design.parts.reduce((sum, part) => sum + part.lines.reduce((own, line) => own + line.points * lineCount(line), 0), 0);

/** How many questions stand on every paper of the design. */
export const designCount = (design: ExamDesign): number =>
  design.parts.reduce((sum, part) => sum + part.lines.reduce((own, line) => own + lineCount(line), 0), 0);
