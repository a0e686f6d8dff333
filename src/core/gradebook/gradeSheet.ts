import { aboveWorth, readScore } from './typedScores';

/** At most so many rows of a sheet are read. */
export const mostGradeRows = 5_000;

type SheetStudent = { userId: string; name: string; email: string | null; studentNumber: string | null };

/** A manual column, with what stands in it by student. */
type SheetColumn = {
  id: string;
  title: string;
  worth: number;
  points: ReadonlyMap<string, number | null>;
  /** Who is excused from it. */
  excused: ReadonlySet<string>;
};

/** What one cell of a sheet would do. */
export type GradeSheetRow = {
  /** Its number in the file, from 1. */
  line: number;
  /** Whom it names, as it is written there. */
  whom: string;
  column: string;
} & (
  | { kind: 'change'; columnId: string; userId: string; from: number | null; points: number; above: boolean }
  | { kind: 'same' | 'empty' }
  | { kind: 'wrong'; message: string }
);

/** A sheet of scores as it was read, or why it cannot be read at all. */
export type ReadGradeSheet =
  | {
      ok: true;
      rows: GradeSheetRow[];
      /** How students are told apart in it. */
      by: 'student number' | 'email' | 'name';
      columns: string[];
      /** Columns of the sheet that are no manual columns here. */
      ignored: string[];
    }
  | { ok: false; message: string };

const tidy = (text: string | undefined): string => (text ?? '').trim();
/** Titles are compared without case and spaces, and without the worth that an export writes behind them. */
const folded = (text: string): string =>
  text
    .normalize('NFC')
    .toLowerCase()
    .replace(/\s+/g, ' ')
    .trim()
    .replace(/ ?\(of [\d.,]+\)$/, '');

/** The words of a name, whichever way it is turned: "Berg, Ann" is "Ann Berg". */
const nameWords = (name: string): string[] => folded(name.replace(/,/g, ' ')).split(' ').filter(Boolean).sort();
const isSame = (a: readonly string[], b: readonly string[]): boolean => a.join(' ') === b.join(' ');

const identities = [
  { by: 'student number', names: ['student number', 'number', 'student no', 'student id'] },
  { by: 'email', names: ['email', 'e-mail', 'mail'] },
  { by: 'name', names: ['name', 'student', 'full name'] },
] as const;

/**
 * Reads a sheet of scores against the students and the manual columns of a course: what each cell would change, and what is
 * wrong with it. Students are found by their number, else by email, else by a name that only one of them has. An empty
 * cell leaves what is there, and so does a score for somebody who is excused: that is said, not undone.
 *
 * @param table the cells as texts, the names of the columns in the first row that has any of these
 */
