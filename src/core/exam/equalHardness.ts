import { quickRandom, type Random, type StreamOf, seededRandom } from '../base/random';
import { designCount, designPoints, type ExamDesign, linesOf, shareAsked } from './design';
import type { DrawPlan } from './drawPlan';
import { type Selection, selectPaper } from './selectPaper';
import type { PoolEntry, PoolSnapshot } from './snapshot';

/** How many plain draws are looked at before a paper is adjusted by swaps. */
const mostDraws = 24;
/**
 * How many plain draws are looked at for the range, and for the mean where it has no closed form: fewer for long papers,
 * whose scores lie closer together and whose draws cost more.
 */
const samplesFor = (questions: number) => Math.min(40, Math.max(24, Math.round(10_000 / questions)));
const drawsForMean = (questions: number) => Math.min(400, Math.max(24, Math.round(10_000 / questions)));
const sampleSeed = (i: number) => `hardness/${i}`;
const mostSwaps = 200;
const nearly = 1e-12;

/** What a design's papers are weighed by: expected credit of each entry, and the points of each line. */
type Weights = {
  expected: Float64Array;
  /** Points of each draw and each passage line, in the plan's order. */
  drawPoints: number[];
  passagePoints: number[];
  /** Σ points · expected credit of the fixed questions, and Σ points of the whole paper. */
  fixed: number;
  total: number;
  /** The mean expected score of plain draws, in [0, 1]. */
  target: number;
  /** Plain draws of fixed seeds. */
  samples: Selection[];
};

const kept = new WeakMap<DrawPlan, Weights | null>();

function weightsOf(design: ExamDesign, snapshot: PoolSnapshot, plan: DrawPlan): Weights | null {
  const known = kept.get(plan);
  if (known !== undefined) return known;
  // In a choose-part nobody knows which questions a student takes: each stands for the share that is answered.
  const points = new Map(linesOf(design).map(({ part, line }) => [line.id, shareAsked(part) * line.points]));
  const credit = new Map(snapshot.entries.map((entry) => [entry.questionId, entry.expected]));
  const weights: Weights = {
    expected: Float64Array.from(snapshot.entries, (entry) => entry.expected),
    drawPoints: plan.draws.map((draw) => points.get(draw.lineId) as number),
    passagePoints: plan.passages.draws.map((draw) => points.get(draw.lineId) as number),
    fixed: linesOf(design).reduce(
      (sum, { line }) =>
        line.kind === 'fixed' ? sum + (points.get(line.id) as number) * (credit.get(line.questionId) ?? 0) : sum,
      0,
    ),
    total: designPoints(design),
    target: 0,
    samples: [],
  };
  const questions = designCount(design);
  const samples = Array.from({ length: samplesFor(questions) }, (_, i) =>
    selectPaper(plan, snapshot, sampleSeed(i), new Set(), quickRandom),
  ).filter((one) => one !== null);
  const found =
    samples.length === 0 || weights.total <= 0
      ? null
      : { ...weights, samples, target: meanOfPlainDraws(weights, samples, drawsForMean(questions), snapshot, plan) };
  kept.set(plan, found);
  return found;
}

/**
 * The mean of E over plain draws. Where no two lines share a question and no passages are drawn it is exact: by linearity
 * the mean of a line is its count times the mean of its pool. Else it is the mean over draws of fixed seeds.
 */
function meanOfPlainDraws(
  weights: Weights,
  samples: Selection[],
  draws: number,
  snapshot: PoolSnapshot,
  plan: DrawPlan,
): number {
  const apart = plan.passages.draws.length === 0 && plan.groups.every((group) => group.length === 1);
  if (apart) {
    const drawn = plan.draws.reduce((sum, { pool, count }, d) => {
      const mean = pool.length ? pool.reduce((all, i) => all + (weights.expected[i] as number), 0) / pool.length : 0;
      return sum + (weights.drawPoints[d] as number) * count * mean;
    }, 0);
    return (weights.fixed + drawn) / weights.total;
  }
  let sum = 0;
  for (let i = 0; i < draws; i++) {
    const selection = samples[i] ?? selectPaper(plan, snapshot, sampleSeed(i), new Set(), quickRandom);
    if (selection) sum += expectedScore(weights, selection);
  }
  return sum / draws;
}

