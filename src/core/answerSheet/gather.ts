import { counted } from '../base/words';
import type { RowReading } from './judgeMarks';
import { studentRow } from './sheetLayout';
import { sameSigns } from './typedRow';

/** A page that was brought in, as the reader found it and as a person settled it since. */
export type BroughtPage = {
  id: string;
  /** What the reader could not do; null where it read the page. */
  problem: 'no-sheet' | 'corner-missing' | 'unreadable' | null;
  /** Whose code it carries; null where none could be read. */
  code: { installation: string; layout: string; copy: number; page: number } | null;
  rows: readonly RowReading[];
  /** What a person said of rows: the signs that count. */
  settled: Readonly<Record<number, readonly string[]>>;
  /** Whom a person named as its student. */
  named: string | null;
  leftOut: boolean;
};

/** A layout that sheets of the sitting were printed with. */
export type KnownLayout = {
  id: string;
  pages: number;
  /** What its rows ask for: layouts of another size, or with other grids, that ask for the same are told as equal by it. */
  asks: string;
  /** Whose sheet a copy is; copies that are nobody's are blanks. */
  owners: ReadonlyMap<number, string>;
  /** For which attempt of its student a copy was made out. */
  numbers: ReadonlyMap<number, number>;
};

/** Why a page is put aside: it goes to nobody until a person says otherwise. */
export type AsideReason =
  | 'no-sheet'
  | 'corner-missing'
  | 'unreadable'
  | 'other-installation'
  | 'other-exam'
  | 'no-student'
  | 'unknown-number'
  | 'not-in-sitting'
  | 'read-already'
  | 'taken-over'
  | 'differs';

/** What is said of a page that is put aside. */
export const asideSaid: Readonly<Record<AsideReason, string>> = {
  'no-sheet': 'No sheet was found on this page.',
  'corner-missing': 'A corner of the sheet is missing.',
  unreadable: 'This page could not be read.',
  'other-installation': 'This sheet was printed elsewhere.',
  'other-exam': 'This sheet belongs to another exam.',
  'no-student': 'Whose sheet it is does not stand on it.',
  'unknown-number': 'Its number is on no list of this sitting.',
  'not-in-sitting': 'Its student is not in this sitting.',
  'read-already': 'The same page has been read already.',
  'taken-over': 'This sheet has been taken over already. Nothing leads to what it said, so nothing can be added to it.',
  differs: 'Two sheets of this student say different things.',
};

/** How a page stands: whose it is, or why it is put aside, and which of its rows wait for a person. */
export type PageStanding = {
  id: string;
  /** Whose it is; of a sheet that is nobody's, the name of its copy ({@link copyName}). */
  userId: string | null;
  aside: AsideReason | null;
  /** Where the same page came before: the one that counts, and the rows in which the two differ. */
  other: { id: string; rows: number[] } | null;
  /** Rows in doubt that nobody has settled. */
  doubts: number[];
};

/** What the sheets of one student say together; of each attempt that sheets were made out for by itself. */
export type StudentSheets = {
  userId: string;
  /** For which attempt they were made out; null of blanks. */
  number: number | null;
  layout: string;
  pages: string[];
  /** Pages of the sheet that have not come, from 1. */
  missing: number[];
  /** The signs of each row that was read. */
  rows: Map<number, readonly string[]>;
};

/** All that was brought in, put together. */
export type Gathered = {
  pages: PageStanding[];
  students: StudentSheets[];
  /** How many rows wait for a person. */
  doubts: number;
};

/**
 * Whether what a sheet says takes the place of what stands on the paper. What was answered on a screen stays where the
 * sheet says nothing; what a sheet said before is what it says now.
 *
 * @param said what the sheet says of a question; null for nothing
 * @param stands what stands on the paper; null or undefined for nothing
 * @param readBefore whether a sheet was read into this attempt before
 * @example sheetReplaces(null, { picked: 'a' }, false) // false
 */
export const sheetReplaces = (said: unknown, stands: unknown, readBefore: boolean): boolean =>
  (said !== null || readBefore) && JSON.stringify(said) !== JSON.stringify(stands ?? null);

