import { type Random, randomName, shuffled } from '../../../base/random';
import type { Scored } from '../../scored';
import type { SingleChoiceContent } from './content';
import type { SingleChoicePresentation, SingleChoiceResponse } from './student';

/** Lays the choices out for one paper: shuffled if the question allows it, pinned choices staying in their places. */
export function presentSingleChoice(content: SingleChoiceContent, random: Random): SingleChoicePresentation {
  const free = content.choices.filter((choice) => content.shuffle && !choice.pinned);
  const order = shuffled(free, random);
  const used = new Set<string>();
  return {
    choices: content.choices.map((choice) => {
      const shown = content.shuffle && !choice.pinned ? (order.shift() ?? choice) : choice;
      let key = randomName(random, 6);
      while (used.has(key)) key = randomName(random, 6);
      used.add(key);
      return { key, id: shown.id };
    }),
  };
}

/** Credit 1 for the right choice, else 0. A key that is not on the paper earns 0. */
export function scoreSingleChoice(
  content: SingleChoiceContent,
  presentation: SingleChoicePresentation,
  response: SingleChoiceResponse,
): Scored {
  const id = presentation.choices.find((choice) => choice.key === response.picked)?.id;
  const choice = content.choices.find((one) => one.id === id);
  return { kind: 'credit', credit: choice?.right ? 1 : 0 };
}

export function rightSingleChoice(
  content: SingleChoiceContent,
  presentation: SingleChoicePresentation,
): SingleChoiceResponse {
  const right = content.choices.find((choice) => choice.right)?.id;
  return { picked: presentation.choices.find((choice) => choice.id === right)?.key ?? '' };
}
