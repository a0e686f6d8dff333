import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { quickRandom } from '../base/random';
import type { GreyPicture } from './greyPicture';
import { type Homography, homographyOf, mapped } from './homography';
import { boxState, judgePage, judgeRow, numberRead, pointsRead, thresholds } from './judgeMarks';
import { type CodeReader, findSheets, readMarks } from './readSheet';
import { codeInGroups, codeName, mostCopies, readSheetCode, sheetCodeText } from './sheetCode';
import { doesNotFit, layOutSheet, pagesOfSheet, paper, placesOnPaper, type SheetPage, studentRow } from './sheetLayout';
import { boxLabels, gridSigns, pointsSigns, type SheetPlan, type SheetRow, sheetPlanSchema } from './sheetRow';
import { blankPage, fillIn, grades, markPage, takePicture } from './standIn';

const anyRow: fc.Arbitrary<SheetRow> = fc.oneof(
  fc.record({
    kind: fc.constant('choice' as const),
    label: fc.constantFrom('1', '12', '3.a'),
    options: fc.integer({ min: 2, max: 10 }).map((n) => [...'ABCDEFGHIJ'].slice(0, n)),
    several: fc.boolean(),
  }),
  fc.record({
    kind: fc.constant('rubric' as const),
    label: fc.constant('R'),
    values: fc.integer({ min: 2, max: 10 }).map((n) => Array.from({ length: n }, (_, i) => i * 2.5)),
    weight: fc.constantFrom(0.5, 1, 3),
  }),
  fc.record({
    kind: fc.constant('number' as const),
    label: fc.constant('7'),
    columns: fc.integer({ min: 1, max: 10 }),
    sign: fc.boolean(),
    point: fc.boolean(),
    fraction: fc.boolean(),
    exponent: fc.boolean(),
  }),
  fc.record({
    kind: fc.constant('points' as const),
    label: fc.constant('9'),
    most: fc.integer({ min: 1, max: 40 }),
    halves: fc.boolean(),
  }),
);
const anyPlan: fc.Arbitrary<SheetPlan> = fc.record({
  version: fc.constant(1 as const),
  size: fc.integer({ min: 70, max: 120 }),
  perPage: fc.constantFrom(1 as const, 2 as const, 4 as const),
  studentColumns: fc.integer({ min: 0, max: 10 }),
  rows: fc.array(anyRow, { minLength: 1, maxLength: 70 }),
});

