'use client';
import { useEffect, useState } from 'react';
import { pointsText } from '@/core/base/rounding';
import { momentText } from '@/core/base/time';
import type { CellHistory } from '@/server/gradebook/entries';
import { Button } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { TextField } from '../kit/Field';
import { NumberField } from '../kit/NumberField';
import { numberIn } from '../kit/numberIn';
import { Sheet } from '../kit/Page';
import { Problems, problemAt, problemsBesides } from '../kit/Problems';
import { TextButton } from '../kit/TextButton';
import { TextLink } from '../kit/TextLink';
import { Tick } from '../kit/Tick';
import { usePerform } from '../kit/usePerform';

type Props = {
  base: string;
  columnId: string;
  userId: string;
  /** The entry that stands in it: with another one, its history is looked at again. */
  entryId: number;
  /** Whether the focus goes to its field: not where somebody is about to type into the cell itself. */
  takesFocus: boolean;
  onDone: (said: string) => void;
  onClose: () => void;
} & Commands<'cellHistory' | 'enterCell', 'courseId'>;

/** One cell: what stands in it, what stood in it before, and what can be entered. */
export function CellSheet({
  base,
  columnId,
  userId,
  entryId,
  takesFocus,
  cellHistory,
  enterCell,
  onDone,
  onClose,
}: Props) {
  const { perform, problems, busy, setProblems } = usePerform();
  const [cell, setCell] = useState<CellHistory | null>(null);
  const [failed, setFailed] = useState('');
  const [points, setPoints] = useState('');
  const [reason, setReason] = useState('');
  const [excused, setExcused] = useState(false);
  const [above, setAbove] = useState(false);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another entry is another history
  useEffect(() => {
    let gone = false;
    void cellHistory(columnId, userId).then((answer) => {
      if (gone) return;
      if (!answer.ok) return setFailed(answer.problems[0]?.message ?? 'This could not be read.');
      setCell(answer.value);
      setPoints(answer.value.points === null ? '' : pointsText(answer.value.points));
      setExcused(answer.value.excused);
    });
    return () => {
      gone = true;
    };
  }, [cellHistory, columnId, userId, entryId]);
  if (failed)
    return (
      <Sheet label="Cell" className="px-5 py-4">
        <p className="text-brick">{failed}</p>
        <Button onClick={onClose}>Close</Button>
      </Sheet>
    );
  if (!cell)
    return (
      <Sheet label="Cell" className="px-5 py-4">
        Looking …
      </Sheet>
    );
  const save = () => {
    const value = points.trim() === '' ? null : numberIn(points);
    if (value !== null && !Number.isFinite(value))
      return setProblems([{ code: 'bad-input', field: 'points', message: 'Give the points as a number.' }]);
    void perform(
      () =>
        enterCell(columnId, userId, {
          points: cell.kind === 'manual' && !excused ? value : null,
          excused,
          reason,
          above,
          before: cell.entryId,
        }),
      () => {
        onDone(`${cell.column} of ${cell.student} is entered.`);
        onClose();
      },
    );
  };
  return (
    <Sheet label={`${cell.column}, ${cell.student}`} className="px-5 py-4">
      <div className="flex items-baseline justify-between gap-3">
        <h2 className="text-lg">{cell.student}</h2>
        <TextButton onClick={onClose}>Close</TextButton>
      </div>
      <p className="mb-3 text-ink-2">
        {cell.column}
        {cell.kind === 'manual' && `, of ${pointsText(cell.worth)}`}
      </p>
      <form
        onKeyDown={(event) => {
          if (event.key === 'Escape') onClose();
        }}
        onSubmit={(event) => {
          event.preventDefault();
          save();
        }}
      >
        {cell.kind === 'manual' ? (
          <NumberField
            label="Points"
            className="w-32"
            autoFocus={takesFocus}
            disabled={excused}
            value={points}
            problem={problemAt(problems, 'points')}
            onFocus={(event) => event.target.select()}
            onChange={(event) => setPoints(event.target.value)}
          />
        ) : (
          <p className="mb-1 text-sm">
            Scores of a sitting come from its marks:{' '}
            <TextLink href={`${base}/marking/${columnId}/students/${userId}`}>the marked paper</TextLink>. Was the
            student ill?{' '}
            <TextLink href={`${base}/sittings/${columnId}?ill=${userId}`}>Give a make-up in the same column</TextLink>.
          </p>
        )}
        {problemAt(problems, 'above') && (
          <div role="alert" className="my-1 bg-saffron-wash px-3 py-1.5">
            <p>{problemAt(problems, 'above')}</p>
            <Tick on={above} onChange={setAbove}>
              It is meant
            </Tick>
          </div>
        )}
        <Tick on={excused} onChange={setExcused}>
          Excused: it leaves the computation
        </Tick>
        <TextField
          label="Reason"
          className="mt-1"
          value={reason}
          problem={problemAt(problems, 'reason')}
          onChange={(event) => setReason(event.target.value)}
          hint="Kept in the history of the cell."
        />
        <Problems problems={problemsBesides(problems, ['points', 'reason', 'above'])} className="mt-2" />
        <Button type="submit" look="main" disabled={busy} className="mt-3">
          Enter
        </Button>
      </form>
      <h3 className="mt-5 mb-1 font-sans text-sm font-medium">History of this cell</h3>
      {cell.changes.length === 0 ? (
        <p className="text-sm text-ink-2">Nothing so far.</p>
      ) : (
        <ol className="text-sm">
          {cell.changes.map((one) => (
            <li key={`${one.at}${one.what}`} className="border-t border-line py-1">
              <span className={one.fallen ? 'text-ink-2 line-through' : ''}>{one.what}</span>
              {one.fallen && <span className="text-ink-2"> · no longer</span>}
              <span className="block text-ink-2">
                {one.by}, {momentText(one.at, cell.timeZone)}
                {one.reason && `: ${one.reason}`}
              </span>
            </li>
          ))}
        </ol>
      )}
    </Sheet>
  );
}
