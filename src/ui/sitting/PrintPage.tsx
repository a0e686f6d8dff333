'use client';
import { useEffect, useRef, useState } from 'react';
import type { Problem } from '@/core/base/result';
import { counted } from '@/core/base/words';
import type { PrintState as State } from '@/server/print/printJobs';
import { Button } from '../kit/Button';
import { PageTitle, Sheet } from '../kit/Page';
import { Problems } from '../kit/Problems';
import type { Command } from '../kit/usePerform';

type Props = {
  sitting: { href: string; title: string; students: number };
  /** Where the printed papers lie once they are done. */
  file: string;
  state: State | null;
  print: Command<[withKey: boolean], State>;
  progress: Command<[], State | null>;
  end: Command<[], null>;
};

const lookEvery = 1_000;

/** Every student's own paper as one PDF: for the day on which the network fails. */
export function PrintPage({ sitting, file, state: begun, print, progress, end }: Props) {
  const [state, setState] = useState(begun);
  const [withKey, setWithKey] = useState(begun?.withKey ?? false);
  const [problems, setProblems] = useState<Problem[]>([]);
  const [asked, setAsked] = useState(false);
  const running = state?.state === 'running';
  const look = useRef(progress);
  look.current = progress;
  useEffect(() => {
    if (!running) return;
    let gone = false;
    let timer: ReturnType<typeof setTimeout>;
    const next = async () => {
      const answer = await look.current().catch(() => null);
      if (gone) return;
      if (answer?.ok) setState(answer.value);
      timer = setTimeout(() => void next(), lookEvery);
    };
    timer = setTimeout(() => void next(), lookEvery);
    return () => {
      gone = true;
      clearTimeout(timer);
    };
  }, [running]);
  const begin = async () => {
    setAsked(true);
    const answer = await print(withKey).catch(() => null);
    setAsked(false);
    setProblems(
      answer?.ok
        ? []
        : (answer?.problems ?? [{ code: 'busy', message: 'The server could not be reached. Try again.' }]),
    );
    if (answer?.ok) setState(answer.value);
  };
  const cancel = async () => {
    const answer = await end().catch(() => null);
    if (answer?.ok && state) setState({ ...state, state: 'cancelled' });
  };
  return (
    <div className="max-w-[760px]">
      <PageTitle title="Papers to print" back={{ href: sitting.href, name: sitting.title }} />
      <Sheet className="px-5 py-4">
        <p className="max-w-prose">
          Every student’s own paper in one PDF, by name: the one of the running or last attempt, or the one the first
          attempt will get. Printing fixes the questions of this sitting, as its first start would.
        </p>
        <label className="mt-3 flex items-center gap-2">
          <input
            type="checkbox"
            className="size-4 accent-prussian"
            checked={withKey}
            disabled={running}
            onChange={(event) => setWithKey(event.target.checked)}
          />
          With right answers and solutions
        </label>
        <Problems problems={problems} className="mt-3" />
        <div className="mt-3 flex flex-wrap items-center gap-3" aria-live="polite">
          {running ? (
            <>
              <progress
                className="h-2 w-64 accent-prussian"
                aria-label="Papers printed"
                max={state.total}
                value={state.done}
              />
              <span className="tabular-nums">
                {state.done} of {state.total} papers printed
              </span>
              <Button key="cancel" onClick={() => void cancel()}>
                Cancel
              </Button>
            </>
          ) : (
            <Button key="print" look="main" disabled={asked} onClick={() => void begin()}>
              {asked ? 'Laying out …' : `Print ${counted(sitting.students, 'paper')}${state ? ' anew' : ''}`}
            </Button>
          )}
          {state?.state === 'done' && (
            <a href={file} className="text-prussian underline">
              Open the {state.total} papers{state.withKey ? ' with key' : ''}
            </a>
          )}
          {state?.state === 'cancelled' && <span className="text-ink-2">Cancelled.</span>}
          {state?.state === 'failed' && <span className="text-brick">{state.problem}</span>}
        </div>
      </Sheet>
    </div>
  );
}