describe('the layout of a sheet', () => {
  it('has a box for everything a row can say, once, apart from all others and within the sheet', () => {
    fc.assert(
      fc.property(anyPlan, (plan) => {
        fc.pre(doesNotFit(plan) === null);
        expect(sheetPlanSchema.parse(plan)).toEqual(plan);
        const pages = layOutSheet(plan);
        expect(pagesOfSheet(plan)).toBe(pages.length);
        const meant = new Set<string>();
        for (const page of pages) {
          for (const [i, a] of page.boxes.entries()) {
            const key = `${a.row}/${a.column}/${a.option}`;
            expect(meant.has(key)).toBe(false);
            meant.add(key);
            const half = a.side / 2;
            expect(a.x - half).toBeGreaterThan(page.cornerSide);
            expect(a.x + half).toBeLessThan(page.width - page.cornerSide);
            expect(a.y - half).toBeGreaterThan(page.code.side);
            expect(a.y + half).toBeLessThan(page.height - page.cornerSide);
            // The paper between two boxes is wide enough for the reader to see its shade.
            for (const b of page.boxes.slice(i + 1, i + 12))
              expect(Math.max(Math.abs(a.x - b.x), Math.abs(a.y - b.y)) - a.side).toBeGreaterThan(0.8);
          }
          for (const label of page.labels) expect(label.x).toBeGreaterThan(page.cornerSide);
        }
        const boxes = (row: SheetRow) =>
          row.kind === 'number' ? row.columns * gridSigns(row).length : boxLabels(row).length;
        expect(meant.size).toBe(plan.studentColumns * 10 + plan.rows.reduce((sum, row) => sum + boxes(row), 0));
      }),
      { seed: 26, numRuns: 120 },
    );
  });

  it('stays on A4, however many share a page', () => {
    for (const perPage of [1, 2, 4] as const) {
      const [page] = layOutSheet({ version: 1, size: 100, perPage, studentColumns: 0, rows: [aToD('1')] });
      for (const place of placesOnPaper(perPage)) {
        expect(place.x + (page?.width ?? 0)).toBeLessThanOrEqual(paper.width - paper.edge);
        expect(place.y + (page?.height ?? 0)).toBeLessThanOrEqual(paper.height - paper.edge);
      }
    }
  });

  it('says which row is larger than its part of the page', () => {
    const wide: SheetRow = {
      kind: 'number',
      label: '5',
      columns: 10,
      sign: true,
      point: true,
      fraction: true,
      exponent: true,
    };
    const plan: SheetPlan = { version: 1, size: 120, perPage: 4, studentColumns: 0, rows: [aToD('1'), wide] };
    expect(doesNotFit(plan)).toBe(
      'Row 5 is larger than its part of the page: choose a smaller size, or fewer to a page.',
    );
    expect(doesNotFit({ ...plan, perPage: 1 })).toBeNull();
  });

  it('is the same for ever for what was printed', () => {
    const [page] = layOutSheet({ version: 1, size: 100, perPage: 1, studentColumns: 6, rows: [aToD('1')] });
    const at = (row: number, column: number, option: number) => {
      const box = page?.boxes.find((one) => one.row === row && one.column === column && one.option === option);
      return box && [box.x.toFixed(3), box.y.toFixed(3), box.side.toFixed(3)];
    };
    expect([at(studentRow, 0, 0), at(studentRow, 5, 9), at(0, 0, 0), at(0, 0, 3)]).toEqual([
      ['25.300', '37.900', '3.800'],
      ['53.300', '82.900', '3.800'],
      ['24.022', '91.000', '3.800'],
      ['48.688', '91.000', '3.800'],
    ]);
  });
});

function aToD(label: string, several = false): SheetRow {
  return { kind: 'choice', label, options: [...'ABCD'], several };
}

describe('the code of a sheet', () => {
  it('is read back, and every sign misread and every two exchanged are noticed', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: mostCopies }),
        fc.integer({ min: 1, max: 900 }),
        fc.nat(),
        (copy, page, seed) => {
          const random = quickRandom(String(seed));
          const code = { installation: codeName(5, random.below), layout: codeName(7, random.below), copy, page };
          const text = sheetCodeText(code);
          expect(text).toHaveLength(22);
          expect(readSheetCode(text)).toEqual(code);
          const at = 2 + random.below(18);
          const other = text[at] === 'Q' ? 'R' : 'Q';
          expect(readSheetCode(text.slice(0, at) + other + text.slice(at + 1))).toBeNull();
          if (text[at] !== text[at + 1] && at < 19)
            expect(readSheetCode(`${text.slice(0, at)}${text[at + 1]}${text[at]}${text.slice(at + 2)}`)).toBeNull();
        },
      ),
      { seed: 1 },
    );
    for (const no of ['', 'https://x.example', 'W1', 'w1aaaaabbbbbbbaaadab22']) expect(readSheetCode(no)).toBeNull();
    expect(codeInGroups('W1AAAAABBB')).toBe('W1AAA-AABBB');
  });
});

