// @vitest-environment jsdom

import { render, screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { seenIn } from '../testing/dom';
import { ColumnsOutOfView, Grid, useGridInView } from './Grid';

const size = { rowHeight: 32, columnWidth: 50 };

const named = (name: string, count: number) => Array.from({ length: count }, (_, i) => `${name} ${i}`);

function Table({ rows, columns }: { rows: number; columns: number }) {
  const grid = useGridInView({ rows, columns, ...size });
  const rowNames = named('row', rows);
  const line = (
    <>
      <ColumnsOutOfView count={grid.from} width={size.columnWidth} />
      {named('column', columns)
        .slice(grid.from, grid.to)
        .map((name) => (
          <td key={name} data-column>
            {name}
          </td>
        ))}
      <ColumnsOutOfView count={columns - grid.to} width={size.columnWidth} />
    </>
  );
  return (
    <Grid label="Many by many" grid={grid} head={line} foot={<tr>{line}</tr>}>
      {(index) => (
        <tr key={rowNames[index]} data-row>
          {line}
        </tr>
      )}
    </Grid>
  );
}

/** The rows of a rendered grid, and the width in pixels that each of its lines stands for. */
function drawn() {
  const table = screen.getByRole('table') as HTMLTableElement;
  const rows = [...table.querySelectorAll('[data-row]')];
  const widthOf = (line: Element | null | undefined) =>
    [...(line?.children ?? [])].reduce(
      (sum, cell) =>
        sum +
        (cell.hasAttribute('data-column') ? size.columnWidth : Number.parseInt((cell as HTMLElement).style.width, 10)),
      0,
    );
  const lines = [table.tHead?.rows[0], rows[0], table.tFoot?.rows[0]];
  const heights = [...table.tBodies[0]!.rows].map((row) =>
    row.hasAttribute('data-row') ? size.rowHeight : Number.parseInt(row.querySelector('td')?.style.height ?? '0', 10),
  );
  return {
    rows,
    cells: table.querySelectorAll('[data-column]').length,
    widths: lines.map(widthOf),
    height: heights.reduce((a, b) => a + b, 0),
  };
}

describe('a grid of many by many', () => {
  it('is drawn whole while it is small', () => {
    render(<Table rows={80} columns={16} />);
    expect(drawn()).toMatchObject({ cells: 82 * 16, widths: [800, 800, 800], height: 80 * 32 });
    expect(drawn().rows).toHaveLength(80);
  });

  it('draws of a large one only what is in view, and stands for the rest in its true size', () => {
    seenIn(1_000, 700);
    render(<Table rows={500} columns={60} />);
    const { rows, cells, widths, height } = drawn();
    // 700 × 1,000 pixels hold 22 rows and 20 columns; a few more wait beside them.
    expect(rows.length).toBeGreaterThanOrEqual(22);
    expect(rows.length).toBeLessThan(40);
    expect(cells / (rows.length + 2)).toBeGreaterThanOrEqual(20);
    expect(cells / (rows.length + 2)).toBeLessThan(30);
    expect(widths).toEqual([3_000, 3_000, 3_000]);
    expect(height).toBe(500 * 32);
  });
});
