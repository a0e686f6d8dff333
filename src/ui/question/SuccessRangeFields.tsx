'use client';
import { useState } from 'react';
import { type SuccessRange, successRange } from '@/core/question/successRange';
import { NumberField } from '../kit/NumberField';
import { numberIn } from '../kit/numberIn';

const usual: [SuccessRange | null, string][] = [
  [null, 'any success rate'],
  [{ from: 0, to: 30 }, 'up to 30 %: hard, or a wrong key'],
  [{ from: 30, to: 60 }, '30 to 60 %'],
  [{ from: 60, to: 90 }, '60 to 90 %'],
  [{ from: 90, to: 100 }, '90 % and more: nearly everyone'],
];

export const successSaid = (range: SuccessRange | null | undefined): string =>
  range ? `success ${range.from} to ${range.to} %` : 'any success rate';

/** Chooses a range of success rates: one of the usual ones, or any two percentages. Only a range that can be is set. */
export function SuccessRangeFields({
  value,
  onChange,
}: {
  value: SuccessRange | null;
  onChange: (value: SuccessRange | null) => void;
}) {
  const [from, setFrom] = useState(String(value?.from ?? ''));
  const [to, setTo] = useState(String(value?.to ?? ''));
  const parsed = successRange.safeParse({ from: numberIn(from), to: numberIn(to) });
  const begun = from !== '' || to !== '';
  const write = (nextFrom: string, nextTo: string) => {
    setFrom(nextFrom);
    setTo(nextTo);
    const next = successRange.safeParse({ from: numberIn(nextFrom), to: numberIn(nextTo) });
    if (next.success) onChange(next.data);
  };
  return (
    <fieldset>
      <legend className="sr-only">Success rate</legend>
      {usual.map(([range, label]) => (
        <label key={label} className="flex min-h-8 items-start gap-2 px-2 py-1 hover:bg-prussian-wash">
          <input
            type="radio"
            checked={JSON.stringify(value) === JSON.stringify(range)}
            onChange={() => {
              setFrom(String(range?.from ?? ''));
              setTo(String(range?.to ?? ''));
              onChange(range);
            }}
            className="mt-0.5 size-4 shrink-0 accent-prussian"
          />
          <span>{label}</span>
        </label>
      ))}
      <div className="mt-1 flex items-end gap-2 border-t border-line px-2 pt-2">
        <NumberField label="From %" className="w-20" value={from} onChange={(event) => write(event.target.value, to)} />
        <NumberField label="to %" className="w-20" value={to} onChange={(event) => write(from, event.target.value)} />
      </div>
      <p className={`max-w-60 px-2 pt-1 text-sm ${begun && !parsed.success ? 'text-brick' : 'text-ink-2'}`}>
        {begun && !parsed.success
          ? 'Two percentages from 0 to 100, the lower one first.'
          : 'Leaves out questions that no one has answered yet.'}
      </p>
    </fieldset>
  );
}
