'use client';
import { useEffect, useRef, useState } from 'react';
import type { Problem } from '@/core/base/result';
import type { PrintState } from '@/server/print/printJobs';
import { Button } from './Button';
import { FileLink } from './FileLink';
import { Problems } from './Problems';
import { Progress } from './Progress';
import type { Command } from './usePerform';

const lookEvery = 1_000;

type Props = {
  state: PrintState | null;
  begin: () => ReturnType<Command<[], PrintState>>;
  progress: Command<[], PrintState | null>;
  end: Command<[], null>;
  /** What is printed, as it is counted: "papers". */
  what: string;
  /** What the button says. */
  act: (state: PrintState | null) => string;
  whyNot?: string | null;
  /** Where it lies once it is done, and how that is said. */
  file: string;
  fileSaid: (state: PrintState) => string;
  download?: boolean;
  onRunning?: (running: boolean) => void;
};

/** A long print: begun, watched while it goes on, cancelled, and opened once it is done. */
export function PrintProgress(props: Props) {
  const [state, setState] = useState(props.state);
  const [problems, setProblems] = useState<Problem[]>([]);
  const [asked, setAsked] = useState(false);
  const running = state?.state === 'running';
  const look = useRef(props.progress);
  look.current = props.progress;
  const said = useRef(props.onRunning);
  said.current = props.onRunning;
  useEffect(() => {
    said.current?.(running);
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
    const answer = await props.begin().catch(() => null);
    setAsked(false);
    setProblems(
      answer?.ok
        ? []
        : (answer?.problems ?? [{ code: 'busy', message: 'The server could not be reached. Try again.' }]),
    );
    if (answer?.ok) setState(answer.value);
  };
  const cancel = async () => {
    const answer = await props.end().catch(() => null);
    if (answer?.ok && state) setState({ ...state, state: 'cancelled' });
  };
  return (
    <>
      <Problems problems={problems} className="mt-3" />
      <div className="mt-3 flex flex-wrap items-center gap-3" aria-live="polite">
        {running ? (
          <>
            <Progress label={`${props.what} printed`} max={state.total} value={state.done} />
            <span className="tabular-nums">
              {state.done} of {state.total} {props.what} printed
            </span>
            <Button key="cancel" onClick={() => void cancel()}>
              Cancel
            </Button>
          </>
        ) : (
          <Button key="print" look="main" disabled={asked} whyNot={props.whyNot} onClick={() => void begin()}>
            {asked ? 'Laying out …' : props.act(state)}
          </Button>
        )}
        {state?.state === 'done' && (
          <FileLink href={props.file} download={props.download || undefined}>
            {props.fileSaid(state)}
          </FileLink>
        )}
        {state?.state === 'cancelled' && <span className="text-ink-2">Cancelled.</span>}
        {state?.state === 'failed' && <span className="text-brick">{state.problem}</span>}
      </div>
    </>
  );
}
