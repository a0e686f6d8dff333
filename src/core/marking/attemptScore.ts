import type { ChooseRule } from '../exam/design';

/** The newest mark of one slot, as far as scoring is concerned. */
export type SlotMark = {
  slotPoints: number;
  points: number | null;
  partId?: string;
  /** The question was taken out of the total: it neither earns nor counts as possible. */
  leftOut?: boolean;
};

/** An attempt's score as it stands. Derived from marks every time, never stored. */
export type AttemptScore = {
  /** Sum of the points given so far that count, with what was added to or taken from the paper. */
  earned: number;
  /** Points of the paper: of all its questions, in a choose-part of as many as it asks for. */
  possible: number;
  /** Points of the questions that have a mark. */
  marked: number;
  /** How many questions still wait for a mark. */
  waiting: number;
};

const byPoints = (a: number, b: number) => b - a;

/**
 * The score of an attempt. In a choose-part of n questions with p points each, k of which are asked for, the possible
 * points are min(k, n)·p, and what counts is: the k best marks, where more are refused or only the best count; all marks
 * up to k·p where extra answers bring credit within the part; all marks, the whole attempt being held to its possible
 * points, where they bring credit within the exam. Questions taken out of the total are as if they had not stood on the
 * paper: a choose-part then asks for min(k, those left). What is added to or taken from the whole paper comes last; the
 * score stays within 0 and what is possible.
 *
 * @param adjustment points added to the paper, negative where they are taken away
 * @param slots one entry for each question of the paper; `points` is null while it waits for a mark
 * @param choose the choose-parts by id
 */
export function attemptScore(
  slots: readonly SlotMark[],
  choose: ReadonlyMap<string, ChooseRule> = new Map(),
  adjustment = 0,
): AttemptScore {
  const score: AttemptScore = { earned: 0, possible: 0, marked: 0, waiting: 0 };
  const chosen = new Map<string, SlotMark[]>();
  for (const slot of slots) {
    if (slot.leftOut) continue;
    if (slot.points === null) score.waiting += 1;
    if (slot.partId !== undefined && choose.has(slot.partId)) {
      chosen.set(slot.partId, [...(chosen.get(slot.partId) ?? []), slot]);
      continue;
    }
    score.possible += slot.slotPoints;
    if (slot.points === null) continue;
    score.earned += slot.points;
    score.marked += slot.slotPoints;
  }
  let extraInExam = false;
  for (const [partId, own] of chosen) {
    const { count, extra } = choose.get(partId) as ChooseRule;
    const asked = Math.min(count, own.length);
    const possible = asked * (own[0]?.slotPoints ?? 0);
    const marks = own.flatMap((slot) => slot.points ?? []);
    const sum = (all: number[]) => all.reduce((total, one) => total + one, 0);
    const best = sum([...marks].sort(byPoints).slice(0, asked));
    score.possible += possible;
    score.marked += Math.min(asked, marks.length) * (own[0]?.slotPoints ?? 0);
    if (extra === 'credit-in-part') score.earned += Math.min(possible, sum(marks));
    else if (extra === 'credit-in-exam') score.earned += sum(marks);
    else score.earned += best;
    extraInExam ||= extra === 'credit-in-exam';
  }
  if (extraInExam) score.earned = Math.min(score.earned, score.possible);
  if (adjustment !== 0) score.earned = Math.max(0, Math.min(score.possible, score.earned + adjustment));
  return score;
}
