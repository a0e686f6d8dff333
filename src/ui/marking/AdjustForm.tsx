'use client';
import { pointsText } from '@/core/base/rounding';
import { useWritten } from '../keep/useWritten';
import { Button } from '../kit/Button';
import { TextField } from '../kit/Field';
import { NumberField } from '../kit/NumberField';
import { numberIn } from '../kit/numberIn';
import { Problems, problemAt, problemsBesides } from '../kit/Problems';
import { type Command, usePerform } from '../kit/usePerform';

type Props<Value> = {
  /** Which answer it is about, among those of its page; empty for the whole paper. */
  about?: string;
  /** What the points are of, for the field's name. */
  label: string;
  points: number | null;
  act: string;
  adjust: Command<[input: { points: number; reason: string }], Value>;
  onDone: () => void;
  onClose: () => void;
};

/** Other points with a reason: for one answer or a whole paper. */
export function AdjustForm<Value>({ about = '', label, points, act, adjust, onDone, onClose }: Props<Value>) {
  const { perform, problems, busy, setProblems } = usePerform();
  const { value, change, done } = useWritten(
    `adjustment/${about}`,
    (entered) => (entered.reason.trim() ? 'An adjustment of points' : null),
    { typed: points === null ? '' : pointsText(points), reason: '' },
  );
  const { typed, reason } = value;
  const send = () => {
    const given = numberIn(typed);
    if (typed.trim() === '' || !Number.isFinite(given))
      setProblems([{ code: 'bad-input', field: 'points', message: 'Type the points as a number.' }]);
    else
      void perform(
        () => adjust({ points: given, reason }),
        () => {
          done();
          onDone();
        },
      );
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
        onChange={(event) => change({ typed: event.target.value, reason })}
        problem={problemAt(problems, 'points')}
      />
      <TextField
        label="Reason, told to the student"
        className="min-w-60 flex-1"
        value={reason}
        onChange={(event) => change({ typed, reason: event.target.value })}
        problem={problemAt(problems, 'reason')}
      />
      <div className="flex gap-2 pt-6">
        <Button type="submit" busy={busy}>
          {act}
        </Button>
        <Button
          look="quiet"
          onClick={() => {
            done();
            onClose();
          }}
        >
          Never mind
        </Button>
      </div>
      <Problems problems={problemsBesides(problems, ['points', 'reason'])} className="w-full" />
    </form>
  );
}
