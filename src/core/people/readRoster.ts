import Papa from 'papaparse';

/** A row of a class list that can be added. Empty is what it does not hold; the name is there. */
export type RosterRow = {
  line: number;
  /** As it is said: first names first. */
  name: string;
  /** Empty where the list does not tell which part of the name it is. */
  lastName: string;
  email: string;
  studentNumber: string;
  section: string;
};

/** A row that cannot, and why. */
export type BadRosterRow = { line: number; text: string; message: string };

type RosterReading = {
  rows: RosterRow[];
  bad: BadRosterRow[];
  /** Which came first where names were put together of two parts that nothing named; null where there was no doubt. */
  halves: 'first-name' | 'last-name' | null;
  /** Columns that hold something and are none of the four, by their names or places. */
  unread: string[];
  /** Something wrong with the whole list; then there are no rows. */
  problem: string | null;
};

/** The most rows one list may have. */
const longestRoster = 10_000;

const columnNames: Record<'name' | 'email' | 'studentNumber' | 'section', string[]> = {
  name: ['name', 'full name', 'student', 'student name'],
  email: ['email', 'e-mail', 'mail', 'email address', 'e-mail address'],
  studentNumber: ['student number', 'number', 'no', 'no.', 'student no', 'student no.', 'id', 'student id'],
  section: ['section', 'group', 'class'],
};

/** A name in two columns, which are put together as people say them: the first name first. */
const halfNames = {
  first: ['first name', 'first names', 'given name', 'given names', 'forename'],
  last: ['last name', 'last names', 'surname', 'family name'],
};

const emailShape = /^[^\s@<>"',;]+@[^\s@<>"',;.]+(?:\.[^\s@<>"',;.]+)+$/;

/**
 * Reads a class list as CSV or as rows pasted from a spreadsheet (comma, semicolon or tab). A first row can name the
 * columns; of a list without one the columns are told by what they hold. Only a name is needed, in one column or two. Every
 * row comes back either as readable or with a message.
 *
 * @param lastNameFirst whether names in two columns that nothing names begin with the last name; absent: it is told by the
 *   emails, or by the comma and blank of "Lind, Mia"
 */
export function readRoster(text: string, lastNameFirst?: boolean): RosterReading {
  const none = (problem: string): RosterReading => ({ rows: [], bad: [], halves: null, unread: [], problem });
  const tidy = text.replace(/^\ufeff/, '');
  if (tidy.trim() === '') return none('The list is empty.');
  if (tidy.includes('\u0000') || tidy.includes('\ufffd'))
    return none('The list is not readable as UTF-8 text. Save it as "CSV UTF-8" and try again.');
  const { data, meta } = Papa.parse<string[]>(tidy, { skipEmptyLines: false, delimiter: delimiterOf(tidy) });
  const named = columnsNamed(data);
  const [header, ...lines] = named ? data : [columnsGuessed(data), ...data];
  const columns = (header ?? []).map((cell) => cell.trim().toLowerCase());
  const place = (name: keyof typeof columnNames) => columns.findIndex((column) => columnNames[name].includes(column));
  const places = {
    name: place('name'),
    email: place('email'),
    studentNumber: place('studentNumber'),
    section: place('section'),
  };
  const half = (which: keyof typeof halfNames) => columns.findIndex((column) => halfNames[which].includes(column));
  const halves = { first: half('first'), last: half('last') };
  if (places.name < 0 && halves.first < 0 && halves.last < 0)
    return none(
      'The first row names columns, and none of them is the name. Known are: name (or first name and last name), student number, email, section.',
    );
  const filled = lines
    .map((cells, i) => ({ cells, line: i + (named ? 2 : 1) }))
    .filter(({ cells }) => cells.some((cell) => cell.trim()));
  if (filled.length === 0) return none('There are no rows below the column names.');
  if (filled.length > longestRoster)
    return none(`The list has ${filled.length} rows; at most ${longestRoster} can be read at once.`);

  // An email is known by its shape, whatever the column is called.
  if (places.email < 0) places.email = emailColumn(filled.map(({ cells }) => cells));
  const inHalves = places.name < 0;
  const guessedHalves = inHalves && !named && halves.first >= 0 && halves.last >= 0;
  if (
    guessedHalves &&
    (lastNameFirst ?? lastComesFirst(filled, { ...halves, email: places.email }, meta.delimiter, tidy))
  )
    [halves.first, halves.last] = [halves.last, halves.first];
  const isRead = new Set([...Object.values(places), ...(inHalves ? Object.values(halves) : [])]);
  const widest = filled.reduce((most, { cells }) => Math.max(most, cells.length), 0);
  const unread = Array.from({ length: widest }, (_, at) => at)
    .filter((at) => !isRead.has(at) && filled.some(({ cells }) => (cells[at] ?? '').trim()))
    .map((at) => (named && header?.[at]?.trim()) || `column ${at + 1}`);
  const reading: RosterReading = {
    rows: [],
    bad: [],
    halves: guessedHalves ? (halves.last < halves.first ? 'last-name' : 'first-name') : null,
    unread,
    problem: null,
  };
  const known: Known = { emails: new Map(), numbers: new Map(), names: new Map() };
  for (const { cells, line } of filled) {
    const cell = (at: number) => (at < 0 ? '' : (cells[at] ?? '').trim().replace(/\s+/g, ' '));
    const row: RosterRow = {
      line,
      ...(inHalves ? joined(cell(halves.first), cell(halves.last)) : nameIn(cell(places.name))),
      email: cell(places.email).toLowerCase(),
      studentNumber: cell(places.studentNumber),
      section: cell(places.section),
    };
    const message = rowProblem(row, known);
    if (message) reading.bad.push({ line, text: cells.join(', ').slice(0, 120), message });
    else {
      if (row.email) known.emails.set(row.email, line);
      if (row.studentNumber) known.numbers.set(row.studentNumber, line);
      if (!row.email && !row.studentNumber) known.names.set(row.name, line);
      reading.rows.push(row);
    }
  }
  return reading;
}

