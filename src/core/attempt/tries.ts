import type { SittingRules, Tries } from '../sitting/rules';

/** One check of a question: the credit of what stood there, in [0, 1], and whether the question had come again. */
export type Try = { credit: number; again: boolean };

type Rules = Pick<SittingRules, 'tries' | 'missedAgain' | 'learning'>;

/** How often a question may be checked before the hand-in; 0 where it is not checked at all. */
export const triesAllowed = ({ tries, learning }: Rules): number => tries?.most ?? (learning === 'as-they-go' ? 1 : 0);

/** What a try brings: credit_t · max(0, 1 − c·(t − 1)), t counted from 1. */
const afterCost = (credit: number, number: number, tries: Tries | null): number =>
  credit * Math.max(0, 1 - (tries?.cost ?? 0) * (number - 1));

/**
 * The credit of a question that was tried several times: the best of its tries, each after its cost, and of the try when it
 * came again, at the share of the credit that this brings.
 *
 * @param tried in their order
 */
export function triedCredit(tried: readonly Try[], { tries, missedAgain }: Rules): number {
  let number = 0;
  let best = 0;
  for (const { credit, again } of tried) {
    if (!again) number += 1;
    best = Math.max(best, again ? credit * (missedAgain?.credit ?? 0) : afterCost(credit, number, tries));
  }
  return best;
}

/** Where a question stands between its tries. */
export type TryState = {
  used: number;
  most: number;
  /** Whether nothing can be entered any more: it is right, or its tries are used up. */
  closed: boolean;
  /** How the last try went; null before the first. */
  outcome: 'right' | 'partly' | 'wrong' | null;
};

const outcomeOf = (credit: number): 'right' | 'partly' | 'wrong' =>
  credit >= 1 ? 'right' : credit > 0 ? 'partly' : 'wrong';

/**
 * Where a question stands. Taken again it is open once more, for one try.
 *
 * @param again whether its student took it again at the end
 */
export function tryState(tried: readonly Try[], rules: Rules, again: boolean): TryState {
  const last = tried.at(-1);
  const used = tried.filter((one) => !one.again).length;
  const most = triesAllowed(rules);
  const right = tried.some((one) => one.credit >= 1);
  const over = right || used >= most;
  const closed = most > 0 && over && !(again && !right && !tried.some((one) => one.again));
  return { used, most, closed, outcome: last ? outcomeOf(last.credit) : null };
}

/**
 * Whether a question may be taken again: it was missed, its tries are used up, it has not come again yet, and fewer than so
 * many others have.
 */
export function mayTakeAgain(tried: readonly Try[], rules: Rules, again: boolean, othersAgain: number): boolean {
  const state = tryState(tried, rules, again);
  return (
    rules.missedAgain !== null &&
    !again &&
    state.closed &&
    state.outcome !== 'right' &&
    othersAgain < rules.missedAgain.most
  );
}
