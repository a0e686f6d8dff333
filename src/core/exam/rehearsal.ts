import { quickRandom } from '../base/random';
import { type ExamDesign, linesOf } from './design';
import { type DrawPlan, planDraw } from './drawPlan';
import { expectedScoreOf, selectEquallyHard, targetScore } from './equalHardness';
import { expectedOverlap } from './expectedOverlap';
import { type Selection, selectPaper } from './selectPaper';
import type { PoolSnapshot } from './snapshot';

type RehearsalSetting = {
  design: ExamDesign;
  /** What the design can draw, and nothing else: every entry is reported. */
  snapshot: PoolSnapshot;
  /** The simulated class, in the order of its roster. */
  students: number;
  attempts: number;
  seed: string;
};

/** What the papers of a simulated class came out as. */
export type RehearsedPapers = {
  /** How often each question stood on a paper, by index of the snapshot's entries, over all attempts. */
  use: number[];
  /** How many questions the first papers of two students share. */
  overlap: {
    /** Over all pairs of students; 0 for a single student. */
    mean: number;
    /** The pair that shares most, as places on the roster from 0. */
    worst: { shared: number; students: [number, number] } | null;
    /** Over students who stand next to each other on the roster. */
    neighbours: number;
    /** How many pairs share k questions, by k. */
    pairs: number[];
  };
  /** Expected scores of all papers, in [0, 1]. */
  scores: { mean: number; lowest: number; highest: number; deviation: number; all: number[] };
  /** For each attempt after the first: questions that the student had before. */
  again: { attempt: number; mean: number; most: number; students: number }[];
  /** Lines that had to repeat questions: how many in the mean per student over all attempts, and from which attempt on. */
  short: { lineId: string; perStudent: number; fromAttempt: number }[];
};

/** What the drawing of papers for a made-up class has shown. */
export type Rehearsal = {
  students: number;
  attempts: number;
  /** How many questions stand on a paper, and how many of them on every paper. */
  questions: number;
  fixed: number;
  plain: RehearsedPapers;
  /** The same class with equally hard papers. */
  equal: RehearsedPapers;
  /** How near to the mean equally hard papers were to lie, in points of 100, and how many of all did. */
  within: number;
  met: { plain: number; equal: number; of: number };
  /** In closed form, for plain draws; null where there is none. */
  expectedOverlap: number | null;
};

/** The distance that is tried out where an exam does not ask for equally hard papers yet. */
const usualWithin = 2;

/**
 * Draws the papers of a simulated class, once plainly and once equally hard, with the same seeds as far as they go. Pure:
 * the same setting gives the same papers on every machine.
 *
 * @param onProgress told how many papers of how many are drawn, after each student
 * @returns null when no paper can be drawn
 */
export function rehearse(
  { design, snapshot, students, attempts, seed }: RehearsalSetting,
  onProgress: (done: number, all: number) => void = () => {},
): Rehearsal | null {
  const plan = planDraw(design, snapshot);
  const within = design.equalHardness?.within ?? usualWithin;
  const fixed = fixedIndexes(design, snapshot);
  const all = 2 * students * attempts;
  let drawn = 0;
  const side = (select: (paperSeed: string, seen: ReadonlySet<string>) => Selection | null) => {
    const papers: Paper[][] = [];
    for (let student = 0; student < students; student++) {
      const own = papersOf(student);
      if (!own) return null;
      papers.push(own);
      drawn += attempts;
      onProgress(drawn, all);
    }
    return papers;

    function papersOf(student: number): Paper[] | null {
      const seen = new Set<string>();
      const own: Paper[] = [];
      for (let attempt = 0; attempt < attempts; attempt++) {
        const selection = select(`${seed}/${student}/${attempt}`, seen);
        const score = selection && expectedScoreOf(design, snapshot, plan, selection);
        if (!selection || score === null) return null;
        own.push({ questions: questionsOf(selection, fixed), byLine: byLine(plan, selection), score });
        for (const question of own[attempt]?.questions ?? []) seen.add(snapshot.entries[question]?.questionId ?? '');
      }
      return own;
    }
  };
  const plain = side((paperSeed, seen) => selectPaper(plan, snapshot, paperSeed, seen, quickRandom));
  const equal =
    plain &&
    side((paperSeed, seen) =>
      selectEquallyHard(design, snapshot, plan, paperSeed, seen, within / 100, undefined, quickRandom),
    );
  if (!plain || !equal) return null;
  const size = snapshot.entries.length;
  const summaries = { plain: summaryOf(plain, size), equal: summaryOf(equal, size) };
  const target = targetScore(design, snapshot, plan) as number;
  const near = ({ scores }: RehearsedPapers) =>
    scores.all.filter((score) => Math.abs(score - target) <= within / 100 + 1e-9).length;
  return {
    students,
    attempts,
    questions: plain[0]?.[0]?.questions.length ?? 0,
    fixed: fixed.length,
    ...summaries,
    within,
    met: { plain: near(summaries.plain), equal: near(summaries.equal), of: students * attempts },
    expectedOverlap: expectedOverlap(design, plan),
  };
}

/** One drawn paper: its questions as indexes of entries, all together and by drawing line. */
type Paper = { questions: Int32Array; byLine: { lineId: string; questions: Iterable<number> }[]; score: number };

