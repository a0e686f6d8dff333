'use client';
import { useState } from 'react';
import { Button } from '../../kit/Button';
import { numberIn } from '../../kit/numberIn';
import { Num, Sentence } from './Sentence';
import { type ToolProps, useTool } from './useTool';

/** Puts items in between others, or takes some out. */
export function MakeRoom({ items, doToMany }: ToolProps) {
  const { perform, foot, busy } = useTool(items, doToMany);
  const [count, setCount] = useState('1');
  const [at, setAt] = useState('1');
  const [from, setFrom] = useState('');
  const [to, setTo] = useState('');
  if (items.length === 0) return <p className="text-ink-2">There are no items yet: set them first.</p>;
  return (
    <div>
      <Sentence
        onSubmit={() =>
          void perform({ do: 'insert', at: numberIn(at), count: numberIn(count) }, `Room is made before item ${at}.`)
        }
      >
        Put <Num label="How many new items" value={count} onChange={setCount} /> new {count === '1' ? 'item' : 'items'}{' '}
        before item <Num label="Before item" value={at} onChange={setAt} />, of its kind.{' '}
        <Button type="submit" disabled={busy}>
          Put in
        </Button>
      </Sentence>
      <Sentence
        onSubmit={() =>
          void perform(
            { do: 'take-out', from: numberIn(from), to: numberIn(to || from) },
            `Items ${from} to ${to || from} are taken out. Papers that hold them keep them.`,
          )
        }
      >
        Take out items <Num label="First item to take out" value={from} onChange={setFrom} /> to{' '}
        <Num label="Last item to take out" value={to} onChange={setTo} />.{' '}
        <Button type="submit" look="grave" disabled={busy}>
          Take out
        </Button>
        {foot}
      </Sentence>
    </div>
  );
}