describe('a map from the sheet to the picture', () => {
  it('takes four places where they are, and lines to lines', () => {
    const from = [
      { x: 0, y: 0 },
      { x: 10, y: 0 },
      { x: 0, y: 20 },
      { x: 10, y: 20 },
    ];
    const to = [
      { x: 5, y: 7 },
      { x: 105, y: 17 },
      { x: 1, y: 190 },
      { x: 120, y: 210 },
    ];
    const h = homographyOf(from, to) ?? expect.fail('no map');
    for (const [i, place] of from.entries()) {
      expect(mapped(h, place).x).toBeCloseTo(to[i]?.x as number, 6);
      expect(mapped(h, place).y).toBeCloseTo(to[i]?.y as number, 6);
    }
    const [a, b, c] = [mapped(h, { x: 1, y: 1 }), mapped(h, { x: 4, y: 7 }), mapped(h, { x: 7, y: 13 })];
    expect((b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x)).toBeCloseTo(0, 4);
    expect(homographyOf([from[0], from[1], from[1], from[3]] as never, to)).toBeNull();
  });
});

describe('what a row says', () => {
  const { filled, empty } = thresholds;
  const middle = (filled + empty) / 2;
  const said = (row: SheetRow, ...darkness: number[]) => {
    const { filled: signs, doubt } = judgeRow(
      row,
      darkness.map((one, option) => ({ column: 0, option, state: boxState(one) })),
    );
    return doubt ?? signs.join('');
  };

  it('is one mark, or nothing at all; anything else is in doubt', () => {
    expect(said(aToD('1'), 0, 0.6, 0, 0)).toBe('B');
    expect(said(aToD('1'), 0, 0, 0, 0)).toBe('');
    expect(said(aToD('1'), 0, middle, 0, 0)).toBe('faint');
    expect(said(aToD('1'), 0.6, 0, 0.5, 0)).toBe('two-marks');
    // What was rubbed out beside a clear mark is doubt, never passed over.
    expect(said(aToD('1'), 0.6, 0, middle, 0)).toBe('faint');
    expect(said(aToD('1'), filled, empty, empty, empty)).toBe('A');
  });

  it('is doubt where nothing is filled and one box is hardly touched, though beside a mark it would be none', () => {
    const sheet: SheetPlan = {
      version: 1,
      size: 100,
      perPage: 1,
      studentColumns: 0,
      rows: [aToD('1'), aToD('2', true)],
    };
    const [page] = layOutSheet(sheet) as [SheetPage];
    const touched = (thresholds.emptyAlone + thresholds.empty) / 2;
    const judged = (first: number[], second: number[]) =>
      judgePage(sheet, page, [...first, ...second]).map((row) => row.doubt ?? row.filled.join(''));
    expect(judged([0, touched, 0, 0], [0, 0, touched, 0])).toEqual(['faint', 'faint']);
    expect(judged([0, touched, 0.6, 0], [0.6, 0, touched, 0])).toEqual(['C', 'A']);
    expect(judged([0, thresholds.emptyAlone, 0, 0], [0, 0, 0, 0])).toEqual(['', '']);
  });

  it('may be several marks where several are asked for', () => {
    expect(said(aToD('1', true), 0.6, 0, 0.5, 0)).toBe('AC');
    expect(said(aToD('1', true), 0.6, 0, middle, 0)).toBe('faint');
  });

  it('is points, with halves, and tens with their units', () => {
    const row: SheetRow = { kind: 'points', label: '1', most: 24, halves: true };
    const labels = pointsSigns(row);
    const points = (...marks: string[]) => said(row, ...labels.map((label) => (marks.includes(label) ? 0.6 : 0)));
    expect(labels).toEqual(['10', '20', '0', '1', '2', '3', '4', '5', '6', '7', '8', '9', '½']);
    expect(points('20', '3', '½')).toBe('203½');
    expect(pointsRead(['20', '3', '½'])).toBe(23.5);
    expect([points('20'), points('1', '2'), points('10', '20', '1')]).toEqual(['no-unit', 'two-marks', 'two-marks']);
    expect([pointsRead([]), pointsRead(['0']), pointsRead(['½'])]).toEqual([null, 0, 0.5]);
  });

  it('is a number, a sign a column', () => {
    const row: SheetRow = {
      kind: 'number',
      label: '1',
      columns: 5,
      sign: true,
      point: true,
      fraction: false,
      exponent: true,
    };
    const signs = gridSigns(row);
    const number = (...columns: string[]) => {
      const read = judgeRow(
        row,
        columns.flatMap((marks, column) =>
          signs.map((sign, option) => ({ column, option, state: boxState(marks.includes(sign) ? 0.6 : 0) })),
        ),
      );
      return read.doubt ?? numberRead(read.filled);
    };
    expect(number('−', '1', '.', '5', '')).toBe('-1.5');
    expect(number('', '', '', '4', '2')).toBe('42');
    expect(number('', '', '', '', '')).toBe('');
    expect(number('1', '', '2', '', '')).toBe('gap');
    expect(number('12', '', '', '', '')).toBe('two-marks');
  });
});

