import { isEmptyRich, type Rich, richText } from '../base/rich';
import type { QuestionContent } from './content';
import { idOf, type Presentation } from './presentation';
import { readResponse } from './student';
import { matchText } from './text/matchText';
import { matchNumber } from './types/numeric/score';

/** A word of feedback, and what of the answer it is about; empty where it is about the whole. */
export type Told = { about: string; said: Rich };

/**
 * A question without its feedback: what is told of choices and of accepted answers, to right and to wrong ones, its hint
 * and its worked solution.
 */
export function withoutFeedback<Content extends QuestionContent>(content: Content): Content {
  const strip = (value: unknown): unknown => {
    if (Array.isArray(value)) return value.map(strip);
    if (typeof value !== 'object' || value === null) return value;
    return Object.fromEntries(
      Object.entries(value).flatMap(([name, one]) => (name === 'feedback' ? [] : [[name, strip(one)]])),
    );
  };
  return { ...(strip(content) as Content), feedback: {} };
}

const saying = (about: string, said: Rich | undefined): Told[] => (said && !isEmptyRich(said) ? [{ about, said }] : []);

/**
 * What a question says to one answer: to each choice that was picked, to the accepted answer that it was taken for, and to
 * a right or another one.
 *
 * @param content settled for the paper
 * @param right whether the answer earned its full credit; null where that is not known yet, then nothing is said of it
 */
export function toldOf(
  content: QuestionContent,
  presentation: Presentation,
  stored: unknown,
  right: boolean | null,
): Told[] {
  const response = readResponse(content.type, stored);
  const whole = right === null ? [] : saying('', right ? content.feedback.right : content.feedback.wrong);
  return response ? [...toldOfParts(content, presentation, response as never), ...whole] : whole;
}

function toldOfParts(content: QuestionContent, presentation: Presentation, response: never): Told[] {
  switch (content.type) {
    case 'single-choice':
    case 'multiple-choice': {
      const { picked } = response as { picked: string | string[] };
      return [picked].flat().flatMap((key) => {
        const choice = content.choices.find((one) => one.id === idOf(presentation.choices, key));
        return choice ? saying(richText(choice.content), choice.feedback) : [];
      });
    }
    case 'short-text': {
      const { text } = response as { text: string };
      const match = matchText(content.accepted, content.matching, text);
      return match ? saying(text, content.accepted[match.index]?.feedback) : [];
    }
    case 'numeric': {
      const given = response as { text: string };
      return saying(given.text, content.accepted[matchNumber(content, given)]?.feedback);
    }
    default:
      return [];
  }
}
