'use client';
import { memo, useRef, useState } from 'react';
import { pointsText } from '@/core/base/rounding';
import type { ExamDesign } from '@/core/exam/design';
import type { PlanCheck } from '@/core/exam/planCheck';
import { type SpreadCell, type SpreadRow, spreadColumns } from '@/core/exam/pointSpread';
import { Button } from '../kit/Button';
import { SelectField } from '../kit/Field';
import { FileLink } from '../kit/FileLink';
import { NumberField } from '../kit/NumberField';
import { numberIn } from '../kit/numberIn';
import { Sheet } from '../kit/Page';
import { SentencePiece } from '../kit/SentencePiece';
import { sameSaid } from '../kit/sameSaid';
import type { Sources } from './PoolPieces';

type Props = {
  design: ExamDesign;
  check: PlanCheck;
  sources: Sources;
  mayChange: boolean;
  onChange: (design: ExamDesign) => void;
};

type Kind = 'category' | 'objective';
const headings = { easy: 'easy', medium: 'medium', hard: 'hard', none: 'not set' };
const round1 = (value: number) => pointsText(Math.round(value * 10) / 10);

/** How the points spread over categories or objectives and difficulty. A cell leads to its lines; a row can carry a target. */
export const SpreadTable = memo(function SpreadTable({ design, check, sources, mayChange, onChange }: Props) {
  const { spread } = check;
  /** Rows are drawn anew only when they say something else: what they do reaches the design as it stands then. */
  const now = useRef(design);
  now.current = design;
  const designNow = () => now.current;
  const [kind, setKind] = useState<Kind>('category');
  const rows = kind === 'category' ? spread.byCategory : spread.byObjective;
  const order = kind === 'category' ? sources.categories : sources.objectives;
  const place = (id: string | null) =>
    id === null ? Number.MAX_SAFE_INTEGER : order.findIndex((one) => one.id === id);
  const named = (id: string | null): string => {
    if (id === null) return kind === 'category' ? 'no category' : 'no objective';
    if (kind === 'category') return sources.categories.find((one) => one.id === id)?.name ?? 'a category that is gone';
    const objective = sources.objectives.find((one) => one.id === id);
    return objective ? `${objective.code} ${objective.wording}` : 'an objective that is gone';
  };
  // A target that no line meets yet has a row too: it is what is still to be written or drawn.
  const missing = (design.targets ?? [])
    .filter((target) => target.of === kind && !rows.some((row) => row.id === target.id))
    .map((target): SpreadRow => ({ id: target.id, points: 0, cells: emptyCells }));
  const shown = [...rows, ...missing].sort((a, b) => place(a.id) - place(b.id));
  const further = order.filter(
    (one) => !shown.some((row) => row.id === one.id) && !(kind === 'category' && named(one.id).includes(' › ')),
  );
  const used = spreadColumns.filter((column) => shown.some((row) => row.cells[column].points > 0));
  if (spread.total === 0) return null;
  const setTarget = (id: string, percent: number | null) => {
    const design = now.current;
    const others = (design.targets ?? []).filter((one) => one.of !== kind || one.id !== id);
    const { targets: _, ...rest } = design;
    const targets = percent === null ? others : [...others, { of: kind, id, percent }];
    onChange(targets.length ? { ...rest, targets } : rest);
  };
  return (
    <Sheet label="How the points spread" className="px-4 py-3">
      <div className="flex flex-wrap items-baseline gap-4">
        <h2 className="text-lg">How the points spread</h2>
        {(['category', 'objective'] as const).map((one) => (
          <label key={one} className="flex items-center gap-1.5 text-sm">
            <input
              type="radio"
              name="spread-by"
              className="accent-prussian"
              checked={kind === one}
              onChange={() => setKind(one)}
            />
            by {one}
          </label>
        ))}
      </div>
      <div className="mt-2 overflow-x-auto">
        <table className="w-full text-sm tabular-nums">
          <caption className="sr-only">Expected points of a paper by {kind} and difficulty</caption>
          <thead>
            <tr className="border-b border-line text-left text-ink-2">
              <th className="py-1 pr-3 font-normal">{kind === 'category' ? 'Category' : 'Objective'}</th>
              {used.map((column) => (
                <th key={column} className="py-1 pr-3 text-right font-normal">
                  {headings[column]}
                </th>
              ))}
              <th className="py-1 pr-3 text-right font-normal">points</th>
              <th className="py-1 pr-3 text-right font-normal">share</th>
              <th className="py-1 text-right font-normal">target</th>
            </tr>
          </thead>
          <tbody>
            {shown.map((row) => (
              <Row
                key={row.id ?? 'none'}
                row={row}
                name={named(row.id)}
                used={used}
                total={spread.total}
                target={design.targets?.find((one) => one.of === kind && one.id === row.id)?.percent ?? null}
                mayChange={mayChange}
                designNow={designNow}
                onTarget={(percent) => row.id !== null && setTarget(row.id, percent)}
              />
            ))}
          </tbody>
        </table>
      </div>
      {mayChange && further.length > 0 && (
        <SelectField
          quiet
          label={`A target for another ${kind}`}
          className="mt-2 w-72"
          value=""
          onChange={(event) => event.target.value && setTarget(event.target.value, 0)}
        >
          <option value="">A target for another {kind} …</option>
          {further.map((one) => (
            <option key={one.id} value={one.id}>
              {named(one.id)}
            </option>
          ))}
        </SelectField>
      )}
      <p className="mt-1 text-sm text-ink-2">
        Expected points of a paper. {kind === 'objective' && 'A question counts with each of its objectives. '}A target
        is met within 2 in 100.
      </p>
    </Sheet>
  );
}, sameSaid);

