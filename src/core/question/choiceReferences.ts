import { richText } from '../base/rich';
import type { Choice } from './choices';
import type { Finding } from './finding';

/**
 * Words by which a choice refers to other choices. Letters count only together ("both A and C"), so that "A flag" does
 * not.
 */
const references = [
  /\b(all|none|any|both|neither|either|some|two) of (the )?(above|below|these|them|others?|following|preceding)\b/,
  /\b(all|none) (are|is) (right|correct|true|wrong|false)\b/,
  /\b(choices?|answers?|options?|statements?) (above|below|[a-h]\b)/,
  /\b(above|preceding) (are|is)\b/,
];
const letters = /(^|[ (])[A-H]\)? ?(,|\/|&|and|AND|or|OR|nor|NOR) ?\(?[A-H]($|[^\w'’])/;

/**
 * Whether a choice refers to other choices.
 *
 * @example refersToOthers('None of the above') // true
 * @example refersToOthers('A flag') // false
 */
export function refersToOthers(text: string): boolean {
  const spaced = text.replace(/\s+/g, ' ');
  const small = spaced.toLowerCase();
  return letters.test(spaced) || references.some((pattern) => pattern.test(small));
}

/** What there is to look at in a list of choices: those that refer to others by place while they are shuffled. */
export function choiceFindings({ choices, shuffle }: { choices: readonly Choice[]; shuffle: boolean }): Finding[] {
  if (!shuffle) return [];
  const referring = choices
    .filter((choice) => !choice.pinned && refersToOthers(richText(choice.content)))
    .map((choice) => ({ id: choice.id, text: richText(choice.content) }));
  return referring.length ? [{ kind: 'refers', choices: referring }] : [];
}
