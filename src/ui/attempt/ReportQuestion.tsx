'use client';
import { useState } from 'react';
import { Button } from '../kit/Button';
import { TextArea } from '../kit/Field';
import { useKeptWords } from './keptWords';

/** Where the keyboard goes on once the form is gone. */
const focusOnce = (element: HTMLElement | null) => element?.focus();

/** "Something is wrong with this question": a few words to whoever set it. */
export function ReportQuestion({
  slotId,
  number,
  onReport,
}: {
  slotId: string;
  number: number;
  onReport: (text: string) => Promise<string | null>;
}) {
  const [opened, setOpened] = useState<boolean | null>(null);
  const [text, setText, putAway] = useKeptWords(`wuzzen-report/${slotId}`);
  // Whoever had begun to write finds it open.
  const open = opened ?? text !== '';
  const [state, setState] = useState<'ready' | 'sending' | 'sent' | { wrong: string }>('ready');
  if (state === 'sent')
    return (
      <p role="status" ref={focusOnce} tabIndex={-1} className="py-2 text-base text-pine outline-none">
        Your instructor has it. Go on; what is decided holds for everyone who has this question.
      </p>
    );
  if (!open)
    return (
      <Button look="quiet" ref={opened === false ? focusOnce : undefined} onClick={() => setOpened(true)}>
        Something is wrong with this question
        <span className="sr-only"> (question {number})</span>
      </Button>
    );
  const send = async () => {
    setState('sending');
    const wrong = await onReport(text);
    if (wrong === null) putAway();
    setState(wrong === null ? 'sent' : { wrong });
  };
  return (
    <form
      className="mt-2 w-full space-y-2 text-base"
      onSubmit={(event) => {
        event.preventDefault();
        void send();
      }}
    >
      <TextArea
        label={`What is wrong with question ${number}?`}
        rows={2}
        autoFocus={opened === true}
        value={text}
        onChange={(event) => setText(event.target.value)}
        problem={typeof state === 'object' ? state.wrong : null}
      />
      <div className="flex gap-2">
        <Button type="submit" busy={state === 'sending'}>
          {state === 'sending' ? 'Sending …' : 'Tell my instructor'}
        </Button>
        <Button
          look="quiet"
          onClick={() => {
            putAway();
            setOpened(false);
          }}
        >
          Never mind
        </Button>
      </div>
    </form>
  );
}