const none: SpreadCell = { points: 0, lineIds: [] };
const emptyCells = { easy: none, medium: none, hard: none, none };

type RowProps = {
  row: SpreadRow;
  name: string;
  used: readonly (keyof SpreadRow['cells'])[];
  /** The expected points of a paper. */
  total: number;
  /** The share that is wanted, in %; null for none. */
  target: number | null;
  mayChange: boolean;
  designNow: () => ExamDesign;
  onTarget: (percent: number | null) => void;
};

const Row = memo(function Row({ row, name, used, total, target, mayChange, designNow, onTarget }: RowProps) {
  const share = (row.points / total) * 100;
  const off = target === null ? 0 : share - target;
  return (
    <tr className="border-b border-line">
      <th scope="row" className="py-1 pr-3 text-left font-normal">
        {name}
      </th>
      {used.map((column) => (
        <td key={column} className="py-1 pr-3 text-right">
          <Cell cell={row.cells[column]} designNow={designNow} label={`${name}, ${headings[column]}`} />
        </td>
      ))}
      <td className="py-1 pr-3 text-right font-medium">{round1(row.points)}</td>
      <td className="py-1 pr-3 text-right">{round1(share)} %</td>
      <td className="py-1 text-right whitespace-nowrap">
        {row.id !== null && mayChange ? (
          <SentencePiece
            quiet={target === null}
            says={target === null ? 'set' : `${round1(target)} %`}
            label={target === null ? `Set the target of ${name}` : `${round1(target)} %: target of ${name}`}
          >
            {(close) => <TargetField percent={target} onSet={onTarget} onDone={close} />}
          </SentencePiece>
        ) : (
          target !== null && `${round1(target)} %`
        )}
        {target !== null && (
          <span className={Math.abs(off) <= 2 ? ' text-pine' : ' text-saffron'}>
            {Math.abs(off) <= 2 ? ' met' : ` ${round1(Math.abs(off))} too ${off > 0 ? 'many' : 'few'}`}
          </span>
        )}
      </td>
    </tr>
  );
}, sameSaid);

/** The points of a cell; pressed, it names the lines they come from. */
function Cell({ cell, designNow, label }: { cell: SpreadCell; designNow: () => ExamDesign; label: string }) {
  if (cell.points === 0) return <span className="text-ink-2">–</span>;
  return (
    <SentencePiece says={round1(cell.points)} label={`${label}: ${round1(cell.points)} points`}>
      {(close) => (
        <ul>
          {designNow().parts.flatMap((part, p) =>
            part.lines.map(
              (line, l) =>
                cell.lineIds.includes(line.id) && (
                  <li key={line.id}>
                    <FileLink href={`#line-${line.id}`} onClick={close}>
                      Line {p + 1}.{l + 1}, {part.title}
                    </FileLink>
                  </li>
                ),
            ),
          )}
        </ul>
      )}
    </SentencePiece>
  );
}

function TargetField({
  percent,
  onSet,
  onDone,
}: {
  percent: number | null;
  onSet: (percent: number | null) => void;
  onDone: () => void;
}) {
  const [text, setText] = useState(percent === null ? '' : pointsText(percent));
  const value = numberIn(text);
  const fits = text.trim() === '' || (value >= 0 && value <= 100);
  return (
    <form
      className="flex items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (!fits) return;
        onSet(text.trim() === '' ? null : value);
        onDone();
      }}
    >
      <NumberField
        label="Share of the points in %, empty for none"
        className="w-48"
        autoFocus
        value={text}
        onChange={(event) => setText(event.target.value)}
        problem={fits ? null : 'From 0 to 100.'}
      />
      <Button type="submit">Done</Button>
    </form>
  );
}
