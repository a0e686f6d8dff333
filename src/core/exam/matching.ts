import { type Random, shuffled } from '../base/random';
import type { PlannedDraw } from './drawPlan';

/**
 * Questions with the same membership (in the pools of exactly the same draws, and seen or not) are one class: which of
 * them is taken makes no difference to what is possible, so flows run over classes instead of single questions.
 */
export type QuestionClass = { draws: number[]; seen: boolean; members: number[] };

/**
 * The classes of the questions in the pools of some draws, in the order in which their first members stand there. `draws` in
 * a class are indexes into the given array. Each draw in turn parts the classes so far into those in its pool and those
 * outside, so that the time is that of walking through all pools once.
 */
export function questionClasses(draws: PlannedDraw[], seen: Uint8Array | null): QuestionClass[] {
  const most = draws.reduce((max, draw) => draw.pool.reduce((one, question) => Math.max(one, question), max), -1);
  const classOf = new Int32Array(most + 1).fill(-1);
  const order: number[] = [];
  const found: { draws: number[]; seen: boolean }[] = [];
  const outside = [-1, -2];
  draws.forEach((draw, i) => {
    const parted = new Map<number, number>();
    for (const question of draw.pool) {
      let before = classOf[question] as number;
      const wasSeen = seen?.[question] === 1;
      if (before === -1) {
        order.push(question);
        before = outside[wasSeen ? 1 : 0] as number;
      }
      let after = parted.get(before);
      if (after === undefined) {
        after = found.push({ draws: [...(found[before]?.draws ?? []), i], seen: wasSeen }) - 1;
        parted.set(before, after);
      }
      classOf[question] = after;
    }
  });
  const classes = new Map<number, QuestionClass>();
  for (const question of order) {
    const at = classOf[question] as number;
    const known = classes.get(at);
    if (known) known.members.push(question);
    else classes.set(at, { ...(found[at] as { draws: number[]; seen: boolean }), members: [question] });
  }
  return [...classes.values()];
}

/** How many questions of each class each draw takes, and how many each draw still lacks. */
type Allotment = { flow: Int32Array[]; lacking: Int32Array; repeats: number };

/**
 * A maximum allotment of classes to draws (a maximum flow, found by augmenting paths) that uses seen questions only
 * where nothing else serves. That taking unseen questions first gives the fewest repeats is the exchange property of
 * transversal matroids: the questions covered by some matching can always be kept while it grows to a maximum one
 * (Lovász & Plummer, *Matching Theory*, 1986, ch. 1). With `random`, classes and draws are visited in random order.
 */
export function allot(counts: readonly number[], classes: readonly QuestionClass[], random?: Random): Allotment {
  const lacking = Int32Array.from(counts);
  const left = Int32Array.from(classes, (one) => one.members.length);
  const flow = classes.map(() => new Int32Array(counts.length));
  const order = random ? shuffled([...classes.keys()], random) : [...classes.keys()];
  const byDraw: number[][] = counts.map(() => []);
  for (const c of order) for (const d of (classes[c] as QuestionClass).draws) (byDraw[d] as number[]).push(c);
  const drawOrder = random ? shuffled([...counts.keys()], random) : [...counts.keys()];
  let repeats = 0;
  for (const withSeen of [false, true]) {
    if (withSeen && !classes.some((one) => one.seen)) break;
    for (const start of drawOrder) {
      while ((lacking[start] as number) > 0) {
        const taken = augment(start, { classes, byDraw, left, flow, withSeen, lacking });
        if (taken === 0) break;
        if (withSeen) repeats += taken;
      }
    }
  }
  return { flow, lacking, repeats };
}

type Network = {
  classes: readonly QuestionClass[];
  byDraw: number[][];
  left: Int32Array;
  flow: Int32Array[];
  withSeen: boolean;
  lacking: Int32Array;
};

