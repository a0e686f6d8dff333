import { richText } from '../../../base/rich';
import { idOf, keyOf, type Presentation } from '../../presentation';
import { creditOf, type Scored } from '../../scored';
import type { SingleChoiceContent } from './content';
import type { SingleChoiceResponse } from './student';

/** Credit 1 for the right choice, else 0. A key that is not on the paper earns 0. */
export function scoreSingleChoice(
  content: SingleChoiceContent,
  presentation: Presentation,
  response: SingleChoiceResponse,
): Scored {
  const id = idOf(presentation.choices, response.picked);
  return creditOf(content.choices.find((choice) => choice.id === id)?.right ? 1 : 0);
}

/** The key of the right choice; empty where the paper does not show it. */
export const rightSingleChoice = (content: SingleChoiceContent, presentation: Presentation): SingleChoiceResponse => ({
  picked: keyOf(presentation.choices, content.choices.find((choice) => choice.right)?.id),
});

/** The words of the picked choice. */
export function singleChoiceResponseText(
  content: SingleChoiceContent,
  presentation: Presentation,
  response: SingleChoiceResponse,
): string {
  const id = idOf(presentation.choices, response.picked);
  const choice = content.choices.find((one) => one.id === id);
  return choice ? richText(choice.content) : '';
}
