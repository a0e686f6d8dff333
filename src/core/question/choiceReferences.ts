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

/**
 * The places, from 0, that a choice names by their letters: "both A and C" names the first and the third.
 *
 * @example placesNamed('Both A and C') // [0, 2]
 */
export function placesNamed(text: string): number[] {
  const spaced = text.replace(/\s+/g, ' ');
  const single = /^(?:choice|answer|option|statement)s? ([a-h])\b/i.exec(spaced)?.[1];
  const named = letters.test(spaced) ? (spaced.match(/\b[A-H]\b/g) ?? []) : single ? [single.toUpperCase()] : [];
  return [...new Set(named.map((letter) => letter.charCodeAt(0) - 65))];
}

/**
 * What there is to look at in a list of choices: those that refer to others by place while they are shuffled. Where a
 * choice names others by their letters, it is mended only when those keep their places too.
 */
export function choiceFindings({ choices, shuffle }: { choices: readonly Choice[]; shuffle: boolean }): Finding[] {
  if (!shuffle) return [];
  const referring = choices.flatMap((choice) => {
    const text = richText(choice.content);
    if (!refersToOthers(text)) return [];
    const held = [choice, ...placesNamed(text).flatMap((place) => choices[place] ?? [])];
    const pin = held.filter((one) => !one.pinned).map((one) => one.id);
    return pin.length ? [{ id: choice.id, text, pin }] : [];
  });
  if (referring.length === 0) return [];
  const pin = [...new Set(referring.flatMap((one) => one.pin))];
  return [{ kind: 'refers', choices: referring.map(({ id, text }) => ({ id, text })), pin }];
}
