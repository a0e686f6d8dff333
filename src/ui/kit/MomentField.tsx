'use client';
import { useEffect, useId, useState } from 'react';
import { instantFromLocal, readLocal } from '@/core/base/localTime';
import { momentText, whichOfTwo } from '@/core/base/time';
import { TextButton } from './TextButton';

type Props = {
  label: string;
  /** Local to the zone, as a date-and-time field holds it; empty for none. */
  value: string;
  zone: string;
  /** What stands beside the field while it is empty. */
  none: string;
  /** What is offered while it is empty: its words, and the moment. */
  propose?: { says: string; value: () => string };
  problem?: string | null;
  onSet: (value: string) => void;
};

/**
 * A moment typed in a line of a sentence. It is taken when the field is left or Enter is pressed, so that half a date
 * changes nothing; a time that the clocks skip is refused, and one that comes twice says which of the two it is.
 */
export function MomentField({ label, value, zone, none, propose, problem, onSet }: Props) {
  const id = useId();
  const [text, setText] = useState(value);
  const [wrong, setWrong] = useState<string | null>(null);
  useEffect(() => setText(value), [value]);
  const take = (next: string, isHalf: boolean) => {
    if (isHalf) return setWrong('Give a date and a time.');
    const read = next === '' ? null : readLocal(next, zone);
    if (read && !read.ok) return setWrong(read.why);
    setWrong(null);
    if (next !== value) onSet(next);
  };
  const at = value === '' ? null : instantFromLocal(value, zone);
  const said = wrong ?? problem;
  return (
    <>
      <label htmlFor={id} className="sr-only">
        {label}
      </label>
      <input
        id={id}
        type="datetime-local"
        value={text}
        aria-invalid={said ? true : undefined}
        aria-describedby={said ? `${id}-problem` : undefined}
        className="min-h-9 w-52 rounded-sm border border-edge bg-sheet px-1.5 align-middle leading-normal aria-invalid:border-2 aria-invalid:border-brick"
        onChange={(event) => setText(event.target.value)}
        onBlur={(event) => take(event.target.value, event.target.validity.badInput)}
        onKeyDown={(event) => {
          if (event.key !== 'Enter') return;
          event.preventDefault();
          take(event.currentTarget.value, event.currentTarget.validity.badInput);
        }}
      />
      {value === '' && (
        <span className="text-ink-2">
          {' '}
          ({none}
          {propose && (
            <>
              {'; '}
              <TextButton className="text-sm" onClick={() => take(propose.value(), false)}>
                {propose.says}
              </TextButton>
            </>
          )}
          )
        </span>
      )}
      {at !== null && whichOfTwo(at, zone) && <span className="text-saffron"> {momentText(at, zone)}</span>}
      {said && (
        <span id={`${id}-problem`} className="block text-sm leading-normal text-brick">
          {said}
        </span>
      )}
    </>
  );
}
