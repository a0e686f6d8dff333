'use client';
import { Plus } from 'lucide-react';
import { emptyRich } from '@/core/base/rich';
import { freeId } from '@/core/question/choices';
import { type OrderingContent, type OrderingRule, orderingRules } from '@/core/question/types/ordering/content';
import { Button, RemoveButton } from '../../kit/Button';
import { SelectField } from '../../kit/Field';
import { Reorder } from '../../kit/Reorder';
import { contentProblem, type EditorProps } from '../editing';
import { RichEditor } from '../rich/RichEditor';
import { addsText } from '../textOrder';
import { orderingRuleNames } from './Review';

/** The items in their right order. */
export function OrderingEditor({ content, onChange, problems }: EditorProps<OrderingContent>) {
  const { items } = content;
  const set = (next: OrderingContent['items']) => onChange({ ...content, items: next });
  return (
    <div className="space-y-2">
      <h3 className="font-sans text-sm font-medium">Items in the right order; each paper shows them in another</h3>
      {contentProblem(problems, 'items') && <p className="text-sm text-brick">{contentProblem(problems, 'items')}</p>}
      <Reorder
        label="Items in the right order"
        items={items.map((item, i) => ({ id: item.id, name: `item ${i + 1}` }))}
        onOrder={(ids) => set(ids.flatMap((id) => items.find((item) => item.id === id) ?? []))}
      >
        {({ id }, i) => {
          const item = items[i];
          if (!item) return null;
          return (
            <>
              <div className="min-w-0 flex-1 py-1">
                <RichEditor
                  quiet
                  low
                  writes
                  label={`Item ${i + 1}`}
                  value={item.content}
                  onChange={(next) => set(items.map((one) => (one.id === id ? { ...one, content: next } : one)))}
                  problem={contentProblem(problems, `items.${i}.content`)}
                />
              </div>
              <RemoveButton
                label={`Remove item ${i + 1}`}
                disabled={items.length <= 2}
                onClick={() => set(items.filter((one) => one.id !== id))}
              />
            </>
          );
        }}
      </Reorder>
      <div className="flex flex-wrap items-end gap-3">
        <Button
          look="quiet"
          {...addsText}
          whyNot={items.length >= 20 ? 'Ordering takes at most 20 items.' : null}
          onClick={() => set([...items, { id: freeId(items, 'i'), content: emptyRich }])}
        >
          <Plus size={15} aria-hidden="true" /> Another item
        </Button>
        <SelectField
          label="Credit"
          value={content.rule}
          onChange={(event) => onChange({ ...content, rule: event.target.value as OrderingRule })}
        >
          {orderingRules.map((rule) => (
            <option key={rule} value={rule}>
              {orderingRuleNames[rule]}
            </option>
          ))}
        </SelectField>
      </div>
    </div>
  );
}
