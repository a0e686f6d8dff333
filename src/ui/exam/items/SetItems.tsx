'use client';
import { useState } from 'react';
import { pointsText } from '@/core/base/rounding';
import { type ItemType, itemKinds, itemTypes } from '@/core/exam/items/kinds';
import { choiceLabel } from '@/core/question/choiceLabel';
import { Button } from '../../kit/Button';
import { numberIn } from '../../kit/numberIn';
import { Num, piece, Sentence } from './Sentence';
import { type ToolProps, useTool } from './useTool';

const starts = ['A', 'a', '1', ...[...'BCDEFGHIJKLMNOPQRSTUVWXYZ']];

/** Sets kind, choices and points of a row of items, and makes those that are not there. */
export function SetItems({ items, doToMany }: ToolProps) {
  const { perform, foot, busy } = useTool(items, doToMany);
  const last = items.at(-1);
  const [from, setFrom] = useState(String(items.length + 1));
  const [to, setTo] = useState(String(items.length + (items.length ? 20 : 60)));
  const [type, setType] = useState<ItemType>(last?.type ?? 'single-choice');
  const [choices, setChoices] = useState(String(last?.choices ?? 4));
  const [start, setStart] = useState(last?.start ?? 'A');
  const [points, setPoints] = useState(pointsText(last?.points ?? 1));
  const submit = async () => {
    const change = { do: 'set', from: numberIn(from), to: numberIn(to), type, start, points: numberIn(points) };
    await perform(
      { ...change, choices: itemKinds[type].hasChoices ? numberIn(choices) : 4 },
      `Items ${from} to ${to} are set.`,
      () => {
        if (numberIn(to) < items.length) return;
        setFrom(String(numberIn(to) + 1));
        setTo(String(numberIn(to) + 20));
      },
    );
  };
  return (
    <Sentence onSubmit={() => void submit()}>
      Items <Num label="First item" value={from} onChange={setFrom} /> to{' '}
      <Num label="Last item" value={to} onChange={setTo} /> have
      <select
        aria-label="Kind of item"
        className={piece}
        value={type}
        onChange={(event) => setType(event.target.value as ItemType)}
      >
        {itemTypes.map((one) => (
          <option key={one} value={one}>
            {itemKinds[one].name}
          </option>
        ))}
      </select>
      {itemKinds[type].hasChoices && (
        <>
          of <Num label="Number of choices" value={choices} onChange={setChoices} /> choices, labelled
          <select
            aria-label="First label"
            className={piece}
            value={start}
            onChange={(event) => setStart(event.target.value)}
          >
            {starts.map((one) => (
              <option key={one} value={one}>
                {[0, 1, 2].map((place) => choiceLabel(one, place)).join(', ')} …
              </option>
            ))}
          </select>
        </>
      )}
      , worth <Num label="Points each" value={points} onChange={setPoints} /> {points === '1' ? 'point' : 'points'}{' '}
      each.{' '}
      <Button type="submit" look="main" disabled={busy}>
        Set the items
      </Button>
      {foot}
    </Sentence>
  );
}
