'use client';
import { useState } from 'react';
import type { DrawLine, PoolRule } from '@/core/exam/design';
import { Button } from '../kit/Button';
import { TextField } from '../kit/Field';
import { fewEnoughToSee, holds } from '../kit/Find';
import { NumberField } from '../kit/NumberField';
import { numberIn } from '../kit/numberIn';
import type { Sources } from './PoolPieces';

type Props = { sources: Sources; makeId: () => string; onAdd: (lines: DrawLine[]) => void; onClose: () => void };

/** One draw for each of the chosen categories and exams, all of the same count and points, in one go. */
export function AddDraws({ sources, makeId, onAdd, onClose }: Props) {
  const [chosen, setChosen] = useState<string[]>([]);
  const [find, setFind] = useState('');
  const [count, setCount] = useState('1');
  const [points, setPoints] = useState('1');
  const countFits = Number.isInteger(numberIn(count)) && numberIn(count) >= 1 && numberIn(count) <= 500;
  const pointsFit = numberIn(points) > 0 && numberIn(points) <= 1_000;
  const all: { key: string; name: string; pool: PoolRule }[] = [
    ...sources.categories.map(({ id, name }) => ({
      key: id,
      name,
      pool: { categories: [{ id, below: true }], difficulties: [] },
    })),
    ...sources.exams.map(({ id, title }) => ({
      key: id,
      name: `the questions of ${title}`,
      pool: { categories: [], exams: [id], difficulties: [] },
    })),
  ];
  // What is ticked stays in view, whatever is looked for.
  const shown = all.filter(({ key, name }) => chosen.includes(key) || holds(find, name));
  const add = () => {
    onAdd(
      all
        .filter(({ key }) => chosen.includes(key))
        .map(({ pool }) => ({ kind: 'draw', id: makeId(), count: numberIn(count), points: numberIn(points), pool })),
    );
    onClose();
  };
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: Escape closes the list from anywhere inside it
    <div className="border-t border-line px-4 py-3" onKeyDown={(event) => event.key === 'Escape' && onClose()}>
      <fieldset>
        <legend className="text-sm font-medium">One draw for each of</legend>
        {all.length > fewEnoughToSee && (
          <TextField
            quiet
            label="Find a category or exam"
            placeholder="Find a category or exam"
            value={find}
            onChange={(event) => setFind(event.target.value)}
          />
        )}
        <div className="grid max-h-72 gap-x-4 overflow-y-auto sm:grid-cols-2">
          {shown.map(({ key, name }) => (
            <label key={key} className="flex min-h-8 items-start gap-2 px-1 py-1 hover:bg-prussian-wash">
              <input
                type="checkbox"
                className="mt-0.5 size-4 shrink-0 accent-prussian"
                checked={chosen.includes(key)}
                onChange={() =>
                  setChosen(chosen.includes(key) ? chosen.filter((one) => one !== key) : [...chosen, key])
                }
              />
              <span>{name}</span>
            </label>
          ))}
        </div>
      </fieldset>
      <div className="mt-2 flex flex-wrap items-end gap-3">
        <NumberField
          label="Questions each"
          className="w-28"
          whole
          value={count}
          onChange={(event) => setCount(event.target.value)}
          problem={countFits ? null : 'A whole number from 1 to 500.'}
        />
        <NumberField
          label="Points each"
          className="w-28"
          value={points}
          onChange={(event) => setPoints(event.target.value)}
          problem={pointsFit ? null : 'A number above 0, at most 1000.'}
        />
        <Button
          look="main"
          whyNot={
            chosen.length === 0 ? 'Choose at least one.' : countFits && pointsFit ? null : 'Mend the numbers first.'
          }
          onClick={add}
        >
          {chosen.length === 1 ? 'Add the draw' : `Add ${chosen.length} draws`}
        </Button>
        <Button onClick={onClose}>Close</Button>
      </div>
    </div>
  );
}
