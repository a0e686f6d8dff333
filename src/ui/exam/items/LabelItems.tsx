'use client';
import { useState } from 'react';
import { Button } from '../../kit/Button';
import { numberIn } from '../../kit/numberIn';
import { Num, piece, Sentence } from './Sentence';
import { type ToolProps, useTool } from './useTool';

/** What items are called on paper. */
export function LabelItems({ items, doToMany }: ToolProps) {
  const { perform, foot, busy } = useTool(items, doToMany);
  const [from, setFrom] = useState('1');
  const [to, setTo] = useState(String(Math.max(1, items.length)));
  const [prefix, setPrefix] = useState('');
  const [first, setFirst] = useState('1');
  const end = numberIn(first) + numberIn(to) - numberIn(from);
  const said = Number.isFinite(end) ? `${prefix}${first} to ${prefix}${end}` : '';
  const submit = () =>
    perform(
      { do: 'label', from: numberIn(from), to: numberIn(to), prefix, first: numberIn(first) },
      `Items ${from} to ${to} are labelled ${said}.`,
    );
  return (
    <Sentence onSubmit={() => void submit()}>
      Items <Num label="First item" value={from} onChange={setFrom} /> to{' '}
      <Num label="Last item" value={to} onChange={setTo} /> are labelled
      <input
        aria-label="Text before the number"
        className={`${piece} w-24`}
        placeholder="nothing"
        value={prefix}
        onChange={(event) => setPrefix(event.target.value)}
      />
      and a number from <Num label="First number" value={first} onChange={setFirst} /> on
      {said && <span className="text-ink-2">: {said}</span>}.{' '}
      <Button type="submit" look="main" disabled={busy}>
        Label them
      </Button>
      {foot}
    </Sentence>
  );
}