/** Pushes as much as one shortest path from a draw to a class with something left allows; 0 when there is none. */
function augment(start: number, net: Network): number {
  const cameFrom = new Map<number, { draw: number; via: number }>();
  const reached = new Map<number, { from: number; via: number } | null>([[start, null]]);
  const queue = [start];
  for (let head = 0; head < queue.length; head++) {
    const draw = queue[head] as number;
    for (const c of net.byDraw[draw] as number[]) {
      const one = net.classes[c] as QuestionClass;
      if (cameFrom.has(c) || (one.seen && !net.withSeen)) continue;
      cameFrom.set(c, { draw, via: c });
      if ((net.left[c] as number) > 0) return pushAlong(start, c, cameFrom, reached, net);
      for (const other of one.draws) {
        if (reached.has(other) || ((net.flow[c] as Int32Array)[other] as number) === 0) continue;
        reached.set(other, { from: draw, via: c });
        queue.push(other);
      }
    }
  }
  return 0;
}

function pushAlong(
  start: number,
  end: number,
  cameFrom: Map<number, { draw: number; via: number }>,
  reached: Map<number, { from: number; via: number } | null>,
  net: Network,
): number {
  const steps: { draw: number; takes: number; gives: number | null }[] = [];
  let amount = Math.min(net.lacking[start] as number, net.left[end] as number);
  let taking = end;
  let draw = (cameFrom.get(end) as { draw: number }).draw;
  for (;;) {
    const back = reached.get(draw) ?? null;
    steps.push({ draw, takes: taking, gives: back ? back.via : null });
    if (!back) break;
    amount = Math.min(amount, (net.flow[back.via] as Int32Array)[draw] as number);
    taking = back.via;
    draw = back.from;
  }
  for (const step of steps) {
    (net.flow[step.takes] as Int32Array)[step.draw] =
      ((net.flow[step.takes] as Int32Array)[step.draw] as number) + amount;
    if (step.gives !== null)
      (net.flow[step.gives] as Int32Array)[step.draw] =
        ((net.flow[step.gives] as Int32Array)[step.draw] as number) - amount;
  }
  net.left[end] = (net.left[end] as number) - amount;
  net.lacking[start] = (net.lacking[start] as number) - amount;
  return amount;
}

/**
 * Draws that compete for too few questions. Together they ask for `asked` questions and can reach only `available`
 * different ones (Hall's condition fails by `missing`): `questions`, as their pools number them.
 */
type Competition = { draws: number[]; asked: number; available: number; missing: number; questions: number[] };

/**
 * Every group of draws that cannot be satisfied together; empty exactly when all of them can. Groups that share a draw are
 * told as one, which lacks as many as they do together.
 */
export function competitions(draws: PlannedDraw[]): Competition[] {
  const classes = questionClasses(draws, null);
  const counts = draws.map((draw) => draw.count);
  const { flow, lacking } = allot(counts, classes);
  const groups: { draws: Set<number>; classes: Set<number> }[] = [];
  for (const start of draws.keys()) {
    if ((lacking[start] as number) === 0) continue;
    const group = new Set([start]);
    const queue = [start];
    const reachable = new Set<number>();
    for (let head = 0; head < queue.length; head++) {
      classes.forEach((one, c) => {
        if (reachable.has(c) || !one.draws.includes(queue[head] as number)) return;
        reachable.add(c);
        for (const other of one.draws)
          if (!group.has(other) && ((flow[c] as Int32Array)[other] as number) > 0) {
            group.add(other);
            queue.push(other);
          }
      });
    }
    groups.push({ draws: group, classes: reachable });
  }
  const merged: typeof groups = [];
  for (const group of groups) {
    const touching = merged.filter((one) => [...group.draws].some((draw) => one.draws.has(draw)));
    for (const one of touching) {
      merged.splice(merged.indexOf(one), 1);
      for (const draw of one.draws) group.draws.add(draw);
      for (const c of one.classes) group.classes.add(c);
    }
    merged.push(group);
  }
  return merged.map((group) => {
    const asked = [...group.draws].reduce((sum, draw) => sum + (counts[draw] as number), 0);
    const questions = [...group.classes].flatMap((c) => (classes[c] as QuestionClass).members).sort((a, b) => a - b);
    return {
      draws: [...group.draws].sort((a, b) => a - b),
      asked,
      available: questions.length,
      missing: asked - questions.length,
      questions,
    };
  });
}
