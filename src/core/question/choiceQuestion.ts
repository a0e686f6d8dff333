import type { Random } from '../base/random';
import { isEmptyRich, type Rich, richText } from '../base/rich';
import { type AnswerFeedback, feedbackAbout } from './answerFeedback';
import { choiceFindings } from './choiceReferences';
import { type Choice, choiceLimits } from './choices';
import { withoutEmptyEnd, withoutEmptyFeedback } from './emptyParts';
import type { Finding } from './finding';
import { idOf, layOut, type Presentation } from './presentation';

type WithChoices = { stem: Rich; choices: Choice[]; shuffle: boolean };

const letter = (place: number): string => String.fromCharCode(65 + place);

/** What the types have in common that are answered by picking from a list of choices. */
export const choiceQuestion = {
  /** Stem and choices as words. */
  text: (content: WithChoices): string =>
    [richText(content.stem), ...content.choices.map((choice) => richText(choice.content))].join('\n'),

  /** The choices, and the letters of the right ones: `A, C`. */
  columns: ({ choices }: WithChoices) => ({
    choices: choices.map((choice) => richText(choice.content)),
    answer: choices.flatMap((choice, place) => (choice.right ? [letter(place)] : [])).join(', '),
  }),

  withoutEmptyParts: <Content extends WithChoices>(content: Content): Content => ({
    ...content,
    choices: withoutEmptyEnd(
      content.choices.map(withoutEmptyFeedback),
      choiceLimits.fewest,
      (choice) => isEmptyRich(choice.content) && !choice.right && !choice.pinned && !choice.feedback,
    ),
  }),

  findings: (content: WithChoices): Finding[] => choiceFindings(content),

  /** Lays the choices out for one paper: shuffled if the question allows it, pinned choices staying in their places. */
  present: ({ choices, shuffle }: Pick<WithChoices, 'choices' | 'shuffle'>, random: Random): Presentation => ({
    choices: layOut(choices, shuffle, random),
  }),
  asWritten: <Content extends WithChoices>(content: Content): Content => ({ ...content, shuffle: false }),
  drawnFrom: ({ choices, shuffle }: WithChoices): unknown => [shuffle, choices.map(({ id, pinned }) => [id, pinned])],

  judgedBy: <Content extends WithChoices>(onPaper: Content, judge: Content): Content => {
    const judged = new Map(judge.choices.map((choice) => [choice.id, choice]));
    return {
      ...judge,
      stem: onPaper.stem,
      choices: onPaper.choices.map(({ feedback: _, ...choice }) => {
        const { right = false, feedback } = judged.get(choice.id) ?? {};
        return { ...choice, right, ...(feedback && { feedback }) };
      }),
    };
  },

  boxes: ({ picked }: { picked: string | string[] }): string[] => [picked].flat(),

  /** What it says of each choice that was picked. */
  partFeedback: (
    { choices }: WithChoices,
    presentation: Presentation,
    { picked }: { picked: string | string[] },
  ): AnswerFeedback[] =>
    [picked].flat().flatMap((key) => {
      const choice = choices.find((one) => one.id === idOf(presentation.choices, key));
      return choice ? feedbackAbout(richText(choice.content), choice.feedback) : [];
    }),
};
