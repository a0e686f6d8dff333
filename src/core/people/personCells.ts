/** What of a person is typed into cells of the list of people: the names of its columns. */
export const personCells = ['section', 'studentNumber', 'extraPercent'] as const;
/** One of them. */
export type PersonCell = (typeof personCells)[number];

/** What these columns are called in a sentence. */
export const personCellNames: Readonly<Record<PersonCell, string>> = {
  section: 'section',
  studentNumber: 'student number',
  extraPercent: 'extra time',
};

/** The most extra time there is, in percent. */
export const mostExtraPercent = 300;

/** What was typed into such a cell, as it is kept, or the reason why it cannot be. */
type TypedPerson = { kind: 'text'; text: string } | { kind: 'wrong'; message: string };

/**
 * Reads what was typed into a cell of a person. Extra time is whole percent, with or without its signs; none is an empty
 * text.
 *
 * @example readPersonCell('extraPercent', '+25 %') // { kind: 'text', text: '25' }
 */
export function readPersonCell(cell: PersonCell, typed: string): TypedPerson {
  const text = typed.trim();
  if (cell === 'section')
    return text.length > 80
      ? { kind: 'wrong', message: 'A section has at most 80 characters.' }
      : { kind: 'text', text };
  if (cell === 'studentNumber')
    return text.length > 40
      ? { kind: 'wrong', message: 'A student number has at most 40 characters.' }
      : { kind: 'text', text };
  const bare = text.replace(/^\+/, '').replace(/%$/, '').trim();
  if (/^0*$/.test(bare)) return { kind: 'text', text: '' };
  if (/^[-−–]/.test(bare)) return { kind: 'wrong', message: 'Extra time cannot be negative.' };
  if (!/^\d{1,9}$/.test(bare))
    return { kind: 'wrong', message: `“${text.slice(0, 40)}” is no whole number of percent, like 25.` };
  if (Number(bare) > mostExtraPercent) return { kind: 'wrong', message: `At most ${mostExtraPercent} %.` };
  return { kind: 'text', text: String(Number(bare)) };
}

/**
 * What stands in such a cell.
 *
 * @example personCellText('extraPercent', { section: null, studentNumber: null, extraPercent: 0 }) // ''
 */
export const personCellText = (
  cell: PersonCell,
  person: { section: string | null; studentNumber: string | null; extraPercent: number },
): string => (cell === 'extraPercent' ? String(person.extraPercent || '') : (person[cell] ?? ''));

/**
 * Who of a course would have a student number that somebody else has as well: a number is one person's.
 *
 * @param numbers everybody's, as they would be; null for none
 * @returns for each who shares theirs, the name of another one who has it
 */
export function sharedNumbers(
  numbers: readonly { membershipId: string; name: string; studentNumber: string | null }[],
): Map<string, string> {
  const holders = new Map<string, { membershipId: string; name: string }[]>();
  for (const { membershipId, name, studentNumber } of numbers)
    if (studentNumber) holders.set(studentNumber, [...(holders.get(studentNumber) ?? []), { membershipId, name }]);
  return new Map(
    [...holders.values()].flatMap((own) =>
      own.length < 2
        ? []
        : own.map((one, i) => [one.membershipId, (own[i === 0 ? 1 : 0] as (typeof own)[number]).name] as const),
    ),
  );
}