function fixedIndexes(design: ExamDesign, snapshot: PoolSnapshot): number[] {
  const ids = new Set(linesOf(design).flatMap(({ line }) => (line.kind === 'fixed' ? [line.questionId] : [])));
  return snapshot.entries.flatMap((entry, index) => (ids.has(entry.questionId) ? [index] : []));
}

const questionsOf = (selection: Selection, fixed: number[]): Int32Array =>
  Int32Array.from([...fixed, ...selection.drawn.flatMap((drawn) => [...drawn]), ...selection.passages.flat(2)]);

const byLine = (plan: DrawPlan, { drawn, passages }: Selection): Paper['byLine'] => [
  ...plan.draws.map((draw, i) => ({ lineId: draw.lineId, questions: drawn[i] ?? [] })),
  ...plan.passages.draws.map((draw, i) => ({ lineId: draw.lineId, questions: (passages[i] ?? []).flat() })),
];

const meanOf = (all: readonly number[]): number =>
  all.length ? all.reduce((sum, one) => sum + one, 0) / all.length : 0;

function summaryOf(papers: Paper[][], size: number): RehearsedPapers {
  const use = new Array<number>(size).fill(0);
  for (const paper of papers.flat()) for (const question of paper.questions) use[question] = (use[question] ?? 0) + 1;
  const all = papers.flatMap((own) => own.map((paper) => paper.score));
  const mean = meanOf(all);
  return {
    use,
    overlap: overlapOf(
      papers.map((own) => own[0]?.questions ?? new Int32Array()),
      size,
    ),
    scores: {
      mean,
      lowest: all.reduce((low, one) => Math.min(low, one), 1),
      highest: all.reduce((high, one) => Math.max(high, one), 0),
      deviation: Math.sqrt(meanOf(all.map((one) => (one - mean) ** 2))),
      all,
    },
    ...repeatsOf(papers),
  };
}

function overlapOf(firsts: Int32Array[], size: number): RehearsedPapers['overlap'] {
  const onPaper = new Int32Array(size).fill(-1);
  const pairs: number[] = [];
  let sum = 0;
  let neighbours = 0;
  let worst: RehearsedPapers['overlap']['worst'] = null;
  for (const [a, paper] of firsts.entries()) {
    for (const question of paper) onPaper[question] = a;
    for (let b = a + 1; b < firsts.length; b++) {
      let shared = 0;
      for (const question of firsts[b] as Int32Array) if (onPaper[question] === a) shared++;
      sum += shared;
      if (b === a + 1) neighbours += shared;
      pairs[shared] = (pairs[shared] ?? 0) + 1;
      if (!worst || shared > worst.shared) worst = { shared, students: [a, b] };
    }
  }
  const n = firsts.length;
  return {
    mean: n > 1 ? sum / ((n * (n - 1)) / 2) : 0,
    worst,
    neighbours: n > 1 ? neighbours / (n - 1) : 0,
    pairs: Array.from(pairs, (count) => count ?? 0),
  };
}

/** What students met again in later attempts, and which lines brought it. Fixed questions come again by design. */
function repeatsOf(papers: Paper[][]): Pick<RehearsedPapers, 'again' | 'short'> {
  const attempts = papers[0]?.length ?? 0;
  const counts = Array.from({ length: attempts }, () => [] as number[]);
  const lines = new Map<string, { repeats: number; fromAttempt: number }>();
  for (const own of papers) {
    const seen = new Set<number>();
    own.forEach((paper, attempt) => {
      let again = 0;
      for (const { lineId, questions } of paper.byLine)
        for (const question of questions) {
          if (!seen.has(question)) continue;
          again++;
          const line = lines.get(lineId) ?? { repeats: 0, fromAttempt: attempt + 1 };
          lines.set(lineId, { repeats: line.repeats + 1, fromAttempt: Math.min(line.fromAttempt, attempt + 1) });
        }
      for (const question of paper.questions) seen.add(question);
      counts[attempt]?.push(again);
    });
  }
  return {
    again: counts.slice(1).map((all, i) => ({
      attempt: i + 2,
      mean: meanOf(all),
      most: all.reduce((most, one) => Math.max(most, one), 0),
      students: all.filter((one) => one > 0).length,
    })),
    short: [...lines].map(([lineId, { repeats, fromAttempt }]) => ({
      lineId,
      perStudent: repeats / papers.length,
      fromAttempt,
    })),
  };
}

/** What a rehearsal is made from: the design as it is saved, and what it can draw. */
export type RehearsalMaterial = {
  design: ExamDesign;
  snapshot: PoolSnapshot;
  /** What questions are called, by id. */
  names: Record<string, string>;
};

/** A question that can be drawn, with the number of papers it stood on. */
export type NamedUse = { questionId: string; name: string; plain: number; equal: number };

/** What a page asks the worker for. */
export type RehearsalWish = { material: string; students: number; attempts: number; within?: number };

/** What the worker says while it draws, and in the end. */
export type RehearsalMessage =
  | { kind: 'progress'; done: number; all: number }
  | { kind: 'failed'; message: string }
  | { kind: 'done'; rehearsal: Rehearsal; uses: NamedUse[]; seconds: number };
