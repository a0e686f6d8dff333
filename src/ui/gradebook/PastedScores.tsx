import { pointsText } from '@/core/base/rounding';
import { counted } from '@/core/base/words';
import { aboveWorth } from '@/core/gradebook/typedScores';
import type { ColumnShown } from '@/server/gradebook/gradebook';
import { Decision } from '../kit/Decision';
import type { Pasted } from './useScores';

type Props = { pasted: Pasted; columns: readonly ColumnShown[]; onEnter: () => void; onClose: () => void };

/** What was pasted, cell by cell, before it is entered: what cannot be read first, then what is more than a column is worth. */
export function PastedScores({ pasted: { rows, cells, outside }, columns, onEnter, onClose }: Props) {
  const lines = cells.map((cell) => {
    const column = columns[cell.column];
    const before = rows[cell.row]?.points[cell.column] ?? null;
    const wrong = cell.score.kind === 'wrong' ? cell.score.message : null;
    const above = cell.score.kind === 'points' ? aboveWorth(cell.score.points, column?.worth ?? 0) : null;
    return { ...cell, name: rows[cell.row]?.name ?? '', title: column?.title ?? '', before, wrong, above };
  });
  const order = (line: (typeof lines)[number]) => (line.wrong ? 0 : line.above ? 1 : 2);
  const right = lines.filter((line) => line.wrong === null).length;
  const wrong = lines.length - right;
  return (
    <Decision
      title={`${counted(cells.length + outside, 'score')} pasted`}
      act={right ? `Enter ${counted(right, 'score')}` : 'Close'}
      busy={false}
      onAct={right ? onEnter : onClose}
      onClose={onClose}
    >
      {(wrong > 0 || outside > 0) && (
        <p className="text-brick">
          {[
            wrong > 0 && `${counted(wrong, 'cell')} cannot be entered`,
            outside > 0 && `${counted(outside, 'score')} found no student or column`,
          ]
            .filter(Boolean)
            .join('; ')}
          .
        </p>
      )}
      <section
        aria-label="What was pasted"
        // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls is scrolled by keyboard too
        tabIndex={0}
        className="max-h-80 overflow-y-auto"
      >
        <table className="w-full text-sm">
          <thead>
            <tr className="text-left text-ink-2 [&>*]:pr-3 [&>*]:font-normal">
              <th>Student</th>
              <th>Column</th>
              <th className="text-right">Now</th>
              <th className="text-right">Then</th>
            </tr>
          </thead>
          <tbody>
            {lines
              .sort((a, b) => order(a) - order(b))
              .map((line) => (
                <tr
                  key={`${line.row}/${line.column}`}
                  className="[&>*]:border-t [&>*]:border-line [&>*]:py-1 [&>*]:pr-3"
                >
                  <th scope="row" className="text-left font-medium">
                    {line.name}
                  </th>
                  <td>{line.title}</td>
                  <td className="text-right tabular-nums">{line.before === null ? '' : pointsText(line.before)}</td>
                  <td className="text-right tabular-nums">
                    {line.wrong ? <span className="text-brick">{line.wrong}</span> : line.text}
                    {line.above && <span className="block text-saffron">{line.above}</span>}
                  </td>
                </tr>
              ))}
          </tbody>
        </table>
      </section>
    </Decision>
  );
}