/** E = Σ pᵢ·eᵢ / Σ pᵢ of a paper, in [0, 1]. */
function expectedScore({ expected, drawPoints, passagePoints, fixed, total }: Weights, selection: Selection): number {
  let sum = fixed;
  selection.drawn.forEach((questions, d) => {
    for (const question of questions) sum += (drawPoints[d] as number) * (expected[question] as number);
  });
  selection.passages.forEach((units, d) => {
    for (const question of units.flat()) sum += (passagePoints[d] as number) * (expected[question] as number);
  });
  return sum / total;
}

/** The mean expected score of plain draws, in [0, 1], at which equally hard papers aim; null where none can be drawn. */
export const targetScore = (design: ExamDesign, snapshot: PoolSnapshot, plan: DrawPlan): number | null =>
  weightsOf(design, snapshot, plan)?.target ?? null;

/** The expected score of one paper, in [0, 1]; null where no paper can be drawn. */
export function expectedScoreOf(
  design: ExamDesign,
  snapshot: PoolSnapshot,
  plan: DrawPlan,
  selection: Selection,
): number | null {
  const weights = weightsOf(design, snapshot, plan);
  return weights && expectedScore(weights, selection);
}

/**
 * Selects a paper whose expected score lies within a distance of the mean of plain draws. The first plain draw that does
 * is taken, so that what is accepted is as uniform as plain draws are; where that stays rare, the nearest one is moved
 * by swaps within its pools, each time to one of the papers that land within, at random, or else to the nearest. A swap
 * keeps every line's count and pool, never brings a question twice, and never adds one that was seen before.
 *
 * @param within in [0, 1]
 * @param first the plain draw of this seed, where the caller has it
 * @param streamOf for papers that nobody is given, a quick one
 * @returns the nearest paper that was found, where none lies within; null when the lines cannot be satisfied
 */
export function selectEquallyHard(
  design: ExamDesign,
  snapshot: PoolSnapshot,
  plan: DrawPlan,
  seed: string,
  seen: ReadonlySet<string>,
  within: number,
  first?: Selection,
  streamOf: StreamOf = seededRandom,
): Selection | null {
  const weights = weightsOf(design, snapshot, plan);
  let nearest: Selection | null = null;
  let distance = Number.POSITIVE_INFINITY;
  for (let draw = 0; draw < mostDraws; draw++) {
    const selection =
      draw === 0
        ? (first ?? selectPaper(plan, snapshot, seed, seen, streamOf))
        : selectPaper(plan, snapshot, `${seed}/again/${draw}`, seen, streamOf);
    if (!selection || !weights) return selection;
    const off = Math.abs(expectedScore(weights, selection) - weights.target);
    if (off <= within + nearly) return selection;
    if (off < distance) [nearest, distance] = [selection, off];
  }
  if (!nearest || !weights) return nearest;
  const isSeen = (index: number) => seen.has((snapshot.entries[index] as PoolEntry).questionId);
  return swapTowards(plan, weights, nearest, within, isSeen, streamOf(seed, 'swaps'));
}

function swapTowards(
  plan: DrawPlan,
  weights: Weights,
  begun: Selection,
  within: number,
  isSeen: (index: number) => boolean,
  random: Random,
): Selection {
  const selection: Selection = {
    drawn: begun.drawn.map((questions) => questions.slice()),
    passages: begun.passages.map((units) => units.map((questions) => [...questions])),
  };
  const onPaper = new Uint8Array(plan.size);
  for (const questions of selection.drawn) for (const question of questions) onPaper[question] = 1;
  for (const question of selection.passages.flat(2)) onPaper[question] = 1;
  /** Every list of questions that can be changed one by one, with what may come in and its points. */
  const places = [
    ...selection.drawn.map((questions, d) => ({
      questions,
      pool: (plan.draws[d] as { pool: Int32Array }).pool as ArrayLike<number>,
      points: weights.drawPoints[d] as number,
    })),
    ...selection.passages.flatMap((units, d) =>
      units.map((questions) => ({
        questions,
        pool: ofPassage(plan, d, questions),
        points: weights.passagePoints[d] as number,
      })),
    ),
  ];
  const limit = within * weights.total + nearly;
  let lack = (weights.target - expectedScore(weights, selection)) * weights.total;
  for (let swap = 0; swap < mostSwaps && Math.abs(lack) > limit; swap++) {
    let landing = 0;
    let bestOff = Math.abs(lack) - nearly;
    let best: { questions: Int32Array | number[]; at: number; to: number; gain: number } | null = null;
    for (const { questions, pool, points } of places)
      for (let at = 0; at < questions.length; at++) {
        const from = questions[at] as number;
        const held = weights.expected[from] as number;
        const again = isSeen(from);
        for (let k = 0; k < pool.length; k++) {
          const to = pool[k] as number;
          if (onPaper[to] || (!again && isSeen(to))) continue;
          const gain = points * ((weights.expected[to] as number) - held);
          const off = Math.abs(lack - gain);
          if (off <= limit) {
            landing++;
            if (random.below(landing) === 0) best = { questions, at, to, gain };
          } else if (landing === 0 && off < bestOff) {
            bestOff = off;
            best = { questions, at, to, gain };
          }
        }
      }
    if (!best) break;
    onPaper[best.questions[best.at] as number] = 0;
    onPaper[best.to] = 1;
    best.questions[best.at] = best.to;
    lack -= best.gain;
  }
  return selection;
}

