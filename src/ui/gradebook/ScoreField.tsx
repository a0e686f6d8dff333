import { useRef, useState } from 'react';
import type { Leaving, Typing } from './useScores';

type Props = { typing: Typing; label: string; onEnd: (typed: Typing, text: string, how: Leaving) => void };

/** A cell while it is typed into. Leaving it enters what stands there; Escape does not. */
export function ScoreField({ typing, label, onEnd }: Props) {
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
        inputMode="decimal"
        autoComplete="off"
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
        className={`-mr-1 h-6 w-full min-w-0 bg-sheet px-1 text-right tabular-nums outline-2 ${typing.problem === null ? 'outline-prussian' : 'outline-brick'}`}
      />
      {typing.problem !== null && (
        <span
          role="alert"
          className="absolute z-30 mt-7 -ml-32 border border-brick bg-sheet px-2 py-0.5 text-left text-sm whitespace-nowrap text-brick"
        >
          {typing.problem}
        </span>
      )}
    </>
  );
}
