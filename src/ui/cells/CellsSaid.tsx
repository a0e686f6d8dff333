import { Problems } from '../kit/Problems';
import { TextButton } from '../kit/TextButton';
import type { TypedCells } from './useTypedCells';

/** What was entered last, with the way to take it back, in a line that is always there: the rows below stay where they are. */
export const CellsSaid = ({
  cells,
  room,
}: {
  cells: Pick<TypedCells, 'said' | 'mayUndo' | 'undo'>;
  /** How wide it is at least, as a class. */
  room: string;
}) => (
  <span role="status" className={`flex min-h-5 flex-1 gap-3 text-sm ${room}`}>
    <span className="truncate" title={cells.said}>
      {cells.said}
    </span>
    {cells.mayUndo && <TextButton onClick={cells.undo}>Undo</TextButton>}
  </span>
);

/** What was typed and the server does not have, with the ways out of that; or why something was not taken back. */
export function CellsUnsent({
  cells: { unsent, many, problems, notTakenBack, sendAgain, giveUp },
}: {
  cells: Pick<TypedCells, 'unsent' | 'many' | 'problems' | 'notTakenBack' | 'sendAgain' | 'giveUp'>;
}) {
  if (unsent === 0) return <Problems problems={notTakenBack} className="mb-3" />;
  const it = unsent === 1 ? 'it' : 'them';
  return (
    <section aria-label="Not saved" className="mb-3 border-l-[3px] border-brick bg-brick-wash px-4 py-2">
      <p>
        {many(unsent)} typed here {unsent === 1 ? 'is' : 'are'} not saved, and kept in this browser.
      </p>
      <Problems problems={problems} />
      <p className="mt-1 flex gap-4">
        <TextButton onClick={sendAgain}>Save {it}</TextButton>
        <TextButton onClick={giveUp}>Give {it} up</TextButton>
      </p>
    </section>
  );
}
