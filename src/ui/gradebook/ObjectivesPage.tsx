'use client';
import { useState } from 'react';
import { roundHalfUp } from '@/core/base/rounding';
import { counted } from '@/core/base/words';
import type { ObjectiveResults } from '@/server/gradebook/objectiveResults';
import { Find, holds } from '../kit/Find';
import { Empty, PageTitle, Sheet } from '../kit/Page';
import { RowsOutOfView, useRowsInView } from '../kit/RowTable';
import { Bar } from '../release/QuestionGridPage';

/** How a class and each student did by objective, over everything that was published. */
export function ObjectivesPage({ base, results }: { base: string; results: ObjectiveResults }) {
  const { objectives, rows } = results;
  const [find, setFind] = useState('');
  const matching = rows.filter((row) => holds(find, row.name, row.section));
  const { box, shown, before, after } = useRowsInView(matching.length);
  const pinned = 'sticky left-0 z-10 bg-inherit border-r border-line';
  return (
    <div className="min-w-0">
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
                  <Bar name={`${one.code} ${one.wording}`} percent={one.mean} of={one.asked} />
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
            <section
              ref={box}
              aria-label="Students and objectives, listed"
              // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls is scrolled by keyboard too
              tabIndex={0}
              className="max-h-[max(20rem,calc(100dvh-13rem))] overflow-auto"
            >
              <table className="border-separate border-spacing-0 text-sm">
                <thead className="sticky top-0 z-20 bg-sheet">
                  <tr className="align-bottom [&>th]:border-b [&>th]:border-line [&>th]:px-3 [&>th]:py-1.5 [&>th]:font-medium">
                    <th className={`${pinned} min-w-52 bg-sheet text-left`}>Student</th>
                    {objectives.map((one) => (
                      <th key={one.code} className="min-w-16 text-right" title={one.wording}>
                        {one.code}
                        <span className="sr-only"> {one.wording}</span>
                      </th>
                    ))}
                  </tr>
                </thead>
                <tbody>
                  <RowsOutOfView height={before} />
                  {shown.map((index) => {
                    const row = matching[index] as (typeof matching)[number];
                    return (
                      <tr key={row.userId} className="h-8 bg-sheet [&>*]:border-b [&>*]:border-line [&>*]:px-3">
                        <th scope="row" className={`${pinned} text-left font-medium whitespace-nowrap`}>
                          {row.name}
                        </th>
                        {row.percents.map((percent, i) => (
                          <td
                            key={objectives[i]?.code}
                            className={`text-right tabular-nums ${percent !== null && percent < 50 ? 'bg-brick-wash text-brick' : ''}`}
                          >
                            {percent === null ? '' : roundHalfUp(percent, 0)}
                          </td>
                        ))}
                      </tr>
                    );
                  })}
                  <RowsOutOfView height={after} />
                </tbody>
              </table>
            </section>
          </Sheet>
        </>
      )}
    </div>
  );
}