/** The name of a copy of a layout, by which sheets that are nobody's are told apart. */
export const copyName = ({ layout, copy }: { layout: string; copy: number }): string => `${layout}/${copy}`;

type Known = {
  installation: string;
  layouts: ReadonlyMap<string, KnownLayout>;
  /** Who may have a sheet, with the number by which they are found; null where they have none. */
  students: ReadonlyMap<string, string | null>;
  /** Of an anonymous sitting, whose sheets are nobody's: the copies that were taken over before. Null of every other. */
  takenOver: ReadonlySet<string> | null;
};

/** A number without the zeros before it: a grid has as many columns as the longest one. */
function withoutZeros(number: string): string {
  const plain = number.trim().toLowerCase();
  const first = [...plain].findIndex((sign) => sign !== '0');
  return first < 0 ? plain.slice(-1) : plain.slice(first);
}

/** The signs of a row that count: what a person settled, or what was read where it is beyond doubt; null while it waits. */
export function rowSigns(
  { rows, settled }: Pick<BroughtPage, 'rows' | 'settled'>,
  row: number,
): readonly string[] | null {
  if (settled[row]) return settled[row] as readonly string[];
  const read = rows.find((one) => one.row === row);
  return read && !read.doubt ? read.filled : null;
}

/** Whether two sheets of a student belong to one attempt. A blank is of no attempt in particular. */
const sameAttempt = (a: number | null, b: number | null): boolean => a === null || b === null || a === b;

/** The rows in which two copies of a page say different things; null where they are no copies of one another. */
function differingRows(a: BroughtPage, b: BroughtPage, { layouts }: Known): number[] | null {
  const layoutOf = ({ code }: BroughtPage) => layouts.get(code?.layout ?? '');
  const rowsOf = (page: BroughtPage) => page.rows.flatMap(({ row }) => (row === studentRow ? [] : row));
  if (layoutOf(a)?.asks !== layoutOf(b)?.asks || rowsOf(a).join() !== rowsOf(b).join()) return null;
  return rowsOf(a).filter((row) => !sameSigns(rowSigns(a, row) ?? ['?'], rowSigns(b, row) ?? ['?']));
}

/**
 * Puts pages together: whose each is, which are put aside and why, and what the sheets of each student say. Nothing in
 * doubt is decided here: a row that waits is part of no student's answers.
 */
