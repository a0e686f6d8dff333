import { describe, expect, it } from 'vitest';
import { type BroughtPage, gather, gatheredSaid, type KnownLayout, sheetReplaces } from './gather';
import type { RowReading } from './judgeMarks';
import { studentRow } from './sheetLayout';

const rows = (...signs: (string | null)[]): RowReading[] =>
  signs.map((sign, row) => ({ row, filled: sign ? [sign] : [], doubt: sign === null ? 'faint' : null }));
const number = (digits: string, doubt: RowReading['doubt'] = null): RowReading => ({
  row: studentRow,
  filled: [...digits],
  doubt,
});
let made = 0;
const page = (copy: number, read: RowReading[], more: Partial<BroughtPage> = {}): BroughtPage => ({
  id: `page-${++made}`,
  problem: null,
  code: { installation: 'HOUSE', layout: 'LAYQUTA', copy, page: 1 },
  rows: read,
  settled: {},
  named: null,
  leftOut: false,
  ...more,
});
const layout = (id: string, more: Partial<KnownLayout> = {}): [string, KnownLayout] => [
  id,
  {
    id,
    pages: 1,
    asks: 'three choices',
    owners: new Map([
      [1, 'ada'],
      [2, 'bo'],
      [3, 'ada'],
    ]),
    numbers: new Map([
      [1, 1],
      [2, 1],
      [3, 2],
    ]),
    ...more,
  },
];
const known = {
  installation: 'HOUSE',
  layouts: new Map([layout('LAYQUTA'), layout('SMALLER'), layout('ANOTHER', { asks: 'a number' })]),
  students: new Map([
    ['ada', '001028'],
    ['bo', '1029'],
    ['cy', null],
  ]),
  takenOver: null,
};
const standing = (...pages: BroughtPage[]) => gather(pages, known).pages.map((one) => one.aside ?? one.userId);
const said = (...pages: BroughtPage[]) =>
  gather(pages, known).students.map(
    (one) => `${one.userId}: ${[...one.rows.values()].map((signs) => signs.join('')).join(' ')}`,
  );

