import { Decision } from '../kit/Decision';
import type { PastedCell, TypedCells } from './useTypedCells';

type Props = {
  cells: Pick<TypedCells, 'pasted' | 'enterPasted' | 'dropPasted' | 'many'>;
  /** What a row is, and how what stands in a cell is shown. */
  row: string;
  /** Whether all columns hold numbers. */
  isNumber?: boolean;
};

/** What was pasted, cell by cell, before it is entered: what cannot be entered first, then what may not be meant. */
export function PastedCells({ cells: { pasted, enterPasted, dropPasted, many }, row, isNumber = false }: Props) {
  if (!pasted) return null;
  const { cells, outside } = pasted;
  const order = ({ reading }: PastedCell) => (reading.kind === 'wrong' ? 0 : reading.doubt ? 1 : 2);
  const right = cells.filter((one) => one.reading.kind === 'right').length;
  const wrong = cells.length - right;
  const side = isNumber ? 'text-right tabular-nums' : '';
  return (
    <Decision
      title={`${many(cells.length + outside)} pasted`}
      act={right ? `Enter ${many(right)}` : 'Close'}
      busy={false}
      onAct={right ? enterPasted : dropPasted}
      onClose={dropPasted}
    >
      {(wrong > 0 || outside > 0) && (
        <p className="text-brick">
          {[
            wrong > 0 && `${wrong === 1 ? '1 cell' : `${wrong} cells`} cannot be entered`,
            outside > 0 && `${many(outside)} found no ${row} or column`,
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
              <th className="first-letter:uppercase">{row}</th>
              <th>Column</th>
              <th className={side}>Now</th>
              <th className={side}>Then</th>
            </tr>
          </thead>
          <tbody>
            {[...cells]
              .sort((a, b) => order(a) - order(b))
              .map(({ row, column, rowName, columnName, text, now, reading }) => (
                <tr key={`${row}/${column}`} className="[&>*]:border-t [&>*]:border-line [&>*]:py-1 [&>*]:pr-3">
                  <th scope="row" className="text-left font-medium">
                    {rowName}
                  </th>
                  <td>{columnName}</td>
                  <td className={side}>{now}</td>
                  <td className={side}>
                    {reading.kind === 'wrong' ? <span className="text-brick">{reading.message}</span> : text}
                    {reading.kind === 'right' && reading.doubt && (
                      <span className="block text-saffron">{reading.doubt}</span>
                    )}
                  </td>
                </tr>
              ))}
          </tbody>
        </table>
      </section>
    </Decision>
  );
}