/** The questions that a passage line may take of the passage that these questions belong to. */
function ofPassage(plan: DrawPlan, line: number, questions: readonly number[]): readonly number[] {
  const { of } = plan.passages.draws[line] as DrawPlan['passages']['draws'][number];
  return [...of.values()].find((own) => own.includes(questions[0] as number)) ?? [];
}

/** How hard papers are expected to be, as looked at on sample papers. Scores are in [0, 1]. */
export type Hardness = {
  /** The mean expected score of plain draws, and what plain sample papers lay between. */
  target: number;
  plain: { lowest: number; highest: number };
  /** The same with equal hardness; `met` of `of` samples lay within. Null where it is not asked for. */
  equal: { lowest: number; highest: number; met: number; of: number } | null;
  /** Where papers miss the target, the line that alone moves a paper most, and by how much of the score. */
  limit: { lineId: string; reach: number } | null;
};

/** What expected scores papers have, from sample papers of fixed seeds; null where no paper can be drawn. */
export function hardnessOf(design: ExamDesign, snapshot: PoolSnapshot, plan: DrawPlan): Hardness | null {
  const weights = weightsOf(design, snapshot, plan);
  if (!weights) return null;
  const plain = weights.samples.map((selection) => expectedScore(weights, selection));
  const range = (all: number[]) => ({ lowest: Math.min(...all), highest: Math.max(...all) });
  const within = design.equalHardness ? design.equalHardness.within / 100 : null;
  if (within === null) return { target: weights.target, plain: range(plain), equal: null, limit: null };
  const equal = weights.samples.map((sample, i) =>
    expectedScore(
      weights,
      selectEquallyHard(design, snapshot, plan, sampleSeed(i), new Set(), within, sample) ?? sample,
    ),
  );
  const met = equal.filter((score) => Math.abs(score - weights.target) <= within + 1e-9).length;
  return {
    target: weights.target,
    plain: range(plain),
    equal: { ...range(equal), met, of: equal.length },
    limit: met === equal.length ? null : widestLine(weights, plan),
  };
}

/** The line whose easiest and hardest choice of questions lie furthest apart. */
function widestLine({ expected, drawPoints, passagePoints, total }: Weights, plan: DrawPlan): Hardness['limit'] {
  const reach = (pool: Iterable<number>, count: number, points: number) => {
    const credits = Array.from(pool, (question) => expected[question] as number).sort((a, b) => a - b);
    const sum = (all: number[]) => all.reduce((x, y) => x + y, 0);
    const taken = Math.min(count, credits.length);
    return (points * (sum(credits.slice(credits.length - taken)) - sum(credits.slice(0, taken)))) / total;
  };
  const all = [
    ...plan.draws.map((draw, d) => ({
      lineId: draw.lineId,
      reach: reach(draw.pool, draw.count, drawPoints[d] as number),
    })),
    ...plan.passages.draws.map((draw, d) => ({
      lineId: draw.lineId,
      reach: reach([...draw.of.values()].flat(), draw.count * draw.questions, passagePoints[d] as number),
    })),
  ];
  return all.sort((a, b) => b.reach - a.reach)[0] ?? null;
}
