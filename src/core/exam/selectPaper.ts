import { type Random, type StreamOf, seededRandom, shuffled } from '../base/random';
import type { DrawPlan } from './drawPlan';
import { drawSelection } from './drawSelection';
import type { PoolEntry, PoolSnapshot } from './snapshot';

/** Which questions stand on a paper, by index of their entries, before they are put in order. */
export type Selection = {
  /** For each draw of the plan, in its order. */
  drawn: Int32Array[];
  /** For each passage line of the plan, in its order: for each passage drawn the questions of it. */
  passages: number[][][];
};

/**
 * Selects the questions of a paper, none twice, as few of those seen before as can be.
 *
 * @param streamOf for papers that nobody is given, a quick one
 * @returns null when the lines cannot be satisfied
 */
export function selectPaper(
  plan: DrawPlan,
  snapshot: PoolSnapshot,
  seed: string,
  seen: ReadonlySet<string>,
  streamOf: StreamOf = seededRandom,
): Selection | null {
  if (plan.missing.length > 0) return null;
  const seenFlags = seen.size ? flagsOf(snapshot, seen) : null;
  const drawn = drawSelection(plan, streamOf(seed, 'questions'), seenFlags);
  const passages = drawn && drawPassages(plan, snapshot, () => streamOf(seed, 'passages'), seen);
  return passages && { drawn, passages };
}

const places = new WeakMap<PoolSnapshot, Map<string, number>>();

/** 1 at the index of each question that was seen. */
function flagsOf(snapshot: PoolSnapshot, seen: ReadonlySet<string>): Uint8Array {
  let known = places.get(snapshot);
  if (!known) {
    known = new Map(snapshot.entries.map((entry, index) => [entry.questionId, index]));
    places.set(snapshot, known);
  }
  const flags = new Uint8Array(snapshot.entries.length);
  for (const questionId of seen) {
    const index = known.get(questionId);
    if (index !== undefined) flags[index] = 1;
  }
  return flags;
}

/**
 * The passages of each passage line with the questions drawn of each: passages like questions of draws, none twice; then
 * of each a uniformly random set of its questions, those not seen before first.
 */
function drawPassages(
  plan: DrawPlan,
  snapshot: PoolSnapshot,
  stream: () => Random,
  seen: ReadonlySet<string>,
): number[][][] | null {
  const { passages } = plan;
  if (passages.draws.length === 0) return [];
  const random = stream();
  const isSeen = (index: number) => seen.has((snapshot.entries[index] as PoolEntry).questionId);
  const flags = seen.size ? new Uint8Array(passages.size) : null;
  if (flags)
    for (const draw of passages.draws) for (const [passage, own] of draw.of) if (own.some(isSeen)) flags[passage] = 1;
  const drawn = drawSelection(passages, random, flags);
  if (!drawn) return null;
  return passages.draws.map((draw, i) =>
    Array.from(drawn[i] as Int32Array, (passage) => {
      const own = draw.of.get(passage) as number[];
      const fresh = shuffled(
        own.filter((index) => !isSeen(index)),
        random,
      );
      const again = shuffled(own.filter(isSeen), random);
      return [...fresh, ...again].slice(0, draw.questions);
    }),
  );
}
