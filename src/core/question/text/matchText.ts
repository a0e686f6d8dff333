import type { AcceptedText, MatchingRule } from './acceptedText';
import { fold } from './fold';
import { typingSlips } from './typingSlips';
import { fitsPattern } from './wildcards';

/** Which accepted answer a text was taken for, and by which rule. */
export type TextMatch = {
  /** Place in the list of accepted answers. */
  index: number;
  credit: number;
  how: { by: 'same' } | { by: 'ignoring' } | { by: 'slips'; slips: number } | { by: 'pattern' };
};

const nothingIgnored = { case: false, accents: false, spacing: false };

/** Slips forgiven for an accepted answer: as many as asked for, but fewer than a third of its length. */
export const slipsAllowed = (asked: number, length: number): number => Math.min(asked, Math.ceil(length / 3) - 1);

/**
 * The accepted answer with the best credit that a text matches, the first of equals; null when it matches none. Empty
 * texts match nothing.
 */
export function matchText(accepted: readonly AcceptedText[], rule: MatchingRule, text: string): TextMatch | null {
  if (text.trim() === '') return null;
  const folded = fold(text, rule.ignore);
  let best: TextMatch | null = null;
  accepted.forEach((one, index) => {
    if (best && one.credit <= best.credit) return;
    const how = fits(one.text, rule, text, folded);
    if (how) best = { index, credit: one.credit, how };
  });
  return best;
}

function fits(wanted: string, rule: MatchingRule, text: string, folded: string): TextMatch['how'] | null {
  if (rule.wildcards) {
    const fitting = folded !== '' && fitsPattern(wanted, text, rule.ignore);
    return fitting && fold(wanted, nothingIgnored) !== '' && /[^*?\s\\]/u.test(wanted) ? { by: 'pattern' } : null;
  }
  const key = fold(wanted, rule.ignore);
  if (key === '') return null;
  if (key === folded)
    return fold(wanted, nothingIgnored) === fold(text, nothingIgnored) ? { by: 'same' } : { by: 'ignoring' };
  const allowed = slipsAllowed(rule.slips, [...key].length);
  if (allowed < 1) return null;
  const slips = typingSlips(folded, key, allowed);
  return slips <= allowed ? { by: 'slips', slips } : null;
}
