'use client';
import type { NumberGrid } from '@/core/answerSheet/questionRows';
import { counted, listed } from '@/core/base/words';
import { NumberField } from '../kit/NumberField';
import { Tick } from '../kit/Tick';

const signs = {
  sign: 'a minus',
  point: 'a point',
  fraction: 'a fraction bar',
  exponent: 'E for powers of ten',
} as const;
const names = Object.keys(signs) as (keyof typeof signs)[];

/** Grids as they are asked for: the columns as they are typed. */
export type TypedGrid = Omit<NumberGrid, 'columns'> & { columns: string };

type Props = { grid: TypedGrid; problem: string | null; onChange: (grid: TypedGrid) => void };

/** How the grids are into which numbers are filled: how wide, and with which signs besides figures. */
export function GridFields({ grid, problem, onChange }: Props) {
  const having = names.filter((name) => grid[name]).map((name) => signs[name]);
  return (
    <details className="mt-3" open={problem !== null || undefined}>
      <summary className="text-prussian underline underline-offset-4">
        Grids for numbers: {counted(Number(grid.columns), 'column')}
        {having.length > 0 && `, with ${listed(having)}`}
      </summary>
      <div className="mt-2 flex flex-wrap items-start gap-4">
        <NumberField
          label="Columns, up to 10"
          whole
          className="w-32"
          value={grid.columns}
          problem={problem}
          onChange={(event) => onChange({ ...grid, columns: event.target.value })}
        />
        <fieldset>
          <legend className="text-sm text-ink-2">Besides figures, a column has</legend>
          {names.map((name) => (
            <Tick key={name} on={grid[name]} onChange={(on) => onChange({ ...grid, [name]: on })}>
              {signs[name]}
            </Tick>
          ))}
        </fieldset>
      </div>
    </details>
  );
}