describe('reading', () => {
  const plan: SheetPlan = {
    version: 1,
    size: 100,
    perPage: 1,
    studentColumns: 6,
    rows: [
      ...Array.from({ length: 40 }, (_, i) => aToD(String(i + 1), i % 10 === 9)),
      { kind: 'number', label: '41', columns: 5, sign: true, point: true, fraction: false, exponent: false },
      { kind: 'rubric', label: '42', values: [0, 1, 2, 3], weight: 2 },
      { kind: 'points', label: '43', most: 8, halves: true },
    ],
  };
  const page = layOutSheet(plan)[0] as SheetPage;
  const blank = blankPage(page);
  /** Where the corners of the code are in a picture. */
  const codeIn = (h: Homography) => {
    const { x, y, side } = page.code;
    const own = [
      { x, y },
      { x: x + side, y },
      { x: x + side, y: y + side },
      { x, y: y + side },
    ];
    return own.map((place) => mapped(h, place));
  };

  it.each(grades)('a %s gives back what was filled in, and doubts what was spoilt', (grade) => {
    const random = quickRandom('try', grade);
    for (let i = 0; i < 3; i++) {
      const { marked, truth } = fillIn(plan, page, random, String(100_000 + i), 0.08);
      const { picture, h } = takePicture(markPage(blank, page, marked, random), page, grade, random);
      const corners = codeIn(h);
      // The code is read by a library elsewhere; here it is known where it lies, to within a pixel.
      const sheets = findSheets(picture, codeAt(corners));
      expect(sheets).toHaveLength(1);
      const read = readMarks(picture, sheets[0] ?? expect.fail('none'), page);
      if (read.kind !== 'read') return expect.fail(read.kind);
      const readings = new Map(judgePage(plan, page, read.darkness).map((one) => [one.row, one]));
      for (const one of truth) {
        const reading = readings.get(one.row);
        if (!one.clear) expect(reading?.doubt).not.toBeNull();
        else if (reading?.doubt === null) expect(reading.filled).toEqual(one.filled);
      }
      const doubtful = truth.filter((one) => one.clear && readings.get(one.row)?.doubt).length;
      expect(doubtful).toBeLessThanOrEqual(2);
    }
  });

  it('two sheets in one picture are two', () => {
    const quarter: SheetPlan = { ...plan, perPage: 4, studentColumns: 0, rows: plan.rows.slice(0, 8) };
    const small = layOutSheet(quarter)[0] as SheetPage;
    const random = quickRandom('two in one');
    const taken = [0, 1].map(() => {
      const { marked, truth } = fillIn(quarter, small, random, '', 0);
      return { truth, ...takePicture(markPage(blankPage(small), small, marked, random), small, 'copier', random) };
    });
    const [left, right] = taken.map((one) => one.picture) as [GreyPicture, GreyPicture];
    const width = left.width + right.width;
    const height = Math.max(left.height, right.height);
    const both = { width, height, data: new Uint8Array(width * height).fill(250) };
    for (const [picture, x] of [
      [left, 0],
      [right, left.width],
    ] as const)
      for (let y = 0; y < picture.height; y++)
        both.data.set(picture.data.subarray(y * picture.width, (y + 1) * picture.width), y * width + x);
    const readers = taken.map(({ h }, i) => {
      const { x, y, side } = small.code;
      const own = [
        { x, y },
        { x: x + side, y },
        { x: x + side, y: y + side },
        { x, y: y + side },
      ].map((place) => mapped(h, place));
      return codeAt(
        own.map((place) => ({ x: place.x + i * left.width, y: place.y })),
        String(i),
      );
    });
    const sheets = findSheets(
      both,
      (part, at) => readers[0]?.(part, at) ?? readers[1]?.(part, at) ?? null,
      () => small,
    );
    expect(sheets.map((one) => one.text).sort()).toEqual(['0', '1']);
    for (const sheet of sheets) {
      const read = readMarks(both, sheet, small);
      if (read.kind !== 'read') return expect.fail(read.kind);
      for (const reading of judgePage(quarter, small, read.darkness)) {
        const one = taken[Number(sheet.text)]?.truth.find((each) => each.row === reading.row);
        if (!reading.doubt) expect(reading.filled).toEqual(one?.filled);
      }
    }
  });

  it.each([
    ['down', (x: number, _y: number) => x],
    ['across', (_x: number, y: number) => y],
    ['from corner to corner', (x: number, y: number) => (x + y) / Math.SQRT2],
    ['from the other corner', (x: number, y: number) => (x - y) / Math.SQRT2],
  ])('the edge of a stain that runs %s over an empty box is no mark', (_, along) => {
    const random = quickRandom('stained');
    const { picture, h } = takePicture(markPage(blank, page, [], random), page, 'copier', random);
    const at = page.boxes.findIndex((box) => box.row === 20 && box.option === 1);
    const place = mapped(h, page.boxes[at] as SheetPage['boxes'][number]);
    const [sheet] = findSheets(picture, codeAt(codeIn(h)));
    if (!sheet) return expect.fail('no sheet');
    for (let y = 0; y < picture.height; y++)
      for (let x = 0; x < picture.width; x++) {
        if (Math.abs(along(x - place.x, y - place.y)) > 14 || Math.hypot(x - place.x, y - place.y) > 120) continue;
        picture.data[y * picture.width + x] = (picture.data[y * picture.width + x] as number) * 0.68;
      }
    const read = readMarks(picture, sheet, page);
    if (read.kind !== 'read') return expect.fail(read.kind);
    expect(boxState(read.darkness[at] as number)).not.toBe('filled');
  });

  it('finds nothing on an empty page, and says when a corner is missing', () => {
    const white = { width: 1_654, height: 2_339, data: new Uint8Array(1_654 * 2_339).fill(250) };
    expect(findSheets(white, () => expect.fail('there is no code'))).toEqual([]);
    const random = quickRandom('torn');
    const torn = markPage(blank, page, [], random);
    const last = page.corners[3];
    for (let y = Math.round((last.y - 4) * 8); y < torn.height; y++)
      torn.data.fill(255, y * torn.width + Math.round((last.x - 4) * 8), (y + 1) * torn.width);
    const { picture, h } = takePicture(torn, page, 'copier', random);
    const corners = codeIn(h);
    const [sheet] = findSheets(picture, codeAt(corners));
    expect(readMarks(picture, sheet ?? expect.fail('none'), page)).toEqual({ kind: 'corner-missing', found: 3 });
  });
});

/** A reader that knows where the code lies, and finds it in a part of the picture that holds it. */
function codeAt(corners: { x: number; y: number }[], text = 'code'): CodeReader {
  return (part, at) => {
    const own = corners.map(({ x, y }) => ({ x: x - at.x, y: y - at.y }));
    const holds = own.every(({ x, y }) => x >= 0 && y >= 0 && x < part.width && y < part.height);
    return holds ? { text, corners: own as never } : null;
  };
}
