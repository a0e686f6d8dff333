import { isEmptyRich, type Rich } from '../base/rich';

/** A text, or undefined where it was left empty. */
export const kept = (rich: Rich | undefined): Rich | undefined => (rich && !isEmptyRich(rich) ? rich : undefined);

/** A choice or an accepted answer without feedback that was left empty. */
export const withoutEmptyFeedback = <Part extends { feedback?: Rich }>({ feedback, ...part }: Part): Part => {
  const left = kept(feedback);
  return (left ? { ...part, feedback: left } : part) as Part;
};

/** Texts without those that were left blank. */
export const nonBlank = (texts: string[] | undefined): string[] | undefined =>
  texts?.filter((text) => text.trim() !== '');
