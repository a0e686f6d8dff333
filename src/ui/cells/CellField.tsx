import { useRef, useState } from 'react';
import type { Leaving, TypedCells, Typing } from './useTypedCells';

type Props = {
  typing: Typing;
  label: string;
  onEnd: TypedCells['end'];
  /** Numbers stand at the right, and ask for the keys of numbers. */
  isNumber?: boolean;
  /** The list of what it may be, by its id. */
  list?: string;
};

/** A cell while it is typed into. Leaving it enters what stands there; Escape does not. */
export function CellField({ typing, label, onEnd, isNumber = false, list }: Props) {
  const [text, setText] = useState(typing.text);
  const ended = useRef(false);
  const how = useRef<Leaving>('elsewhere');
  const end = () => {
    if (ended.current) return;
    ended.current = true;
    onEnd(typing, text, how.current);
  };
  return (
    <>
      <input
        // biome-ignore lint/a11y/noAutofocus: whoever typed into the cell goes on typing
        autoFocus
        inputMode={isNumber ? 'decimal' : undefined}
        autoComplete="off"
        list={list}
        aria-label={label}
        aria-invalid={typing.problem !== null}
        title={typing.problem ?? undefined}
        value={text}
        onChange={(event) => setText(event.target.value)}
        onBlur={end}
        onKeyDown={(event) => {
          // The grid goes on to the next cell, and leaving this one ends it.
          if (event.key !== 'Escape')
            how.current = /^(?:Enter|Tab|ArrowUp|ArrowDown)$/.test(event.key) ? 'key' : 'elsewhere';
          else {
            event.stopPropagation();
            how.current = 'given-up';
            event.currentTarget.closest<HTMLElement>('[data-cell]')?.focus();
          }
        }}
        className={`block h-6 w-full min-w-0 bg-sheet px-1 outline-2 ${isNumber ? '-mr-1 text-right tabular-nums' : '-ml-1'} ${typing.problem === null ? 'outline-prussian' : 'outline-brick'}`}
      />
      {typing.problem !== null && (
        <span
          role="alert"
          className={`absolute z-30 mt-0.5 border border-brick bg-sheet px-2 py-0.5 text-left text-sm whitespace-nowrap text-brick ${isNumber ? '-ml-4' : '-ml-1'}`}
        >
          {typing.problem}
        </span>
      )}
    </>
  );
}
