/** The newest mark of one slot, as far as scoring is concerned. */
export type SlotMark = { slotPoints: number; points: number | null };

/** An attempt's score as it stands. Derived from marks every time, never stored. */
export type AttemptScore = {
  /** Sum of the points given so far. */
  earned: number;
  /** Points of all questions on the paper. */
  possible: number;
  /** Points of the questions that have a mark. */
  marked: number;
  /** How many questions still wait for a mark. */
  waiting: number;
};

/** @param slots one entry for each question of the paper; `points` is null while it waits for a mark */
export function attemptScore(slots: readonly SlotMark[]): AttemptScore {
  const score: AttemptScore = { earned: 0, possible: 0, marked: 0, waiting: 0 };
  for (const slot of slots) {
    score.possible += slot.slotPoints;
    if (slot.points === null) score.waiting += 1;
    else {
      score.earned += slot.points;
      score.marked += slot.slotPoints;
    }
  }
  return score;
}
