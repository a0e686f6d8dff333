import { idOf } from '@/core/question/presentation';
import type { OrderingContent, OrderingRule } from '@/core/question/types/ordering/content';
import type { OrderingResponse } from '@/core/question/types/ordering/student';
import { RichText } from '../../kit/RichText';
import type { ReviewProps } from '../reviewing';

/** The rules for an order in words. */
export const orderingRuleNames: Record<OrderingRule, string> = {
  'all-or-nothing': 'All or nothing',
  'in-place': 'Share of items in their places',
  pairs: 'Share of pairs in the right relative order',
};

/** The items in the right order, each with the place it was given. */
export function OrderingReview({ content, presentation, response }: ReviewProps<OrderingContent, OrderingResponse>) {
  const places = new Map(response?.order.map((key, i) => [idOf(presentation.choices, key), i + 1]));
  return (
    <>
      <ol className="border-y border-line">
        {content.items.map((item, i) => (
          <li key={item.id} className="flex gap-3 border-b border-line px-2 py-1 last:border-b-0">
            <span className="w-5 shrink-0 text-ink-2">{i + 1}</span>
            <RichText rich={item.content} className="flex-1" />
            {response && (
              <span className={`shrink-0 text-sm ${places.get(item.id) === i + 1 ? 'text-pine' : 'text-brick'}`}>
                put in place {places.get(item.id) ?? '–'}
              </span>
            )}
          </li>
        ))}
      </ol>
      <p className="mt-1 px-2 text-sm text-ink-2">{orderingRuleNames[content.rule]}</p>
    </>
  );
}
