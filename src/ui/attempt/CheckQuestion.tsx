'use client';
import { useEffect, useRef, useState } from 'react';
import { isEmptyRich } from '@/core/base/rich';
import type { CheckedQuestion } from '@/server/attempt/tries';
import { Button } from '../kit/Button';
import { RichText } from '../kit/RichText';

type Props = {
  checked: CheckedQuestion;
  number: number;
  answered: boolean;
  disabled: boolean;
  /** Asks the server; what it returns went wrong. */
  onCheck: () => Promise<string | null>;
  onAgain: () => Promise<string | null>;
};

const outcomeSaid = {
  right: { text: 'Right.', ink: 'text-pine' },
  partly: { text: 'Partly right.', ink: 'text-saffron' },
  wrong: { text: 'Not right.', ink: 'text-brick' },
};

/** Checks a question as students go: how it went, a hint while there are tries left, and a missed one taken again. */
export function CheckQuestion({ checked, number, answered, disabled, onCheck, onAgain }: Props) {
  const [state, setState] = useState<{ busy: boolean; wrong: string | null }>({ busy: false, wrong: null });
  const outcomeLine = useRef<HTMLParagraphElement>(null);
  const wasPressed = useRef(false);
  const run = async (act: () => Promise<string | null>) => {
    wasPressed.current = true;
    setState({ busy: true, wrong: null });
    setState({ busy: false, wrong: await act() });
  };
  // A question that closed takes its button away, whenever that comes to be drawn: whoever pressed it by keyboard goes on
  // from what it said.
  useEffect(() => {
    if (!wasPressed.current || document.activeElement !== document.body) return;
    wasPressed.current = false;
    outcomeLine.current?.focus();
  });
  const left = checked.most - checked.used;
  const { outcome, closed, said, feedback, again } = checked;
  return (
    <div className="mt-3 border-t border-line pt-3 text-base">
      <div aria-live="polite">
        {outcome && (
          <p ref={outcomeLine} tabIndex={-1} className="outline-none">
            <strong className={outcomeSaid[outcome].ink}>{outcomeSaid[outcome].text}</strong>{' '}
            {closed
              ? outcome !== 'right' && 'It is closed now.'
              : again
                ? 'It has come again: one more try.'
                : `${left === 1 ? 'One try is' : `${left} tries are`} left.`}
          </p>
        )}
        {said && !isEmptyRich(said) && (
          <div className="mt-1 border-l-2 border-line pl-3">
            <p className="text-sm text-ink-2">A hint</p>
            <RichText rich={said} />
          </div>
        )}
        {feedback.length > 0 && (
          <ul className="mt-1 border-l-2 border-line pl-3">
            {feedback.map((one) => (
              <li key={one.about}>
                {one.about && <p className="text-sm text-ink-2">“{one.about}”</p>}
                <RichText rich={one.said} />
              </li>
            ))}
          </ul>
        )}
        {state.wrong && <p className="mt-1 text-brick">{state.wrong}</p>}
      </div>
      {!closed && (
        <Button
          className="mt-2"
          disabled={disabled}
          busy={state.busy}
          whyNot={answered ? null : 'Answer the question before you check it.'}
          onClick={() => void run(onCheck)}
        >
          {state.busy
            ? 'Checking …'
            : `Check question ${number}${checked.most > 1 && !again ? ` (try ${checked.used + 1} of ${checked.most})` : ''}`}
        </Button>
      )}
      {checked.mayAgain && (
        <Button className="mt-2" disabled={disabled} busy={state.busy} onClick={() => void run(onAgain)}>
          Take question {number} again
        </Button>
      )}
    </div>
  );
}
