'use client';
import { useMemo } from 'react';
import { counted, folded } from '@/core/base/words';
import {
  type PersonCell,
  personCellNames,
  personCells,
  personCellText,
  readPersonCell,
  sharedNumbers,
} from '@/core/people/personCells';
import { type CellAt, keyOf, type Reading, type TypedGrid, useTypedCells } from '../cells/useTypedCells';
import type { PeopleCommands, Person } from './model';

const isTyped = (column: string): column is PersonCell => (personCells as readonly string[]).includes(column);

/** The columns of the list in their order, with what they are called. */
const columns: Readonly<Record<string, string>> = {
  name: 'name',
  role: 'role',
  section: personCellNames.section,
  studentNumber: personCellNames.studentNumber,
  signsInAs: 'name to sign in with',
  extraPercent: personCellNames.extraPercent,
};

/** A cell as it is said and shown. @example shownPersonCell('extraPercent', '25') // '+25 %' */
export const shownPersonCell = (cell: PersonCell, text: string): string => {
  const read = readPersonCell(cell, text);
  const own = read.kind === 'text' ? read.text : text;
  return cell === 'extraPercent' && own ? `+${own} %` : own;
};

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** Sections, student numbers and extra time as they are typed and pasted into the list of people. */
export function usePeopleCells(
  people: readonly Person[],
  sections: readonly { name: string }[],
  commands: Pick<PeopleCommands, 'typePeople' | 'undoChange'>,
) {
  const grid = useMemo((): TypedGrid<string> => {
    const known = new Map(people.map((person) => [person.membershipId, person]));
    const find = ({ row, column }: CellAt) => {
      const person = known.get(row);
      return person && column in columns ? { person, name: capital(columns[column] ?? '') } : null;
    };
    const standing = ({ row, column }: CellAt) => {
      const person = known.get(row);
      return person && isTyped(column) ? personCellText(column, person) : '';
    };
    return {
      name: 'people',
      many: (count) => counted(count, 'cell'),
      place: 'the list of people',
      page: people,
      columns: Object.keys(columns),
      cell(at) {
        const found = find(at);
        const text = standing(at);
        return found && { rowName: found.person.name, columnName: found.name, text, before: text };
      },
      read(at, text, all): Reading {
        if (!isTyped(at.column))
          return { kind: 'wrong', message: `The ${columns[at.column] ?? 'cell'} is set under “Change”.` };
        const read = readPersonCell(at.column, text);
        if (read.kind === 'wrong') return read;
        if (at.column === 'studentNumber' && read.text) {
          // As everybody's would be: numbers may change hands in one paste.
          const numbers = people.map(({ membershipId, name, studentNumber }) => ({
            membershipId,
            name,
            studentNumber: all.get(keyOf({ row: membershipId, column: at.column }))?.trim() ?? studentNumber,
          }));
          const other = sharedNumbers(numbers).get(at.row);
          if (other) return { kind: 'wrong', message: `${other} has the student number ${read.text}.` };
        }
        if (at.column !== 'section' || !read.text || sections.some((one) => one.name === read.text))
          return { kind: 'right', doubt: null };
        const near = sections.find((one) => folded(one.name) === folded(read.text));
        return {
          kind: 'right',
          doubt: `There is no section “${read.text}” yet${near ? `, but “${near.name}”` : ''}.`,
        };
      },
      isThere(at, text) {
        const read = isTyped(at.column) ? readPersonCell(at.column, text) : null;
        return read?.kind === 'text' && read.text === standing(at);
      },
      says(at, text) {
        const found = find(at);
        const shown = isTyped(at.column) ? shownPersonCell(at.column, text) : text;
        return `${found?.name} of ${found?.person.name}: ${shown || 'emptied'}`;
      },
      async enter(cells, newSections) {
        const typed = cells.flatMap(({ row, column, text, before }) =>
          isTyped(column) ? { membershipId: row, cell: column, text, before } : [],
        );
        const answer = await commands.typePeople({ newSections, cells: typed });
        if (!answer.ok) return answer;
        const befores = typed.map(({ cell, text }) => {
          const read = readPersonCell(cell, text);
          return read.kind === 'text' ? read.text : text;
        });
        return { ...answer, value: { auditId: answer.value.auditId, befores } };
      },
      undo: (auditId) => commands.undoChange(auditId),
      look: null,
    };
  }, [people, sections, commands]);
  return useTypedCells(grid);
}