/**
 * What parts the cells: a tab or a semicolon that stands in every line, whatever commas there are ("Lind, Mia"); empty where
 * neither does, for the parser to find out.
 */
function delimiterOf(text: string): string {
  const lines = text.split('\n').filter((line) => line.trim());
  return ['\t', ';'].find((sign) => lines.every((line) => line.includes(sign))) ?? '';
}

const joined = (first: string, last: string) => ({
  name: [first, last].filter(Boolean).join(' '),
  lastName: first ? last : '',
});

/** A whole name: "Lind, Mia" is turned round. */
function nameIn(cell: string): { name: string; lastName: string } {
  const [last = '', first = '', more] = cell.split(/, ?/);
  return first && last && more === undefined && !/[;@]/.test(cell) ? joined(first, last) : { name: cell, lastName: '' };
}

/**
 * Whether a first row names columns rather than a person: it holds a known name, or there are emails below it and none in
 * it.
 */
function columnsNamed(rows: readonly string[][]): boolean {
  const cells = (rows[0] ?? []).map((cell) => cell.trim());
  const known = new Set([...Object.values(columnNames), ...Object.values(halfNames)].flat());
  if (cells.some((cell) => emailShape.test(cell))) return false;
  return cells.some((cell) => known.has(cell.toLowerCase())) || emailColumn(rows.slice(1)) >= 0;
}

/** The column in which most rows hold an email; -1 where there is none. */
function emailColumn(rows: readonly string[][]): number {
  const some = rows.filter((cells) => cells.some((cell) => cell.trim())).slice(0, 50);
  const width = Math.max(0, ...some.map((cells) => cells.length));
  return Array.from({ length: width }, (_, at) => at).findIndex(
    (at) =>
      some.length > 0 && some.filter((cells) => emailShape.test((cells[at] ?? '').trim())).length * 2 >= some.length,
  );
}

/**
 * Whether of two columns of names the one to the left holds last names: emails have the parts of a name mostly in the order
 * in which it is said ("mia.lind@"); without such emails, a comma with a blank behind it is how "Lind, Mia" is written.
 */
function lastComesFirst(
  rows: readonly { cells: readonly string[] }[],
  { first, last, email }: { first: number; last: number; email: number },
  delimiter: string,
  text: string,
): boolean {
  let votes = 0;
  for (const { cells } of rows) {
    const local = email < 0 ? '' : ((cells[email] ?? '').trim().toLowerCase().split('@')[0] ?? '');
    const [left, right] = [cells[first], cells[last]].map((cell) => local.indexOf((cell ?? '').trim().toLowerCase()));
    if (left === undefined || right === undefined || left < 0 || right < 0 || left === right) continue;
    votes += right < left ? 1 : -1;
  }
  if (votes !== 0) return votes > 0;
  return (
    delimiter === ',' &&
    text
      .split('\n', 50)
      .filter((line) => line.trim())
      .every((line) => /^[^,]+, /.test(line))
  );
}

