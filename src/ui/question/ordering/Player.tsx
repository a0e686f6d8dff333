'use client';
import { richText } from '@/core/base/rich';
import type { OrderingResponse, OrderingView } from '@/core/question/types/ordering/student';
import { Reorder } from '../../kit/Reorder';
import { RichText } from '../../kit/RichText';
import { TextButton } from '../../kit/TextButton';
import type { PlayerProps } from '../playing';

/** Items to be dragged into order, or moved by buttons and keys. Nothing counts as answered before something is moved. */
export function OrderingPlayer({ view, response, onRespond, disabled }: PlayerProps<OrderingView, OrderingResponse>) {
  const order = response?.order ?? view.items.map((item) => item.key);
  const items = order.flatMap((key) => view.items.find((item) => item.key === key) ?? []);
  return (
    <div>
      <p className="mb-1 text-base text-ink-2">
        {response
          ? 'Your order:'
          : 'Drag the items into order, or move them with the arrows. As they stand they are no answer yet.'}
      </p>
      <Reorder
        label="Items to put in order"
        disabled={disabled}
        items={items.map((item) => ({ id: item.key, name: richText(item.content) }))}
        onOrder={(next) => onRespond({ order: next })}
      >
        {(_, i) => (
          <RichText rich={items[i]?.content ?? { type: 'doc', content: [] }} className="min-w-0 flex-1 py-2" />
        )}
      </Reorder>
      <div className="mt-2 flex gap-4 px-2 text-sm">
        <TextButton disabled={disabled} onClick={() => onRespond({ order })} className={response ? 'hidden' : ''}>
          This order is my answer
        </TextButton>
        <TextButton disabled={disabled} onClick={() => onRespond(undefined)} className={response ? '' : 'hidden'}>
          Back to the beginning
        </TextButton>
      </div>
    </div>
  );
}
