'use client';
import { useEffect, useId, useState } from 'react';
import { numberIn } from './numberIn';

type Props = {
  label: string;
  /** Null for none. */
  value: number | null;
  problem?: string | null;
  onSet: (value: number | null) => void;
};

/** Whole minutes typed in a line of a sentence, or nothing for none; taken when the field is left or Enter is pressed. */
export function MinutesField({ label, value, problem, onSet }: Props) {
  const id = useId();
  const [text, setText] = useState(value === null ? '' : String(value));
  const [wrong, setWrong] = useState<string | null>(null);
  useEffect(() => setText(value === null ? '' : String(value)), [value]);
  const take = () => {
    const next = text.trim() === '' ? null : numberIn(text);
    if (next !== null && !(Number.isInteger(next) && next > 0))
      return setWrong('A whole number of minutes, or nothing for no limit.');
    setWrong(null);
    if (next !== value) onSet(next);
  };
  const said = wrong ?? problem;
  return (
    <>
      <label htmlFor={id} className="sr-only">
        {label}
      </label>
      <input
        id={id}
        inputMode="numeric"
        autoComplete="off"
        value={text}
        placeholder="none"
        aria-invalid={said ? true : undefined}
        aria-describedby={said ? `${id}-problem` : undefined}
        className="min-h-9 w-14 rounded-sm border border-edge bg-sheet px-2 text-right align-middle leading-normal tabular-nums aria-invalid:border-2 aria-invalid:border-brick"
        onChange={(event) => setText(event.target.value)}
        onBlur={take}
        onKeyDown={(event) => {
          if (event.key !== 'Enter') return;
          event.preventDefault();
          take();
        }}
      />
      {said && (
        <span id={`${id}-problem`} className="block text-sm leading-normal text-brick">
          {said}
        </span>
      )}
    </>
  );
}
