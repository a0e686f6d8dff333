import { type Random, shuffled } from '../base/random';
import type { DrawPlan, PlannedDraw } from './drawPlan';
import { allot, type QuestionClass, questionClasses } from './matching';

/** After so many rejected tries a group of draws is drawn by matching instead. */
const mostRejections = 64;

/** Steps of the mixing walk for each question of a matched group; see {@link drawByMatching}. */
const stepsPerQuestion = 40;

/**
 * Draws questions for every draw of a plan, none twice.
 *
 * Draws that share questions are drawn together: each takes a uniformly random set from its pool, and when two sets
 * meet, the whole group is drawn anew. What is accepted is therefore exactly uniform over the admissible papers. Where
 * pools are so tight that this keeps failing, the group is drawn by a randomised matching.
 *
 * @param seen marks the questions (by index) the student had before; as few of them as possible are drawn again
 * @returns for each draw the indexes of its questions in the order drawn, or null when the draws cannot be satisfied
 */
export function drawSelection(
  plan: Pick<DrawPlan, 'size' | 'draws' | 'groups'>,
  random: Random,
  seen: Uint8Array | null = null,
): Int32Array[] | null {
  const drawn: Int32Array[] = new Array(plan.draws.length);
  for (const group of plan.groups) {
    const draws = group.map((i) => plan.draws[i] as PlannedDraw);
    const sets = drawGroup(draws, plan.size, random, seen);
    if (!sets) return null;
    for (const [k, i] of group.entries()) drawn[i] = sets[k] as Int32Array;
  }
  return drawn;
}

function drawGroup(draws: PlannedDraw[], size: number, random: Random, seen: Uint8Array | null): Int32Array[] | null {
  if (draws.some((draw) => draw.pool.length < draw.count)) return null;
  if (draws.length === 1)
    return [takeRandom((draws[0] as PlannedDraw).pool, (draws[0] as PlannedDraw).count, random, seen)];
  const touched = seen !== null && draws.some((draw) => draw.pool.some((question) => seen[question] === 1));
  if (touched) return drawFresh(draws, size, random, seen);
  return drawByRejection(draws, size, random) ?? drawByMatching(draws, random, null);
}

/** As few repeats as possible, then as uniform as can be among the papers with that many. */
function drawFresh(draws: PlannedDraw[], size: number, random: Random, seen: Uint8Array): Int32Array[] | null {
  const fresh = draws.map((draw) => ({ ...draw, pool: draw.pool.filter((question) => seen[question] !== 1) }));
  const counts = draws.map((draw) => draw.count);
  const least = allot(counts, questionClasses(draws, seen));
  if (least.lacking.some((lack) => lack > 0)) return null;
  if (least.repeats === 0) return drawByRejection(fresh, size, random) ?? drawByMatching(fresh, random, null);
  return drawByRejection(draws, size, random, seen, least.repeats) ?? drawByMatching(draws, random, seen);
}

/**
 * A uniformly random set of `count` from the pool, in random order: the first of a random order of the pool that were not
 * seen before, and where those do not suffice, the first of the others. The pool is left as it was.
 */
function takeRandom(pool: Int32Array, count: number, random: Random, seen: Uint8Array | null = null): Int32Array {
  const swaps: number[] = [];
  const taken: number[] = [];
  const again: number[] = [];
  for (let k = 0; taken.length < count && k < pool.length; k++) {
    const j = k + random.below(pool.length - k);
    swaps.push(j);
    const picked = pool[j] as number;
    pool[j] = pool[k] as number;
    pool[k] = picked;
    if (seen?.[picked] === 1) again.push(picked);
    else taken.push(picked);
  }
  for (let k = swaps.length - 1; k >= 0; k--) {
    const j = swaps[k] as number;
    const picked = pool[k] as number;
    pool[k] = pool[j] as number;
    pool[j] = picked;
  }
  if (taken.length === count) return Int32Array.from(taken);
  return Int32Array.from(shuffled([...taken, ...again.slice(0, count - taken.length)], random));
}

let marks = new Int32Array(0);
let stamp = 0;

/** Exactly uniform over the sets that do not meet (and hold `repeats` seen questions, where that is asked). */
function drawByRejection(
  draws: PlannedDraw[],
  size: number,
  random: Random,
  seen: Uint8Array | null = null,
  repeats = 0,
): Int32Array[] | null {
  if (marks.length < size) {
    marks = new Int32Array(size);
    stamp = 0;
  }
  for (let attempt = 0; attempt < mostRejections; attempt++) {
    stamp = stamp === 0x7fffffff ? 1 : stamp + 1;
    if (stamp === 1) marks.fill(0);
    const sets: Int32Array[] = [];
    let again = 0;
    let collided = false;
    for (const draw of draws) {
      const set = takeRandom(draw.pool, draw.count, random);
      for (const question of set) {
        if (marks[question] === stamp) collided = true;
        marks[question] = stamp;
        if (seen?.[question] === 1) again++;
      }
      if (collided) break;
      sets.push(set);
    }
    if (!collided && (seen === null || again === repeats)) return sets;
  }
  return null;
}

/**
 * A random paper by maximum matching over classes, then mixed by a walk of swaps. The matching alone would favour some
 * papers; the walk's moves are symmetric, so that it tends to the uniform distribution over all papers it can reach.
 * Where three or more draws can only be changed in a ring it does not reach them all, and the random start decides:
 * that is the departure from uniform that docs/drawing.md states and the tests bound.
 */
function drawByMatching(draws: PlannedDraw[], random: Random, seen: Uint8Array | null): Int32Array[] | null {
  const classes = questionClasses(draws, seen);
  const counts = draws.map((draw) => draw.count);
  const { flow, lacking } = allot(counts, classes, random);
  if (lacking.some((lack) => lack > 0)) return null;
  const chosen: number[][] = draws.map(() => []);
  classes.forEach((one, c) => {
    const members = shuffled(one.members, random);
    for (const d of one.draws)
      for (let k = 0; k < ((flow[c] as Int32Array)[d] as number); k++)
        (chosen[d] as number[]).push(members.pop() as number);
  });
  mix(draws, chosen, classes, random, seen);
  return chosen.map((questions) => Int32Array.from(shuffled(questions, random)));
}

function mix(
  draws: PlannedDraw[],
  chosen: number[][],
  classes: QuestionClass[],
  random: Random,
  seen: Uint8Array | null,
) {
  const allowed = new Map<number, number[]>();
  for (const one of classes) for (const question of one.members) allowed.set(question, one.draws);
  const where = new Map<number, { draw: number; at: number }>();
  const places: { draw: number; at: number }[] = [];
  chosen.forEach((questions, draw) => {
    questions.forEach((question, at) => {
      where.set(question, { draw, at });
      places.push({ draw, at });
    });
  });
  for (let step = 0; step < places.length * stepsPerQuestion; step++) {
    const place = places[random.below(places.length)] as { draw: number; at: number };
    const own = chosen[place.draw] as number[];
    const current = own[place.at] as number;
    const pool = (draws[place.draw] as PlannedDraw).pool;
    const candidate = pool[random.below(pool.length)] as number;
    const taken = where.get(candidate);
    if (!taken) {
      if (seen && seen[candidate] !== seen[current]) continue;
      own[place.at] = candidate;
      where.delete(current);
      where.set(candidate, place);
    } else if (taken.draw !== place.draw && (allowed.get(current) as number[]).includes(taken.draw)) {
      own[place.at] = candidate;
      (chosen[taken.draw] as number[])[taken.at] = current;
      where.set(candidate, place);
      where.set(current, taken);
    }
  }
}
