import type { SheetPage } from '@/core/answerSheet/sheetLayout';
import { pieceOfRows } from '@/core/answerSheet/sheetPiece';

/** Pixels of the screen for a millimetre of a sheet. */
const zoom = 5.4;

type Props = { picture: string; page: SheetPage; row: number; said: string };

/** The piece of a sheet's picture on which one row stands. */
export function SheetPiece({ picture, page, row, said }: Props) {
  const piece = pieceOfRows(page, [row]);
  if (!piece) return null;
  return (
    <div
      role="img"
      aria-label={said}
      className="max-w-full border border-line bg-white"
      style={{
        width: piece.width * zoom,
        height: piece.height * zoom,
        backgroundImage: `url("${picture}")`,
        backgroundSize: `${page.width * zoom}px ${page.height * zoom}px`,
        backgroundPosition: `${-piece.x * zoom}px ${-piece.y * zoom}px`,
      }}
    />
  );
}
