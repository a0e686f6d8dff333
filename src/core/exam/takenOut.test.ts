import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { ExamDesign, ExamLine } from './design';
import { putBack, takenOut, takenOutSaid } from './takenOut';

const line = (id: string): ExamLine => ({ kind: 'fixed', id, questionId: `q${id}`, points: 1 });
const design = (...parts: [string, string[]][]): ExamDesign =>
  ({
    parts: parts.map(([id, lines]) => ({ id, title: id.toUpperCase(), order: 'as-written', lines: lines.map(line) })),
  }) as unknown as ExamDesign;
const shown = ({ parts }: ExamDesign) =>
  parts.map((part) => `${part.id}: ${part.lines.map((one) => one.id).join(' ')}`);

const before = design(['a', ['1', '2', '3']], ['b', ['4', '5']]);

describe('what was taken out of an exam', () => {
  it('is a part with its lines, or lines, and comes back to its place', () => {
    const withoutPart = design(['a', ['1', '2', '3']]);
    const part = takenOut(before, withoutPart);
    expect(part && takenOutSaid(part)).toBe('The part “B” with 2 lines taken out');
    expect(part && shown(putBack(withoutPart, part))).toEqual(shown(before));
    const withoutLines = design(['a', ['2']], ['b', ['4', '5']]);
    const lines = takenOut(before, withoutLines);
    expect(lines && takenOutSaid(lines)).toBe('2 lines taken out');
    expect(lines && shown(putBack(withoutLines, lines))).toEqual(shown(before));
  });

  it('is nothing where lines only moved, and never doubles a line that stands in the exam', () => {
    expect(takenOut(before, design(['b', ['5', '1', '4']], ['a', ['3', '2']]))).toBeNull();
    const moved = design(['a', ['4', '1']]);
    const taken = takenOut(before, moved);
    expect(taken && takenOutSaid(taken)).toBe('The part “B” with 1 line and 2 lines taken out');
    expect(taken && shown(putBack(moved, taken))).toEqual(['a: 4 1 2 3'.replace('4 1 2 3', '4 2 3 1'), 'b: 5']);
    expect(taken && putBack(before, taken)).toBe(before);
  });

  it('comes to the end of the last part where its own part is gone', () => {
    const taken = takenOut(before, design(['a', ['1', '3']], ['b', ['4', '5']]));
    expect(taken && shown(putBack(design(['b', ['4', '5']]), taken))).toEqual(['b: 4 5 2']);
  });

  it('is whole again, whatever was taken out and changed since', () => {
    const ids = ['1', '2', '3', '4', '5', '6'];
    const any = fc
      .tuple(
        fc.shuffledSubarray(['a', 'b', 'c'], { minLength: 1 }),
        fc.shuffledSubarray(ids),
        fc.array(fc.nat(), { minLength: 6, maxLength: 6 }),
      )
      .map(([parts, lines, places]) =>
        design(
          ...parts.map((part, p): [string, string[]] => [
            part,
            lines.filter((_, i) => (places[i] ?? 0) % parts.length === p),
          ]),
        ),
      );
    fc.assert(
      fc.property(any, any, any, (one, two, three) => {
        const taken = takenOut(one, two);
        const lineIds = (of: ExamDesign) => of.parts.flatMap((part) => part.lines.map((each) => each.id));
        const back = taken ? putBack(three, taken) : three;
        expect(new Set(lineIds(back)).size).toBe(lineIds(back).length);
        const lost = lineIds(one).filter((id) => !lineIds(two).includes(id));
        expect(lineIds(back)).toEqual(expect.arrayContaining([...lost, ...lineIds(three)]));
      }),
    );
  });
});
