import { richText } from '../../../base/rich';
import { idOf, keyOf, type Presentation } from '../../presentation';
import { creditOf, type Scored } from '../../scored';
import type { MultipleChoiceContent } from './content';
import type { MultipleChoiceResponse } from './student';

const pickedIds = (presentation: Presentation, response: MultipleChoiceResponse): Set<string> =>
  new Set(response.picked.flatMap((key) => idOf(presentation.choices, key) ?? []));

/**
 * With R right choices out of n:
 * - all or nothing: 1 if exactly the right ones are picked;
 * - wrong picks cancel right ones: max(0, (right picked − wrong picked) / R);
 * - each choice judged: (rightly picked + rightly left) / n.
 *
 * Nothing picked earns 0 under every rule. Keys that are not on the paper count for nothing.
 */
export function scoreMultipleChoice(
  content: MultipleChoiceContent,
  presentation: Presentation,
  response: MultipleChoiceResponse,
): Scored {
  const picked = pickedIds(presentation, response);
  if (picked.size === 0) return creditOf(0);
  const { choices, rule } = content;
  const right = choices.filter((choice) => choice.right).length;
  const rightPicked = choices.filter((choice) => choice.right && picked.has(choice.id)).length;
  const wrongPicked = picked.size - rightPicked;
  switch (rule) {
    case 'all-or-nothing':
      return creditOf(rightPicked === right && wrongPicked === 0 ? 1 : 0);
    case 'wrong-cancels-right':
      return creditOf((rightPicked - wrongPicked) / right);
    case 'each-judged':
      return creditOf((rightPicked + (choices.length - right - wrongPicked)) / choices.length);
  }
}

/** The keys of all right choices. */
export const rightMultipleChoice = (
  content: MultipleChoiceContent,
  presentation: Presentation,
): MultipleChoiceResponse => ({
  picked: content.choices.filter((choice) => choice.right).map((choice) => keyOf(presentation.choices, choice.id)),
});

/** The words of the picked choices in the author's order, with semicolons between them. */
export function multipleChoiceResponseText(
  content: MultipleChoiceContent,
  presentation: Presentation,
  response: MultipleChoiceResponse,
): string {
  const picked = pickedIds(presentation, response);
  return content.choices
    .filter((choice) => picked.has(choice.id))
    .map((choice) => richText(choice.content))
    .join('; ');
}
