import Papa from 'papaparse';

/** A row of a class list that can be added. */
export type RosterRow = { line: number; name: string; email: string; studentNumber: string; section: string };

/** A row that cannot, and why. */
export type BadRosterRow = { line: number; text: string; message: string };

type RosterReading = {
  rows: RosterRow[];
  bad: BadRosterRow[];
  /** Columns that hold something and are none of the four, by their names or places. */
  unread: string[];
  /** Something wrong with the whole list; then there are no rows. */
  problem: string | null;
};

/** The most rows one list may have. */
const longestRoster = 10_000;

const columnNames: Record<keyof Omit<RosterRow, 'line'>, string[]> = {
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
 * columns; of a list without one the columns are told by what they hold. Name, in one column or two, and email are needed. Every row comes back
 * either as readable or with a message.
 */
export function readRoster(text: string): RosterReading {
  const none = (problem: string): RosterReading => ({ rows: [], bad: [], unread: [], problem });
  const tidy = text.replace(/^\ufeff/, '');
  if (tidy.trim() === '') return none('The list is empty.');
  if (tidy.includes('\u0000') || tidy.includes('\ufffd'))
    return none('The list is not readable as UTF-8 text. Save it as "CSV UTF-8" and try again.');
  const { data } = Papa.parse<string[]>(tidy, { skipEmptyLines: false });
  const named = columnsNamed(data[0] ?? []);
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
  const halves = [half('first'), half('last')].filter((at) => at >= 0);
  const lacking = (['name', 'email'] as const).filter(
    (name) => places[name] < 0 && !(name === 'name' && halves.length > 0),
  );
  if (lacking.length)
    return none(
      `The first row must name the columns. Not found: ${lacking.join(' and ')}. Known columns: name (or first name and last name), student number, email, section.`,
    );
  const filled = lines
    .map((cells, i) => ({ cells, line: i + (named ? 2 : 1) }))
    .filter(({ cells }) => cells.some((cell) => cell.trim()));
  if (filled.length === 0) return none('There are no rows below the column names.');
  if (filled.length > longestRoster)
    return none(`The list has ${filled.length} rows; at most ${longestRoster} can be read at once.`);

  const isRead = new Set([...Object.values(places), ...(places.name < 0 ? halves : [])]);
  const widest = filled.reduce((most, { cells }) => Math.max(most, cells.length), 0);
  const unread = Array.from({ length: widest }, (_, at) => at)
    .filter((at) => !isRead.has(at) && filled.some(({ cells }) => (cells[at] ?? '').trim()))
    .map((at) => (named && header?.[at]?.trim()) || `column ${at + 1}`);
  const reading: RosterReading = { rows: [], bad: [], unread, problem: null };
  const emails = new Map<string, number>();
  const numbers = new Map<string, number>();
  for (const { cells, line } of filled) {
    const cell = (at: number) => (at < 0 ? '' : (cells[at] ?? '').trim().replace(/\s+/g, ' '));
    const row: RosterRow = {
      line,
      name: places.name < 0 ? halves.map(cell).filter(Boolean).join(' ') : cell(places.name),
      email: cell(places.email).toLowerCase(),
      studentNumber: cell(places.studentNumber),
      section: cell(places.section),
    };
    const message = rowProblem(row, emails, numbers);
    if (message) reading.bad.push({ line, text: cells.join(', ').slice(0, 120), message });
    else {
      emails.set(row.email, line);
      if (row.studentNumber) numbers.set(row.studentNumber, line);
      reading.rows.push(row);
    }
  }
  return reading;
}

/** Whether a first row names columns rather than a person: it holds no email. */
const columnsNamed = (cells: readonly string[]): boolean => !cells.some((cell) => emailShape.test(cell.trim()));

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
  const canTell = left.length > 1 || some.length >= enoughToTell;
  take(
    'student number',
    (at) => areNumbers(at) && allDiffer(at),
    (at) => canTell && haveDigits(at) && allDiffer(at),
  );
  take('section', (at) => some.length < enoughToTell || !allDiffer(at));
  return columns;
}

function rowProblem(row: RosterRow, emails: Map<string, number>, numbers: Map<string, number>): string | null {
  if (!row.name) return 'The name is missing.';
  if (!row.email) return 'The email is missing.';
  if ([row.name, row.studentNumber, row.section].some((text) => /^[=+\-@]/.test(text)))
    return 'A cell holds a formula. Paste its value instead.';
  if (row.name.length > 120) return 'The name is longer than 120 characters.';
  if (!emailShape.test(row.email) || row.email.length > 200)
    return `"${row.email.slice(0, 60)}" is not an email address.`;
  if (row.studentNumber.length > 40 || row.section.length > 80) return 'The student number or section is too long.';
  const sameEmail = emails.get(row.email);
  if (sameEmail) return `The same email stands on line ${sameEmail}.`;
  const sameNumber = numbers.get(row.studentNumber);
  if (row.studentNumber && sameNumber) return `The same student number stands on line ${sameNumber}.`;
  return null;
}
