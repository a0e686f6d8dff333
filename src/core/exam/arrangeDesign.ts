import type { ExamDesign, ExamLine, ExamPart } from './design';

/** Where a line goes: before the line that now stands at this place of a part, or behind its last one. */
type LinePlace = { partId: string; at: number };

/** In a choose-part all questions carry the points of its first line, and none is required: so does a line that comes in. */
const fitting = (part: ExamPart, line: ExamLine): ExamLine => {
  if (!part.choose) return line;
  const { required: _, ...rest } = line;
  return { ...rest, points: part.lines[0]?.points ?? line.points };
};

/** Puts lines into a part at a place, fitted to it. */
export function withLines(part: ExamPart, lines: readonly ExamLine[], at = part.lines.length): ExamPart {
  const next = [...part.lines];
  next.splice(at, 0, ...lines.map((line) => fitting(part, line)));
  return { ...part, lines: next };
}

/** Moves a line within its part or into another; the design stays the same when there is nothing to move. */
export function moveLine(design: ExamDesign, lineId: string, to: LinePlace): ExamDesign {
  const line = design.parts.flatMap((part) => part.lines).find((one) => one.id === lineId);
  if (!line || !design.parts.some((part) => part.id === to.partId)) return design;
  const without = design.parts.map((part) => ({ ...part, lines: part.lines.filter((one) => one.id !== lineId) }));
  return {
    ...design,
    parts: without.map((part) => (part.id === to.partId ? withLines(part, [line], to.at) : part)),
  };
}

/** Where a line goes when it moves one up or down: past the ends of its part into the neighbouring one. */
export function neighbourPlace(design: ExamDesign, lineId: string, by: 1 | -1): LinePlace | null {
  const p = design.parts.findIndex((part) => part.lines.some((line) => line.id === lineId));
  const part = design.parts[p];
  if (!part) return null;
  const at = part.lines.findIndex((line) => line.id === lineId) + by;
  if (at >= 0 && at < part.lines.length) return { partId: part.id, at };
  const next = design.parts[p + by];
  return next ? { partId: next.id, at: by > 0 ? 0 : next.lines.length } : null;
}

/** Moves a part to a place among the parts. */
export function movePart(design: ExamDesign, partId: string, at: number): ExamDesign {
  const part = design.parts.find((one) => one.id === partId);
  if (!part) return design;
  const parts = design.parts.filter((one) => one.id !== partId);
  parts.splice(Math.min(Math.max(at, 0), parts.length), 0, part);
  return { ...design, parts };
}

/**
 * Makes a part a choose-part, or one of which all is answered again. Its lines then carry the points of the first, and
 * none is required.
 */
export function choosing(part: ExamPart, choose: ExamPart['choose']): ExamPart {
  const { choose: _, ...rest } = part;
  if (!choose) return rest;
  const chosen = { ...rest, choose };
  return { ...chosen, lines: part.lines.map((line) => fitting(chosen, line)) };
}

/** Changes one line of a part; in a choose-part its points become those of all. */
export function withLine(part: ExamPart, line: ExamLine): ExamPart {
  return {
    ...part,
    lines: part.lines.map((one) =>
      one.id === line.id ? line : part.choose ? ({ ...one, points: line.points } as ExamLine) : one,
    ),
  };
}
