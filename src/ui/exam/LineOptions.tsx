'use client';
import { useState } from 'react';
import { pointsText } from '@/core/base/rounding';
import { oneOrMany } from '@/core/base/words';
import type { ExamLine } from '@/core/exam/design';
import { Button } from '../kit/Button';
import { NumberField } from '../kit/NumberField';
import { numberIn } from '../kit/numberIn';
import { SentencePiece } from '../kit/SentencePiece';

const minutesSaid = (minutes: number) => `${pointsText(minutes)} ${oneOrMany(minutes, 'minute')} each`;

/** What a line asks besides, in words; empty where it asks nothing. */
export const optionsSaid = (line: ExamLine): string =>
  [line.required && 'has to be answered', line.minutes && minutesSaid(line.minutes)].filter(Boolean).join(', ');

/** Required, a time of its own, a new page: what a line can ask besides, said only where it is set. */
export function LineOptions({
  line,
  number,
  noRequired,
  breaks,
  onChange,
}: {
  line: ExamLine;
  number: string;
  /** Why none of its questions can be required. */
  noRequired: string | null;
  /** Whether the exam's pages end where the author ends them. */
  breaks: boolean;
  onChange: (line: ExamLine) => void;
}) {
  const said = optionsSaid(line);
  return (
    <SentencePiece
      quiet={said === ''}
      says={said || 'more'}
      label={`${said || 'more'}: further rules of line ${number}`}
    >
      {(close) => <Options {...{ line, noRequired, breaks, onChange, close }} />}
    </SentencePiece>
  );
}

function Options({
  line,
  noRequired,
  breaks,
  onChange,
  close,
}: {
  line: ExamLine;
  noRequired: string | null;
  breaks: boolean;
  onChange: (line: ExamLine) => void;
  close: () => void;
}) {
  const [text, setText] = useState(line.minutes ? pointsText(line.minutes) : '');
  const value = numberIn(text);
  const fits = text.trim() === '' || (value >= 0.25 && value <= 600);
  const box = 'flex min-h-8 items-start gap-2 py-1';
  return (
    <form
      className="w-72 space-y-1"
      onSubmit={(event) => {
        event.preventDefault();
        if (fits) close();
      }}
    >
      <label className={box}>
        <input
          type="checkbox"
          className="mt-0.5 size-4 accent-prussian"
          checked={line.required ?? false}
          disabled={noRequired !== null}
          onChange={(event) => {
            const { required: _, ...rest } = line;
            onChange(event.target.checked ? { ...rest, required: true } : rest);
          }}
        />
        <span>
          Has to be answered before the hand-in
          {noRequired && <span className="block text-sm text-ink-2">{noRequired}</span>}
        </span>
      </label>
      <label className={box}>
        <input
          type="checkbox"
          className="mt-0.5 size-4 accent-prussian"
          checked={line.newPage ?? false}
          onChange={(event) => {
            const { newPage: _, ...rest } = line;
            onChange(event.target.checked ? { ...rest, newPage: true } : rest);
          }}
        />
        <span>
          A new page begins here
          {!breaks && (
            <span className="block text-sm text-ink-2">Shown once the exam’s pages end where you put them.</span>
          )}
        </span>
      </label>
      <NumberField
        label="Minutes of its own for each question"
        hint="Empty for none. They run from the moment it is opened."
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          const next = numberIn(event.target.value);
          const { minutes: _, ...rest } = line;
          if (event.target.value.trim() === '') onChange(rest);
          else if (next >= 0.25 && next <= 600) onChange({ ...rest, minutes: next });
        }}
        problem={fits ? null : 'From 0.25 to 600 minutes.'}
      />
      <Button type="submit">Done</Button>
    </form>
  );
}