describe('pages that were brought in', () => {
  it('belong to whom they are made out for, to the number that is filled in, or to whom a person names', () => {
    expect(
      standing(
        page(1, rows('A', 'B')),
        page(9, [number('1029'), ...rows('C', 'D')]),
        page(8, rows('A', 'A'), { named: 'cy' }),
      ),
    ).toEqual(['ada', 'bo', 'cy']);
    // A number is the same with the zeros before it and without.
    expect(standing(page(9, [number('1028'), ...rows('A')]))).toEqual(['ada']);
  });

  it('are put aside where nobody can say for sure', () => {
    const code = { installation: 'HOUSE', layout: 'LAYQUTA', copy: 7, page: 1 };
    expect(
      standing(
        page(9, [number('7777'), ...rows('A')]),
        page(9, [number('', null), ...rows('A')]),
        page(9, [number('1029', 'two-marks'), ...rows('A')]),
        page(1, rows('A'), { code: { ...code, installation: 'OTHER' } }),
        page(1, rows('A'), { code: { ...code, layout: 'AAAAAAA' } }),
        page(1, [], { code: null, problem: 'no-sheet' }),
        page(1, [], { problem: 'corner-missing' }),
        page(1, rows('A'), { named: 'nobody' }),
      ),
    ).toEqual([
      'unknown-number',
      'no-student',
      'no-student',
      'other-installation',
      'other-exam',
      'no-sheet',
      'corner-missing',
      'not-in-sitting',
    ]);
  });

  it('that came twice count once; where they differ, neither silently', () => {
    expect(standing(page(1, rows('A', 'B')), page(1, rows('A', 'B')))).toEqual(['ada', 'read-already']);
    expect(standing(page(1, rows('A', 'B')), page(9, [number('1028'), ...rows('A', 'C')]))).toEqual(['ada', 'differs']);
    expect(said(page(1, rows('A', 'B'), { leftOut: true }), page(1, rows('A', 'C')))).toEqual(['ada: A C']);
    const first = page(1, rows('A', 'B'));
    const [, second] = gather([first, page(1, rows('A', 'C'))], known).pages;
    expect(second?.other).toEqual({ id: first.id, rows: [1] });
  });

  it('of another size are the same where they say the same of the same paper', () => {
    const of = (layout: string, copy: number, ...signs: string[]) =>
      page(copy, rows(...signs), { code: { installation: 'HOUSE', layout, copy, page: 1 } });
    const first = of('LAYQUTA', 1, 'A', 'B');
    expect(standing(first, of('SMALLER', 1, 'A', 'B'))).toEqual(['ada', 'read-already']);
    expect(gather([first, of('SMALLER', 1, 'A', 'C')], known).pages[1]?.other?.rows).toEqual([1]);
    expect(standing(first, page(9, [number('1028'), ...rows('A', 'B')]))).toEqual(['ada', 'read-already']);
    // What asks for something else is no copy of it.
    expect(standing(first, of('ANOTHER', 1, 'A', 'B'))).toEqual(['ada', 'differs']);
  });

  it('of two attempts of a student stand side by side, each with its own copies', () => {
    const [first, second] = [page(1, rows('A', 'B')), page(3, rows('C', 'D'))];
    expect(standing(first, second, page(3, rows('C', 'D')), page(1, rows('A', 'C')))).toEqual([
      'ada',
      'ada',
      'read-already',
      'differs',
    ]);
    expect(said(second, first)).toEqual(['ada: C D', 'ada: A B']);
    expect(gather([second, first], known).students.map((one) => one.number)).toEqual([2, 1]);
    // One student, however many sheets; a blank is of no attempt in particular, and so is a sheet that a person gave away.
    expect(gatheredSaid(gather([first, second], known), 2, 0)).toBe('1 of 2 students.');
    expect(standing(second, page(9, [number('1028'), ...rows('C', 'A')]))).toEqual(['ada', 'differs']);
    expect(gather([page(3, rows('C'), { named: 'bo' })], known).students[0]?.number).toBeNull();
  });

  it('bring only what is beyond doubt, or what a person settled', () => {
    const doubtful = page(1, rows('A', null, 'C'));
    expect(gather([doubtful], known).pages[0]?.doubts).toEqual([1]);
    expect(said(doubtful)).toEqual(['ada: A C']);
    expect(said({ ...doubtful, settled: { 1: ['B'] } })).toEqual(['ada: A B C']);
    expect(said({ ...doubtful, settled: { 1: [] } })).toEqual(['ada: A  C']);
  });

  it('of a blank follow its first page, which carries the number', () => {
    const two = {
      ...known,
      layouts: new Map([layout('LAYQUTA', { pages: 2, owners: new Map(), numbers: new Map() })]),
    };
    const second = page(5, rows('D'), { code: { installation: 'HOUSE', layout: 'LAYQUTA', copy: 5, page: 2 } });
    const first = page(5, [number('1029'), ...rows('A')]);
    expect(gather([second, first], two).pages.map((one) => one.userId)).toEqual(['bo', 'bo']);
    expect(gather([second, first], two).students[0]?.missing).toEqual([]);
    expect(gather([first], two).students[0]?.missing).toEqual([2]);
    expect(gather([second], two).pages[0]?.aside).toBe('no-student');
  });

  it('are told in one sentence', () => {
    const gathered = gather([page(1, rows('A', null)), page(9, [number('7777'), ...rows('A')])], known);
    expect(gatheredSaid(gathered, 28, 3)).toBe(
      '1 of 28 students; 3 others have handed in before; 1 row waits for you; 1 page is put aside.',
    );
  });
});

it('a sheet leaves what was answered on a screen where it says nothing, and replaces what a sheet said before', () => {
  const [a, b] = [{ picked: 'a' }, { picked: 'b' }];
  const table: [unknown, unknown, boolean, boolean][] = [
    [a, undefined, false, true],
    [a, b, false, true],
    [a, a, false, false],
    [null, b, false, false],
    [null, b, true, true],
    [null, undefined, true, false],
    [null, null, false, false],
  ];
  for (const [said, stands, readBefore, replaces] of table)
    expect(sheetReplaces(said, stands, readBefore)).toBe(replaces);
});
