import { Check } from 'lucide-react';
import { isEmptyRich } from '@/core/base/rich';
import type { SingleChoiceContent } from '@/core/question/types/single-choice/content';
import { RichText } from '../../kit/RichText';
import { letterOf } from '../letterOf';

/** Choices with the right one marked and the feedback that belongs to each. For those who may see the key. */
export function SingleChoiceReview({ content, order }: { content: SingleChoiceContent; order?: string[] }) {
  const choices = order
    ? order.flatMap((id) => content.choices.find((choice) => choice.id === id) ?? [])
    : content.choices;
  return (
    <ul>
      {choices.map((choice, i) => (
        <li key={choice.id} className={`flex items-start gap-2 px-2 py-1 ${choice.right ? 'bg-pine-wash' : ''}`}>
          <span className="w-5 shrink-0 text-ink-2">{letterOf(i)}</span>
          <div className="min-w-0 flex-1">
            <RichText rich={choice.content} />
            {choice.feedback && !isEmptyRich(choice.feedback) && (
              <RichText rich={choice.feedback} className="text-sm text-ink-2" />
            )}
          </div>
          {choice.right && (
            <span className="flex shrink-0 items-center gap-1 text-sm text-pine">
              <Check size={15} aria-hidden="true" /> right
            </span>
          )}
        </li>
      ))}
    </ul>
  );
}
