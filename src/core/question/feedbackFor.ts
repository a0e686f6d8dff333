import { type AnswerFeedback, feedbackAbout } from './answerFeedback';
import type { QuestionContent } from './content';
import { definitionOf } from './definitions';
import type { Presentation } from './presentation';
import { withValues } from './withValues';

/**
 * A question without its feedback: what is said of choices and of accepted answers, to right and to wrong ones, its hint
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

/** A question with its key and nothing more: without all that it says to answers, and without its rubric. */
export const keyOnly = (content: QuestionContent): QuestionContent =>
  definitionOf(content.type).keyOnly(withoutFeedback(content));

/**
 * A question as it stood on one paper, with the key that judged its answer: the paper's own, or that of a later version by
 * which it was marked anew.
 *
 * @param judge the version whose key judged; of the same question
 * @returns the question with the values of the paper in it
 */
export function asJudged(
  onPaper: QuestionContent,
  judge: QuestionContent,
  presentation: Presentation,
): QuestionContent {
  const own = withValues(onPaper, presentation);
  if (judge === onPaper || judge.type !== onPaper.type) return own;
  return definitionOf(own.type).judgedBy(own, withValues(judge, presentation));
}

/**
 * What a question says to one answer: to each choice that was picked, to the accepted answer that it was taken for, and to
 * a right or another one.
 *
 * @param content with the values of the paper in it
 * @param right whether the answer earned its full credit; null where that is not known yet, then nothing is said of it
 */
export function feedbackFor(
  content: QuestionContent,
  presentation: Presentation,
  stored: unknown,
  right: boolean | null,
): AnswerFeedback[] {
  const type = definitionOf(content.type);
  const response = type.read(stored);
  const whole = right === null ? [] : feedbackAbout('', right ? content.feedback.right : content.feedback.wrong);
  return response ? [...type.partFeedback(content, presentation, response), ...whole] : whole;
}
