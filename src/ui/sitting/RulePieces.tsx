'use client';
import { useState } from 'react';
import { minute } from '@/core/base/time';
import type { BetweenAttempts } from '@/core/sitting/rules';
import { percentSaid } from '@/core/sitting/rulesSaid';
import { Button } from '../kit/Button';
import { TextField } from '../kit/Field';
import { numberIn } from '../kit/numberIn';
import { PickOne } from '../kit/PickOne';
import { SentencePiece } from '../kit/SentencePiece';
import { Tick } from '../kit/Tick';

/** A share of the credit, entered in percent or as a fraction. @example readShare('1/3') // 0.333… */
export function readShare(text: string): number {
  const fraction = /^\s*(\d+)\s*\/\s*(\d+)\s*$/.exec(text);
  if (fraction) return Number(fraction[1]) / Number(fraction[2]);
  return numberIn(text.replace('%', '')) / 100;
}

/** A piece of a sentence that is a share of the credit. */
export function SharePiece({ label, share, onSet }: { label: string; share: number; onSet: (share: number) => void }) {
  return (
    <SentencePiece says={percentSaid(share)} label={`${label}: ${percentSaid(share)}`}>
      {(close) => (
        <ShareFields
          label={label}
          share={share}
          onSet={(next) => {
            onSet(next);
            close();
          }}
        />
      )}
    </SentencePiece>
  );
}

function ShareFields({ label, share, onSet }: { label: string; share: number; onSet: (share: number) => void }) {
  const [text, setText] = useState(percentSaid(share));
  const read = readShare(text);
  const fits = read >= 0 && read <= 1;
  return (
    <form
      className="flex items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (fits) onSet(read);
      }}
    >
      <TextField
        label={label}
        className="w-44"
        value={text}
        autoFocus
        onFocus={(event) => event.target.select()}
        onChange={(event) => setText(event.target.value)}
        hint="in percent, or as a fraction such as 1/3"
        problem={fits ? null : 'A share from 0 to 100 %.'}
      />
      <Button type="submit" look="main" className="mb-6">
        Set
      </Button>
    </form>
  );
}

/** Waits as they are entered: `60`, `2 h`, `1 day`. @returns minutes; not a number where it is none of them */
export function readWait(text: string): number {
  const match = /^(\d+(?:[.,]\d+)?)\s*(min\w*|m|h\w*|d\w*)?$/i.exec(text.trim());
  if (!match) return Number.NaN;
  const unit = (match[2] ?? 'm')[0]?.toLowerCase();
  const factor = unit === 'd' ? 24 * 60 : unit === 'h' ? 60 : 1;
  return Math.round(numberIn(match[1] ?? '') * factor);
}

const waitText = (minutes: number): string =>
  minutes % 1440 === 0 ? `${minutes / 1440} d` : minutes % 60 === 0 ? `${minutes / 60} h` : `${minutes} min`;

/** What lies between attempts: nothing, waits, or the instructor. */
export function BetweenFields({
  between,
  onSet,
  onDone,
}: {
  between: BetweenAttempts;
  onSet: (between: BetweenAttempts) => void;
  onDone: () => void;
}) {
  const [text, setText] = useState(between.kind === 'wait' ? between.minutes.map(waitText).join(', ') : '1 d');
  const waits = text.split(/[,;]/).map(readWait);
  const fits = waits.length <= 10 && waits.every((one) => one >= 1 && one * minute <= 90 * 24 * 60 * minute);
  const pick = (next: BetweenAttempts) => {
    onSet(next);
    if (next.kind !== 'wait') onDone();
  };
  return (
    <div className="w-80">
      <PickOne
        legend="Between attempts"
        value={between.kind}
        options={[
          { value: 'none', says: 'one right after another' },
          { value: 'let-through', says: 'when the instructor lets the student through' },
          { value: 'wait', says: 'after a wait from the hand-in' },
        ]}
        onPick={(kind) => {
          if (kind !== 'wait') pick({ kind });
          else if (fits) onSet({ kind, minutes: waits });
        }}
      />
      <form
        className="mt-1 flex items-end gap-2 pl-7"
        onSubmit={(event) => {
          event.preventDefault();
          if (!fits) return;
          onSet({ kind: 'wait', minutes: waits });
          onDone();
        }}
      >
        <TextField
          label="Wait"
          className="w-48"
          value={text}
          onChange={(event) => setText(event.target.value)}
          hint="20 min, 4 h, 1 d; several by commas: before attempt 2, 3 and so on"
          problem={fits ? null : 'A wait such as 20 min, 4 h or 1 d, at most 90 days.'}
        />
        <Button type="submit" className="mb-12">
          Set
        </Button>
      </form>
    </div>
  );
}

/** Several that can be ticked. */
export function TicksList({
  label,
  options,
  on,
  onSet,
}: {
  label: string;
  options: { id: string; name: string }[];
  on: readonly string[];
  onSet: (on: string[]) => void;
}) {
  return (
    <fieldset>
      <legend className="mb-1 text-sm font-medium">{label}</legend>
      {options.map(({ id, name }) => (
        <Tick
          key={id}
          on={on.includes(id)}
          onChange={(ticked) => onSet(ticked ? [...on, id] : on.filter((one) => one !== id))}
        >
          {name}
        </Tick>
      ))}
    </fieldset>
  );
}

/** What is wrong with a sentence, below it. */
export const SentenceProblem = ({ text }: { text: string | null }) =>
  text ? <span className="block text-sm leading-normal text-brick">{text}</span> : null;
