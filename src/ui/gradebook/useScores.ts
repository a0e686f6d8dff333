'use client';
import { useMemo } from 'react';
import { pointsText, roundHalfUp } from '@/core/base/rounding';
import { counted } from '@/core/base/words';
import { aboveWorth, readScore } from '@/core/gradebook/typedScores';
import type { Gradebook } from '@/server/gradebook/gradebook';
import { type CellAt, type Reading, type TypedGrid, useTypedCells } from '../cells/useTypedCells';
import type { Commands } from '../kit/commands';

export type ScoreCommands = Commands<'enterCells' | 'undoChange', 'courseId'>;

const pointsOf = (text: string): number | null => {
  const score = readScore(text);
  return score.kind === 'points' ? score.points : null;
};

/**
 * Scores as they are typed and pasted into the gradebook.
 *
 * @param look looks again at what has changed in the gradebook, and at some students besides; says whether it could
 */
export function useScores(
  book: Gradebook,
  commands: ScoreCommands,
  look: (userIds: readonly string[]) => Promise<boolean>,
) {
  const grid = useMemo((): TypedGrid<number> => {
    const rows = new Map(book.rows.map((row) => [row.userId, row]));
    const places = new Map(book.columns.map((column, place) => [column.id, place]));
    const find = (at: CellAt) => {
      const row = rows.get(at.row);
      const place = places.get(at.column);
      const column = place === undefined ? undefined : book.columns[place];
      return row && column && place !== undefined ? { row, column, place, points: row.points[place] ?? null } : null;
    };
    return {
      name: 'scores',
      many: (count) => counted(count, 'score'),
      place: 'the gradebook',
      page: book,
      columns: book.columns.map((column) => column.id),
      cell(at) {
        const found = find(at);
        return (
          found && {
            rowName: found.row.name,
            columnName: found.column.title,
            text: found.points === null ? '' : pointsText(found.points),
            before: found.row.entered[found.place] ?? 0,
          }
        );
      },
      read(at, text): Reading {
        const column = find(at)?.column;
        if (column?.kind !== 'manual') return { kind: 'wrong', message: 'Scores of a sitting come from its marks.' };
        const score = readScore(text);
        return score.kind === 'wrong' ? score : { kind: 'right', doubt: aboveWorth(pointsOf(text), column.worth) };
      },
      isThere(at, text) {
        const points = pointsOf(text);
        const shown = points === null ? null : Number(roundHalfUp(points, book.rules.decimals));
        return shown === (find(at)?.points ?? null);
      },
      says(at, text) {
        const found = find(at);
        const points = pointsOf(text);
        return `${found?.column.title} of ${found?.row.name}: ${points === null ? 'emptied' : pointsText(points)}`;
      },
      async enter(cells, above) {
        const answer = await commands.enterCells({
          above,
          cells: cells.map(({ row, column, text, before }) => ({
            userId: row,
            columnId: column,
            points: pointsOf(text),
            before,
          })),
        });
        return answer.ok
          ? { ...answer, value: { auditId: answer.value.auditId, befores: answer.value.entryIds } }
          : answer;
      },
      undo: (auditId) => commands.undoChange(auditId),
      look,
    };
  }, [book, commands, look]);
  return useTypedCells(grid);
}
