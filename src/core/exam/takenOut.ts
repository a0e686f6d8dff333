import { counted } from '../base/words';
import { withLines } from './arrangeDesign';
import type { ExamDesign, ExamLine, ExamPart } from './design';

/** Parts and lines that were taken out of a design, with the places at which they stood, counted from 0. */
export type TakenOut = {
  parts: { at: number; part: ExamPart }[];
  lines: { partId: string; at: number; line: ExamLine }[];
};

const lineIds = (design: ExamDesign) => new Set(design.parts.flatMap((part) => part.lines.map((line) => line.id)));

/**
 * What of a design is no longer in a later one. A line that moved into another part is not taken out.
 *
 * @returns null where nothing was
 */
export function takenOut(before: ExamDesign, after: ExamDesign): TakenOut | null {
  const stay = lineIds(after);
  const partsStay = new Set(after.parts.map((part) => part.id));
  const parts = before.parts.flatMap((part, at) =>
    partsStay.has(part.id) ? [] : [{ at, part: { ...part, lines: part.lines.filter((line) => !stay.has(line.id)) } }],
  );
  const lines = before.parts.flatMap((part) =>
    partsStay.has(part.id)
      ? part.lines.flatMap((line, at) => (stay.has(line.id) ? [] : [{ partId: part.id, at, line }]))
      : [],
  );
  // A part without lines was nothing yet.
  const filled = parts.filter(({ part }) => part.lines.length > 0);
  return filled.length + lines.length > 0 ? { parts: filled, lines } : null;
}

/**
 * A design with what was taken out of it put back to its places, as far as it is not there again. A line whose part is gone
 * comes to the end of the last part.
 *
 * @returns the same design where all of it is there already
 */
export function putBack(design: ExamDesign, { parts, lines }: TakenOut): ExamDesign {
  const there = lineIds(design);
  const partsThere = new Set(design.parts.map((part) => part.id));
  const next = [...design.parts];
  for (const { at, part } of parts)
    if (!partsThere.has(part.id))
      next.splice(Math.min(at, next.length), 0, { ...part, lines: part.lines.filter((line) => !there.has(line.id)) });
  for (const { partId, at, line } of [...lines, ...linesOfPartsThere(parts, partsThere)]) {
    if (there.has(line.id)) continue;
    const found = next.findIndex((part) => part.id === partId);
    const place = found >= 0 ? found : next.length - 1;
    const part = next[place];
    if (part) next[place] = withLines(part, [line], found >= 0 ? Math.min(at, part.lines.length) : part.lines.length);
  }
  const isSame = next.length === design.parts.length && next.every((part, i) => part === design.parts[i]);
  return isSame ? design : { ...design, parts: next };
}

/** The lines of parts that stand in the design again by themselves. */
const linesOfPartsThere = (parts: TakenOut['parts'], there: ReadonlySet<string>): TakenOut['lines'] =>
  parts.flatMap(({ part }) =>
    there.has(part.id) ? part.lines.map((line, at) => ({ partId: part.id, at, line })) : [],
  );

/** What was taken out, in words. Such as `The part “Tides” with 10 lines taken out`. */
export function takenOutSaid({ parts, lines }: TakenOut): string {
  const said = [
    ...parts.map(
      ({ part }) => `The part “${part.title}”${part.lines.length ? ` with ${counted(part.lines.length, 'line')}` : ''}`,
    ),
    ...(lines.length > 0 ? [counted(lines.length, 'line')] : []),
  ];
  return `${said.join(' and ')} taken out`;
}
