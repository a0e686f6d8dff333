import type { CreditRule, MultipleChoiceContent } from '@/core/question/types/multiple-choice/content';
import type { MultipleChoiceResponse } from '@/core/question/types/multiple-choice/student';
import { ChoiceReview } from '../ChoiceReview';
import type { ReviewProps } from '../reviewing';

/** The credit rules in words. */
export const creditRuleNames: Record<CreditRule, string> = {
  'all-or-nothing': 'All or nothing',
  'wrong-cancels-right': 'Wrong picks cancel right ones',
  'each-judged': 'Each choice judged',
};

export const MultipleChoiceReview = ({
  content,
  presentation,
  response,
}: ReviewProps<MultipleChoiceContent, MultipleChoiceResponse>) => (
  <>
    <ChoiceReview choices={content.choices} presentation={presentation} picked={response?.picked ?? null} />
    <p className="mt-1 px-2 text-sm text-ink-2">{creditRuleNames[content.rule]}</p>
  </>
);
