'use client';
import { useState } from 'react';
import { pointsText } from '@/core/base/rounding';
import { Button } from '../kit/Button';
import { TextField } from '../kit/Field';
import { NumberField } from '../kit/NumberField';
import { numberIn } from '../kit/numberIn';
import { Problems, problemAt, problemsBesides } from '../kit/Problems';
import { type Command, usePerform } from '../kit/usePerform';

type Props<Value> = {
  /** What the points are of, for the field's name. */
  label: string;
  points: number | null;
  act: string;
  adjust: Command<[input: { points: number; reason: string }], Value>;
  onDone: () => void;
  onClose: () => void;
};

/** Other points with a reason: for one answer or a whole paper. */
export function AdjustForm<Value>({ label, points, act, adjust, onDone, onClose }: Props<Value>) {
  const { perform, problems, busy, setProblems } = usePerform();
  const [typed, setTyped] = useState(points === null ? '' : pointsText(points));
  const [reason, setReason] = useState('');
  const send = () => {
    const value = numberIn(typed);
    if (typed.trim() === '' || !Number.isFinite(value))
      setProblems([{ code: 'bad-input', field: 'points', message: 'Type the points as a number.' }]);
    else void perform(() => adjust({ points: value, reason }), onDone);
  };
  return (
    <form
      className="flex flex-wrap items-start gap-3 py-2"
      onSubmit={(event) => {
        event.preventDefault();
        send();
      }}
    >
      <NumberField
        label={label}
        className="w-40"
        autoComplete="off"
        autoFocus
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
        problem={problemAt(problems, 'points')}
      />
      <TextField
        label="Reason, kept with the mark"
        className="min-w-60 flex-1"
        value={reason}
        onChange={(event) => setReason(event.target.value)}
        problem={problemAt(problems, 'reason')}
      />
      <div className="flex gap-2 pt-6">
        <Button type="submit" busy={busy}>
          {act}
        </Button>
        <Button look="quiet" onClick={onClose}>
          Never mind
        </Button>
      </div>
      <Problems problems={problemsBesides(problems, ['points', 'reason'])} className="w-full" />
    </form>
  );
}