export function readGradeSheet(
  table: readonly (readonly string[])[],
  students: readonly SheetStudent[],
  columns: readonly SheetColumn[],
): ReadGradeSheet {
  const isIdentity = (cell: string) =>
    identities.some(({ names }) => (names as readonly string[]).includes(folded(cell)));
  const head = table.slice(0, 10).findIndex((row) => row.some(isIdentity));
  if (head < 0)
    return {
      ok: false,
      message: 'No column says who the students are: name one of them “Student number”, “Email” or “Name”.',
    };
  if (table.length - head - 1 > mostGradeRows)
    return { ok: false, message: `At most ${mostGradeRows} rows are read; this sheet has ${table.length - head - 1}.` };
  const names = (table[head] ?? []).map(folded);
  const places = identities.map(({ by, names: own }) => ({
    by,
    at: names.findIndex((name) => (own as readonly string[]).includes(name)),
  }));
  const filled = (at: number) => at >= 0 && table.slice(head + 1).some((row) => tidy(row[at]) !== '');
  const identity = places.find(({ at }) => filled(at)) ?? places.find(({ at }) => at >= 0);
  if (!identity) return { ok: false, message: 'The sheet names no students.' };
  const taken = new Set(places.map(({ at }) => at));
  const targets = names.flatMap((name, at) => {
    const column = taken.has(at) ? undefined : columns.find((one) => folded(one.title) === name);
    return column ? [{ at, column }] : [];
  });
  const ignored = (table[head] ?? []).filter(
    (cell, at) => tidy(cell) && !taken.has(at) && !targets.some((one) => one.at === at),
  );
  if (targets.length === 0)
    return {
      ok: false,
      message: `None of its columns is a manual column here${ignored.length ? ` (${ignored.slice(0, 5).join(', ')})` : ''}. Add a column with the same title first.`,
    };
  const keyOf = (student: SheetStudent): string =>
    folded(
      (identity.by === 'student number'
        ? student.studentNumber
        : identity.by === 'email'
          ? student.email
          : student.name) ?? '',
    );
  const byKey = new Map<string, SheetStudent[]>();
  for (const student of students) {
    const key = keyOf(student);
    if (key) byKey.set(key, [...(byKey.get(key) ?? []), student]);
  }
  const nameAt = identity.by === 'name' ? -1 : (places.find(({ by }) => by === 'name')?.at ?? -1);
  /** Whether the name beside a number or an email is somebody else's: another student's, or with no word of theirs in it. */
  const namesAnother = (name: string, student: SheetStudent): boolean => {
    const [beside, own] = [nameWords(name), nameWords(student.name)];
    if (beside.length === 0 || isSame(beside, own)) return false;
    return !beside.some((word) => own.includes(word)) || students.some((one) => isSame(beside, nameWords(one.name)));
  };
  const seen = new Map<string, number>();
  const rows: GradeSheetRow[] = [];
  for (let i = head + 1; i < table.length; i++) {
    const cells = table[i] as readonly string[];
    if (cells.every((cell) => tidy(cell) === '')) continue;
    const line = i + 1;
    const whom = tidy(cells[identity.at]);
    const found = byKey.get(folded(whom)) ?? [];
    const [student] = found;
    const wrong = (message: string, column = '') => rows.push({ line, whom, column, kind: 'wrong', message });
    if (!whom) wrong(`No ${identity.by} stands in this row.`);
    else if (!student) wrong(`No student here has the ${identity.by} “${whom.slice(0, 60)}”.`);
    else if (found.length > 1)
      wrong(`${found.length} students have the ${identity.by} “${whom}”: tell them apart by student number or email.`);
    else if (namesAnother(tidy(cells[nameAt]), student))
      wrong(
        `The ${identity.by} “${whom}” is ${student.name}’s, and “${tidy(cells[nameAt]).slice(0, 60)}” stands beside it. Mend the row, or take the name out.`,
      );
    else if (seen.has(student.userId)) wrong(`${student.name} stands in row ${seen.get(student.userId)} already.`);
    else {
      seen.set(student.userId, line);
      for (const { at, column } of targets) {
        const text = tidy(cells[at]);
        const place = { line, whom, column: column.title };
        const isExcused = column.excused.has(student.userId);
        const typed = readScore(text);
        if (typed.kind === 'empty') rows.push({ ...place, kind: 'empty' });
        else if (isExcused && folded(text) === 'excused') rows.push({ ...place, kind: 'same' });
        else if (isExcused)
          wrong(`${student.name} is excused here; take that away in the gradebook first.`, column.title);
        else if (typed.kind === 'wrong') wrong(typed.message, column.title);
        else {
          const { points } = typed;
          const from = column.points.get(student.userId) ?? null;
          if (from !== null && Math.abs(from - points) < 1e-9) rows.push({ ...place, kind: 'same' });
          else
            rows.push({
              ...place,
              kind: 'change',
              columnId: column.id,
              userId: student.userId,
              from,
              points,
              above: aboveWorth(points, column.worth) !== null,
            });
        }
      }
    }
  }
  return { ok: true, rows, by: identity.by, columns: targets.map(({ column }) => column.title), ignored };
}
