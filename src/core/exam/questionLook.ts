import { findings } from '../bank/questionHealth';
import { crowded, type RightPlaces, rightPlaces } from '../bank/rightPlaces';
import type { QuestionContent } from '../question/content';
import { definitionOf } from '../question/definitions';
import type { Finding } from '../question/finding';
import type { ExamDesign } from './design';
import type { ShuffleCount } from './orderSaid';

/** What there is to see in the questions an exam can put on papers. */
export type QuestionLook = {
  questions: number;
  shuffle: ShuffleCount;
  /** Where right choices stand in the questions whose choices this exam leaves as written. */
  places: RightPlaces & { crowded: boolean };
  findings: { questionId: string; finding: Finding }[];
};

/** Whether a question lets its choices be shuffled; null for one without choices of its own. */
const shuffles = (content: QuestionContent): boolean | null => ('choices' in content ? content.shuffle : null);

/** Looks through the questions an exam can draw, as this exam shows them: what is never shuffled cannot lose its place. */
export function questionLook(
  design: ExamDesign,
  questions: readonly { id: string; content: QuestionContent }[],
): QuestionLook {
  const asWritten = design.choices === 'as-written';
  const shuffling = questions.map(({ content }) => shuffles(content));
  const still = questions.filter((_, i) => asWritten || shuffling[i] === false).map(({ content }) => content);
  const places = rightPlaces(still);
  return {
    questions: questions.length,
    shuffle: {
      withChoices: shuffling.filter((one) => one !== null).length,
      allowing: shuffling.filter((one) => one === true).length,
    },
    places: { ...places, crowded: crowded(places) },
    findings: questions.flatMap(({ id, content }) =>
      findings(asWritten ? definitionOf(content.type).asWritten(content) : content).map((finding) => ({
        questionId: id,
        finding,
      })),
    ),
  };
}
