'use client';
import { useState } from 'react';
import { counted } from '@/core/base/words';
import { readKeys } from '@/core/exam/items/readKeys';
import { useWritten } from '../../keep/useWritten';
import { Button } from '../../kit/Button';
import { inputShape } from '../../kit/Field';
import { numberIn } from '../../kit/numberIn';
import { KeyFromSheet, type KeySheetAccess } from './KeyFromSheet';
import { Num, Sentence } from './Sentence';
import { type ToolProps, useTool } from './useTool';

/** Right answers that are typed or pasted for many items at once. */
export function GiveKey({ items, doToMany, keySheets }: ToolProps & { keySheets: KeySheetAccess | null }) {
  const { perform, foot, busy } = useTool(items, doToMany);
  const [from, setFrom] = useState('1');
  const {
    value: text,
    change: setText,
    done,
  } = useWritten('key', (typed) => (typed.trim() ? 'Right answers being given' : null), '');
  const read = text.trim() ? readKeys(text, items, numberIn(from) - 1) : null;
  const shown = read ? [...read.keys].slice(0, 12).map(([at, key]) => `${items[at]?.label} ${key}`) : [];
  const submit = async () => {
    await perform({ do: 'keys', from: numberIn(from), text }, `${read?.keys.size ?? 0} right answers are given.`, () =>
      done(),
    );
  };
  if (items.length === 0) return <p className="text-ink-2">There are no items yet: set them first.</p>;
  return (
    <>
      <Sentence onSubmit={() => void submit()}>
        From item <Num label="From item" value={from} onChange={setFrom} /> on the right answers are
        <textarea
          aria-label="Right answers"
          rows={4}
          className={`${inputShape} mt-1 block py-2 font-mono leading-6`}
          placeholder={'ABDCA BCDDA …   or one line for each item:   12 C   or   2a: port | larboard'}
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        {read && (
          <p className="text-sm leading-6 text-ink-2">
            Read as {counted(read.keys.size, 'answer')}: {shown.join(' · ')}
            {read.keys.size > shown.length && ' …'}
            {read.problems.length > 0 && (
              <span className="block text-brick">{read.problems.slice(0, 3).join(' ')}</span>
            )}
          </p>
        )}
        <Button type="submit" look="main" disabled={busy} className="mt-2">
          Give the key
        </Button>
        {foot}
      </Sentence>
      {keySheets && <KeyFromSheet items={items} access={keySheets} onRead={(key) => setText(key.text)} />}
    </>
  );
}
