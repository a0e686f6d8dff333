import { isEmptyRich, type Rich } from '../base/rich';

/** A text, or undefined where it was left empty. */
export const kept = (rich: Rich | undefined): Rich | undefined => (rich && !isEmptyRich(rich) ? rich : undefined);

/** A choice or an accepted answer without feedback that was left empty. */
export const withoutEmptyFeedback = <Part extends { feedback?: Rich }>({ feedback, ...part }: Part): Part => {
  const left = kept(feedback);
  return (left ? { ...part, feedback: left } : part) as Part;
};

/**
 * Parts without those at the end that were left empty, down to the fewest there must be: a row that nobody touched is no
 * answer.
 *
 * @param isEmpty whether nothing was put into a part
 */
export function withoutEmptyEnd<Part>(
  parts: readonly Part[],
  fewest: number,
  isEmpty: (part: Part) => boolean,
): Part[] {
  let count = parts.length;
  while (count > fewest && isEmpty(parts[count - 1] as Part)) count--;
  return parts.slice(0, count);
}

/** Texts without those that were left blank. */
export const nonBlank = (texts: string[] | undefined): string[] | undefined =>
  texts?.filter((text) => text.trim() !== '');
