import type { ExamDesign, ExamPart } from './design';

/** How many questions that an exam can put on a paper have choices, and how many of those allow shuffling. */
export type ShuffleCount = { withChoices: number; allowing: number };

/** What will happen to the order of a part's questions; the part decides it. */
export function questionOrderSaid(part: ExamPart): string {
  const draws = part.lines.some((line) => line.kind === 'draw' && line.count > 1);
  if (part.order === 'shuffled')
    return `In another order on each paper${part.lines.some((line) => line.kind === 'passage') ? '; those of a passage stay together' : ''}.`;
  return `In the order of the lines${draws ? '; what one draw takes, in the order drawn' : ''}.`;
}

/**
 * What will happen to the order of choices, and which level decides it.
 *
 * @param counts null while it is not known
 */
export function choiceOrderSaid(design: ExamDesign, counts: ShuffleCount | null): string {
  if (design.choices === 'as-written') return 'The exam decides: no choices are shuffled, whatever a question allows.';
  if (!counts || counts.withChoices === 0)
    return 'Each question decides whether its choices are shuffled; pinned ones stay in place.';
  if (counts.allowing === counts.withChoices)
    return `Each question decides: all ${counts.withChoices} with choices allow shuffling; pinned ones stay in place.`;
  return `Each question decides: ${counts.allowing} of ${counts.withChoices} with choices allow shuffling; pinned ones stay in place.`;
}
