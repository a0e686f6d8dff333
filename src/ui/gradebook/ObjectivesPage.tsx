'use client';
import { useState } from 'react';
import { roundHalfUp } from '@/core/base/rounding';
import { counted } from '@/core/base/words';
import type { ObjectiveResults } from '@/server/gradebook/objectiveResults';
import { Find, holds } from '../kit/Find';
import { ColumnsOutOfView, Grid, gridColumn, gridRow, pinned, useGridInView } from '../kit/Grid';
import { Empty, PageFrame, PageTitle, Sheet } from '../kit/Page';
import { ShareBar } from '../kit/ShareBar';

/** In pixels. */
const columnWidth = 80;

/** How a class and each student did by objective, over everything that was published. */
export function ObjectivesPage({ base, results }: { base: string; results: ObjectiveResults }) {
  const { objectives, rows } = results;
  const [find, setFind] = useState('');
  const matching = rows.filter((row) => holds(find, row.name, row.section));
  const grid = useGridInView({ rows: matching.length, columns: objectives.length, rowHeight: 32, columnWidth });
  return (
    <PageFrame>
      <PageTitle
        title="Results by objective"
        back={{ href: `${base}/gradebook`, name: 'Gradebook' }}
        note="Points earned of those of all questions aligned to an objective, over what was published"
      />
      {objectives.length === 0 ? (
        <Empty title="Nothing to say yet">
          Align questions to objectives in their sheets; results stand here once something is published.
        </Empty>
      ) : (
        <>
          <Sheet label="Objectives" className="mb-4 px-5 py-3">
            <ol className="text-sm">
              {objectives.map((one) => (
                <li key={one.code} className="border-t border-line py-1 first:border-t-0">
                  <ShareBar name={`${one.code} ${one.wording}`} percent={one.mean} of={one.asked} />
                </li>
              ))}
            </ol>
          </Sheet>
          <Sheet label="Students and objectives">
            <Find
              label="Find students"
              placeholder="Find by name or section"
              value={find}
              onChange={setFind}
              said={counted(matching.length, 'student')}
            />
            <Grid
              label="Students and objectives, listed"
              grid={grid}
              className="text-sm [&_th]:px-3 [&_td]:px-3"
              head={
                <>
                  <th className={`${pinned} w-52 min-w-52 bg-sheet text-left`}>Student</th>
                  <ColumnsOutOfView count={grid.from} width={columnWidth} />
                  {objectives.slice(grid.from, grid.to).map((one) => (
                    <th key={one.code} className={`${gridColumn} truncate text-right`} title={one.wording}>
                      {one.code}
                      <span className="sr-only"> {one.wording}</span>
                    </th>
                  ))}
                  <ColumnsOutOfView count={objectives.length - grid.to} width={columnWidth} />
                </>
              }
            >
              {(index) => {
                const row = matching[index] as (typeof matching)[number];
                return (
                  <tr key={row.userId} className={`${gridRow} bg-sheet [&>*]:border-b [&>*]:border-line`}>
                    <th scope="row" className={`${pinned} truncate text-left whitespace-nowrap`} title={row.name}>
                      {row.name}
                    </th>
                    <ColumnsOutOfView count={grid.from} width={columnWidth} />
                    {row.percents.slice(grid.from, grid.to).map((percent, at) => (
                      <td
                        key={objectives[grid.from + at]?.code}
                        className={`text-right tabular-nums ${percent !== null && percent < 50 ? 'bg-brick-wash text-brick' : ''}`}
                      >
                        {percent === null ? '' : roundHalfUp(percent, 0)}
                      </td>
                    ))}
                    <ColumnsOutOfView count={objectives.length - grid.to} width={columnWidth} />
                  </tr>
                );
              }}
            </Grid>
          </Sheet>
        </>
      )}
    </PageFrame>
  );
}
