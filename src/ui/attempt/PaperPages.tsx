import type { QuestionSign } from '@/core/attempt/paperRuler';
import type { TakingSlot } from './opening';

/** The pages of a long paper, with how much of each is answered. */
export function PaperPages({
  slots,
  page,
  signs,
  onTurn,
}: {
  slots: readonly TakingSlot[];
  page: number;
  signs: readonly QuestionSign[];
  onTurn: (page: number) => void;
}) {
  const pages: { page: number; from: number; to: number; answered: number }[] = [];
  slots.forEach((slot, i) => {
    const last = pages.at(-1);
    const answered = signs[i]?.answered ? 1 : 0;
    if (last?.page === slot.page) {
      last.to = slot.number;
      last.answered += answered;
    } else pages.push({ page: slot.page, from: slot.number, to: slot.number, answered });
  });
  return (
    <label className="mb-1 flex items-baseline gap-2 text-base">
      Page
      <select
        className="min-h-9 border border-edge bg-sheet px-2"
        value={page}
        onChange={(event) => onTurn(Number(event.target.value))}
      >
        {page < 0 && <option value={-1}>before the hand-in</option>}
        {pages.map((one) => (
          <option key={one.page} value={one.page}>
            {one.from} to {one.to}: {one.answered} of {one.to - one.from + 1} answered
          </option>
        ))}
      </select>
    </label>
  );
}
