import { richText } from '../base/rich';
import type { Choice } from './choices';
import type { Finding } from './finding';

/**
 * Words by which a choice refers to other choices. Letters count only together ("both A and C"), so that "A flag" does
 * not.
 */
const references = [
  /\b(all|none|any|both|neither|either|some|two)\s+of\s+(the\s+)?(above|below|these|them|others?|following|preceding)\b/i,
  /\b(all|none)\s+(are|is)\s+(right|correct|true|wrong|false)\b/i,
  /\b(the\s+)?(choices?|answers?|options?|statements?)\s+(above|below|[a-h]\b)/i,
  /(^|[\s(])[A-H]\)?\s*(,|\/|&|and|AND|or|OR|nor|NOR)\s*\(?[A-H](?![\w'’])/,
  /\b(above|preceding)\s+(are|is)\b/i,
];

/**
 * Whether a choice refers to other choices.
 *
 * @example refersToOthers('None of the above') // true
 * @example refersToOthers('A flag') // false
 */
export const refersToOthers = (text: string): boolean => references.some((pattern) => pattern.test(text));

/** What there is to look at in a list of choices: those that refer to others by place while they are shuffled. */
export function choiceFindings({ choices, shuffle }: { choices: readonly Choice[]; shuffle: boolean }): Finding[] {
  if (!shuffle) return [];
  const referring = choices
    .filter((choice) => !choice.pinned && refersToOthers(richText(choice.content)))
    .map((choice) => ({ id: choice.id, text: richText(choice.content) }));
  return referring.length ? [{ kind: 'refers', choices: referring }] : [];
}
