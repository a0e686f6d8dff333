import { minute } from '../base/time';
import type { ChooseRule, ExamDesign, ExamLine, ExamPart } from './design';

/** Where a slot of a stored paper comes from. */
type SlotPlace = { partId: string; lineId: string; passageId?: string | null };

/** How many items of an off-screen exam stand on one page of the answer sheet. */
const itemsOnPage = 50;

/** What a design says about one slot of a paper. */
export type SlotRules = {
  /** The page it stands on, from 0. */
  page: number;
  required: boolean;
  /** The time of its own in milliseconds, before extra time; null where it has none. */
  limit: number | null;
};

/**
 * What holds for each slot of a paper, in its order. Pages: one question a page; or all on one; or a new page before the
 * first slot of every line that begins one. Within a passage no page ends, and in a shuffled part only before its first
 * question, since nobody can say beforehand what would follow a break. Items of an off-screen exam stand
 * {@link itemsOnPage} to a page.
 */
export function paperRules(design: ExamDesign, slots: readonly SlotPlace[]): SlotRules[] {
  const parts = new Map(design.parts.map((part) => [part.id, part]));
  const lines = new Map(design.parts.flatMap((part) => part.lines.map((line) => [line.id, line] as const)));
  const rule = design.pages ?? 'each';
  if (design.offScreen)
    return slots.map((_, i) => ({ page: Math.floor(i / itemsOnPage), required: false, limit: null }));
  let page = 0;
  return slots.map((slot, i) => {
    const before = slots[i - 1];
    const line = lines.get(slot.lineId);
    if (before && (rule === 'each' || (rule === 'breaks' && breaksBefore(slot, before, parts.get(slot.partId), line))))
      page += 1;
    return { page, required: line?.required ?? false, limit: line?.minutes ? line.minutes * minute : null };
  });
}

function breaksBefore(slot: SlotPlace, before: SlotPlace, part: ExamPart | undefined, line: ExamLine | undefined) {
  if (slot.passageId && slot.passageId === before.passageId) return false;
  if (part?.order === 'shuffled') return slot.partId !== before.partId && part.lines[0]?.newPage === true;
  return line?.newPage === true && slot.lineId !== before.lineId;
}

/** The choose-parts of a design by id. */
export const choosePartsOf = (design: ExamDesign): Map<string, ChooseRule> =>
  new Map(design.parts.flatMap((part) => (part.choose ? [[part.id, part.choose] as const] : [])));

/**
 * The end of a question's own time: from the moment it was opened, longer by the student's extra percent, and never past
 * the deadline of the attempt.
 *
 * @param limit in milliseconds
 * @param openedAt null while it has not been opened
 * @returns null while it runs not yet
 */
export function questionDeadline(
  limit: number,
  extraPercent: number,
  openedAt: number | null,
  deadline: number | null,
): number | null {
  if (openedAt === null) return null;
  const own = openedAt + limit * (1 + extraPercent / 100);
  return deadline === null ? own : Math.min(own, deadline);
}
