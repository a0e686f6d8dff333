import type { SheetPage } from '@/core/answerSheet/sheetLayout';

/** Pixels of the screen for a millimetre of a sheet. */
const zoom = 5.4;
/** What is shown around the boxes of a row, in millimetres: its number at the left, the next rows a little. */
const around = { left: 13, right: 4, above: 3.2, below: 3.2 };

type Props = { picture: string; page: SheetPage; row: number; said: string };

/** The piece of a sheet's picture on which one row stands. */
export function SheetPiece({ picture, page, row, said }: Props) {
  const boxes = page.boxes.filter((box) => box.row === row);
  if (boxes.length === 0) return null;
  const left = Math.max(0, Math.min(...boxes.map((box) => box.x)) - around.left);
  const right = Math.min(page.width, Math.max(...boxes.map((box) => box.x)) + around.right);
  const top = Math.max(0, Math.min(...boxes.map((box) => box.y)) - around.above);
  const bottom = Math.min(page.height, Math.max(...boxes.map((box) => box.y)) + around.below);
  return (
    <div
      role="img"
      aria-label={said}
      className="max-w-full border border-line bg-white"
      style={{
        width: (right - left) * zoom,
        height: (bottom - top) * zoom,
        backgroundImage: `url("${picture}")`,
        backgroundSize: `${page.width * zoom}px ${page.height * zoom}px`,
        backgroundPosition: `${-left * zoom}px ${-top * zoom}px`,
      }}
    />
  );
}
