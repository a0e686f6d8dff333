'use client';
import dynamic from 'next/dynamic';
import { useState } from 'react';
import { Button } from '../../kit/Button';
import { NumberField } from '../../kit/NumberField';
import { numberIn } from '../../kit/numberIn';
import { PageFrame, PageTitle } from '../../kit/Page';
import { Problems } from '../../kit/Problems';
import { Progress } from '../../kit/Progress';
import { useRehearsal } from './useRehearsal';

/** Charts come only once there is something to draw. */
const RehearsalReport = dynamic(() => import('./RehearsalReport').then((module) => module.RehearsalReport));

const limits = { students: 2_000, attempts: 10 };
const usualClass = 30;

type Props = {
  base: string;
  title: string;
  students: number;
  lines: { id: string; number: string }[];
  within: number | null;
};

const wholeWithin = (text: string, most: number): number | null => {
  const value = Number(text);
  return text.trim() !== '' && Number.isInteger(value) && value >= 1 && value <= most ? value : null;
};

/** Draws the papers of a made-up class, to see before the day how different and how fair they come out. */
export function RehearsalPage({ base, title, students, lines, within }: Props) {
  const { state, start, cancel } = useRehearsal();
  const [classSize, setClassSize] = useState(String(students || usualClass));
  const [attempts, setAttempts] = useState('2');
  const [distance, setDistance] = useState(String(within ?? 2));
  const size = wholeWithin(classSize, limits.students);
  const goes = wholeWithin(attempts, limits.attempts);
  const near = numberIn(distance);
  const nearFits = distance.trim() !== '' && near >= 0.1 && near <= 50;
  const running = state.kind === 'running';
  return (
    <PageFrame>
      <PageTitle title="Rehearsal" back={{ href: base, name: title }} />
      <form
        className="flex flex-wrap items-start gap-x-4 gap-y-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (size && goes && nearFits && !running)
            start({ material: `${base}/rehearsal/material`, students: size, attempts: goes, within: near });
        }}
      >
        <NumberField
          label="Students"
          className="w-36"
          whole
          value={classSize}
          onChange={(event) => setClassSize(event.target.value)}
          problem={size ? null : 'A whole number from 1 to 2000.'}
        />
        <NumberField
          label="Attempts of each"
          className="w-36"
          whole
          value={attempts}
          onChange={(event) => setAttempts(event.target.value)}
          problem={goes ? null : 'A whole number from 1 to 10.'}
        />
        <NumberField
          label="Equally hard within, of 100"
          className="w-52"
          value={distance}
          onChange={(event) => setDistance(event.target.value)}
          problem={nearFits ? null : 'A number from 0.1 to 50.'}
        />
        <div className="flex gap-2 pt-[1.65rem]">
          {running ? (
            // A button of its own: were it the same one turned into the form's, ending a rehearsal would begin the next.
            <Button key="cancel" type="button" onClick={cancel}>
              Cancel
            </Button>
          ) : (
            <Button key="start" type="submit" look="main" disabled={!size || !goes || !nearFits}>
              {state.kind === 'done' ? 'Rehearse again' : 'Rehearse'}
            </Button>
          )}
        </div>
      </form>
      <div aria-live="polite" className="mt-3 min-h-6">
        {state.kind === 'idle' && (
          <p className="max-w-prose text-ink-2">
            Draws the papers of a class of that size in this browser, plainly and equally hard, and shows how often each
            question is used, how much two papers have in common, and how far their expected scores lie apart. Nothing
            is stored.
          </p>
        )}
        {state.kind === 'cancelled' && <p className="text-ink-2">Cancelled. Nothing was kept.</p>}
        {state.kind === 'failed' && <Problems problems={[{ code: 'conflict', message: state.message }]} />}
        {running && (
          <p className="flex items-center gap-3">
            <Progress label="Papers drawn" max={state.all || 1} value={state.done} />
            <span className="tabular-nums">
              {state.all ? `${state.done} of ${state.all} papers drawn` : 'Reading the exam …'}
            </span>
          </p>
        )}
      </div>
      {state.kind === 'done' && (
        <RehearsalReport
          base={base}
          rehearsal={state.rehearsal}
          uses={state.uses}
          seconds={state.seconds}
          numbers={Object.fromEntries(lines.map((line) => [line.id, line.number]))}
        />
      )}
    </PageFrame>
  );
}
