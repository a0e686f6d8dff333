import type { TrueFalseContent } from '@/core/question/types/true-false/content';
import type { TrueFalseResponse } from '@/core/question/types/true-false/student';
import { RichText } from '../../kit/RichText';
import { type ReviewProps, Verdict } from '../reviewing';

export const TrueFalseReview = ({ content, response }: ReviewProps<TrueFalseContent, TrueFalseResponse>) => (
  <ul>
    {[true, false].map((value) => {
      const feedback = value ? content.onTrue : content.onFalse;
      const chosen = response?.picked === value;
      return (
        <li
          key={String(value)}
          className={`flex gap-2 px-2 py-1 ${content.answer === value ? 'bg-pine-wash' : chosen ? 'bg-brick-wash' : ''}`}
        >
          <div className="flex-1">
            {value ? 'True' : 'False'}
            {feedback && <RichText rich={feedback} className="text-sm text-ink-2" />}
          </div>
          {chosen && <span className="text-sm">picked</span>}
          {(content.answer === value || chosen) && <Verdict right={content.answer === value} />}
        </li>
      );
    })}
  </ul>
);