export function gather(pages: readonly BroughtPage[], known: Known): Gathered {
  const byNumber = new Map<string, string>();
  for (const [userId, number] of known.students) if (number) byNumber.set(withoutZeros(number), userId);
  const whose = (page: BroughtPage): { userId: string | null; aside: AsideReason | null } => {
    if (page.problem && !page.named) return { userId: null, aside: page.problem };
    const layout = page.code && known.layouts.get(page.code.layout);
    if (page.code && page.code.installation !== known.installation)
      return { userId: null, aside: 'other-installation' };
    if (!layout || !page.code) return { userId: null, aside: page.code ? 'other-exam' : 'no-sheet' };
    if (known.takenOver) {
      const userId = copyName(page.code);
      return { userId, aside: known.takenOver.has(userId) ? 'taken-over' : null };
    }
    if (page.named) return { userId: page.named, aside: known.students.has(page.named) ? null : 'not-in-sitting' };
    const owner = layout.owners.get(page.code.copy);
    if (owner) return { userId: owner, aside: known.students.has(owner) ? null : 'not-in-sitting' };
    const number = withoutZeros((rowSigns(page, studentRow) ?? []).join(''));
    if (number === '') return { userId: null, aside: 'no-student' };
    const userId = byNumber.get(number) ?? null;
    return { userId, aside: userId ? null : 'unknown-number' };
  };
  // Only the first page of a blank carries the number: its others are those of the same copy.
  const ofCopy = new Map<string, string>();
  for (const page of pages) {
    const { userId, aside } = whose(page);
    if (!page.leftOut && userId && !aside && page.code) ofCopy.set(copyName(page.code), userId);
  }
  const first = new Map<string, BroughtPage[]>();
  const numberOf = ({ code }: BroughtPage, userId: string): number | null => {
    const layout = code && known.layouts.get(code.layout);
    return code && layout?.owners.get(code.copy) === userId ? (layout.numbers.get(code.copy) ?? null) : null;
  };
  const standings = pages.map((page): PageStanding => {
    let { userId, aside } = whose(page);
    let other: PageStanding['other'] = null;
    if (aside === 'no-student' && page.code && page.code.page > 1) {
      userId = ofCopy.get(copyName(page.code)) ?? null;
      if (userId) aside = null;
    }
    if (userId && !aside && !page.leftOut && page.code) {
      const key = `${userId}/${page.code.page}`;
      const [whom, number] = [userId, numberOf(page, userId)];
      const before = first.get(key)?.find((one) => sameAttempt(numberOf(one, whom), number));
      if (!before) first.set(key, [...(first.get(key) ?? []), page]);
      else {
        const rows = differingRows(before, page, known);
        aside = rows?.length === 0 ? 'read-already' : 'differs';
        other = { id: before.id, rows: rows ?? [] };
      }
    }
    const doubts =
      page.leftOut || aside === 'read-already'
        ? []
        : page.rows.filter((one) => rowSigns(page, one.row) === null).map((one) => one.row);
    return {
      id: page.id,
      userId,
      aside,
      other,
      doubts: aside && aside !== 'no-student' && aside !== 'unknown-number' && aside !== 'differs' ? [] : doubts,
    };
  });
  const byId = new Map(pages.map((page) => [page.id, page]));
  const students: StudentSheets[] = [];
  for (const { id, userId, aside } of standings) {
    const page = byId.get(id) as BroughtPage;
    if (!userId || aside || page.leftOut || !page.code) continue;
    const number = numberOf(page, userId);
    let own = students.find((one) => one.userId === userId && sameAttempt(one.number, number));
    if (!own) {
      own = { userId, number, layout: page.code.layout, pages: [], missing: [], rows: new Map() };
      students.push(own);
    }
    if (own.layout !== page.code.layout) continue;
    own.pages.push(id);
    for (const { row } of page.rows) {
      const signs = rowSigns(page, row);
      if (row !== studentRow && signs) own.rows.set(row, signs);
    }
  }
  for (const own of students) {
    const came = new Set(own.pages.map((id) => byId.get(id)?.code?.page));
    const count = known.layouts.get(own.layout)?.pages ?? 1;
    own.missing = Array.from({ length: count }, (_, i) => i + 1).filter((page) => !came.has(page));
  }
  return {
    pages: standings,
    students,
    doubts: standings.reduce((sum, one) => sum + one.doubts.length, 0),
  };
}

/**
 * What would come in, in words.
 *
 * @param of how many students the sitting is given to; null where sheets are nobody's
 * @param before how many others of them have handed in already
 * @example gatheredSaid({ pages: [], students: [], doubts: 0 }, 28, 3) // '0 of 28 students; 3 others have handed in before.'
 * @example gatheredSaid({ pages: [], students: [], doubts: 0 }, null, 0) // '0 sheets.'
 */
export function gatheredSaid({ pages, students, doubts }: Gathered, of: number | null, before: number): string {
  const aside = pages.filter((page) => page.aside && page.aside !== 'read-already').length;
  const came = new Set(students.map((one) => one.userId)).size;
  const incomplete = students.filter((one) => one.missing.length > 0).length;
  return `${[
    of === null ? counted(came, 'sheet') : `${came} of ${counted(of, 'student')}`,
    ...(before ? [`${counted(before, 'other has', 'others have')} handed in before`] : []),
    ...(doubts ? [`${counted(doubts, 'row waits', 'rows wait')} for you`] : []),
    ...(incomplete ? [`${counted(incomplete, 'sheet lacks', 'sheets lack')} a page`] : []),
    ...(aside ? [`${counted(aside, 'page is', 'pages are')} put aside`] : []),
  ].join('; ')}.`;
}