/** From so many rows on, words with digits that are all different are student numbers and not sections. */
const enoughToTell = 5;

/**
 * What the columns of a list without names hold: the one with emails; of the others, the first with several words is the
 * name, or else the first without digits. Numbers of which nearly every row has its own are student numbers; so are words
 * with digits ("S1001"), where another column is left for the section or the list is long enough to tell. The first of what
 * is left is the section, unless every row has its own. Where no column holds whole names, two that hold one word without
 * digits in each row, nearly all different, are a name in two parts, as they stand one after the other.
 */
function columnsGuessed(rows: readonly string[][]): string[] {
  const some = rows.filter((cells) => cells.some((cell) => cell.trim())).slice(0, 50);
  const width = Math.max(0, ...some.map((cells) => cells.length));
  const inColumn = (at: number) => some.map((cells) => (cells[at] ?? '').trim());
  const mostly = (shape: RegExp) => (at: number) =>
    inColumn(at).filter((cell) => shape.test(cell)).length * 2 >= some.length;
  const areEmails = mostly(emailShape);
  const areNumbers = mostly(/^[0-9][0-9 -]*$/);
  const haveDigits = mostly(/[0-9]/);
  const areWords = mostly(/\S\s+\S/);
  const allDiffer = (at: number) => {
    const filled = inColumn(at).filter((cell) => cell);
    return new Set(filled).size >= filled.length * 0.9;
  };
  let left = Array.from({ length: width }, (_, at) => at);
  const columns = left.map(() => '');
  const take = (name: string, ...choices: ((at: number) => boolean)[]) => {
    const at = choices.map((fits) => left.find(fits)).find((found) => found !== undefined);
    if (at === undefined) return;
    columns[at] = name;
    left = left.filter((other) => other !== at);
  };
  take('email', areEmails);
  const mayBeHalf = (at: number) => !areWords(at) && !haveDigits(at) && allDiffer(at) && inColumn(at).every(Boolean);
  if (!left.some((at) => areWords(at) && !areNumbers(at))) {
    const [one = -1, other = -1] = left.filter(mayBeHalf);
    // In a short list a section too may differ in each row, but seldom stands right beside the name.
    if (other >= 0 && (some.length >= enoughToTell || other === one + 1)) {
      take('first name', (at) => at === one);
      take('last name', (at) => at === other);
    }
  }
  take(
    'name',
    (at) => !columns.includes('first name') && areWords(at) && !areNumbers(at),
    (at) => !columns.includes('first name') && !haveDigits(at),
    (at) => !columns.includes('first name') && !areNumbers(at),
  );
  // Where there are no emails, students are told apart by numbers.
  const canTell = left.length > 1 || some.length >= enoughToTell || !columns.includes('email');
  take(
    'student number',
    (at) => areNumbers(at) && allDiffer(at),
    (at) => canTell && haveDigits(at) && allDiffer(at),
  );
  take('section', (at) => some.length < enoughToTell || !allDiffer(at));
  return columns;
}

/** On which line something stood first. */
type Known = Record<'emails' | 'numbers' | 'names', Map<string, number>>;

function rowProblem(row: RosterRow, known: Known): string | null {
  if (!row.name) return 'The name is missing.';
  if ([row.name, row.studentNumber, row.section].some((text) => /^[=+\-@]/.test(text)))
    return 'A cell holds a formula. Paste its value instead.';
  if (row.name.includes('@')) return 'The name holds an email: this line is divided otherwise than the others.';
  if (row.name.length > 120) return 'The name is longer than 120 characters.';
  if (row.email && (!emailShape.test(row.email) || row.email.length > 200))
    return `"${row.email.slice(0, 60)}" is not an email address.`;
  if (row.studentNumber.length > 40 || row.section.length > 80) return 'The student number or section is too long.';
  const sameEmail = known.emails.get(row.email);
  if (sameEmail) return `The same email stands on line ${sameEmail}.`;
  const sameNumber = known.numbers.get(row.studentNumber);
  if (row.studentNumber && sameNumber) return `The same student number stands on line ${sameNumber}.`;
  const sameName = row.email || row.studentNumber ? undefined : known.names.get(row.name);
  if (sameName)
    return `The same name stands on line ${sameName}: a student number or an email would tell the two apart.`;
  return null;
}
