'use client';
import { type KeyboardEvent, type ReactNode, useRef, useState } from 'react';
import { Tick } from './Tick';

type Props<Value extends string> = {
  /** What it decides. */
  legend: string;
  /** Whether the legend is only for people who hear the page. */
  quiet?: boolean;
  value: Value;
  options: readonly { value: Value; says: ReactNode; disabled?: boolean }[];
  onPick: (value: Value) => void;
  className?: string;
};

/**
 * One of a few that exclude each other. By pointer it is picked at once; by keyboard the arrows only walk, and Enter or Space
 * picks: a rule is not set, nor its editor closed, by the first arrow key.
 */
export function PickOne<Value extends string>({ legend, quiet, value, options, onPick, className }: Props<Value>) {
  const [at, setAt] = useState(value);
  const walking = useRef(false);
  const press = (event: KeyboardEvent) => {
    walking.current = event.key.startsWith('Arrow');
    if (event.key !== 'Enter' && event.key !== ' ') return;
    event.preventDefault();
    onPick(at);
  };
  return (
    <fieldset
      className={className}
      onKeyDown={press}
      onPointerDown={() => {
        walking.current = false;
      }}
    >
      <legend className={quiet ? 'sr-only' : 'mb-1 text-sm font-medium'}>{legend}</legend>
      {options.map((option) => (
        <Tick
          key={option.value}
          radio
          name={legend}
          on={option.value === at}
          disabled={Boolean(option.disabled)}
          onChange={() => {
            setAt(option.value);
            if (!walking.current) onPick(option.value);
          }}
        >
          {option.says}
        </Tick>
      ))}
      {at !== value && <p className="mt-1 text-sm text-ink-2">Enter sets it, Escape leaves it.</p>}
    </fieldset>
  );
}
