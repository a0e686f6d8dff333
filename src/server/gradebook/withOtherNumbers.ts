import { ok, type Result } from '@/core/base/result';
import {
  bestScores,
  type Computing,
  courseTotal,
  displayedTotal,
  type GradebookCell,
} from '@/core/gradebook/courseTotal';
import { type GradebookRules, oneGroup } from '@/core/gradebook/gradebookRules';
import { statisticsOf } from '@/core/gradebook/statistics';
import { query } from '../house/useCase';
import { toCourse } from '../people/toCourse';
import { type BookColumn, type BookData, bookData } from './bookData';
import { type NumbersInput, numbersInput, numbersRefused } from './bookSettings';

/** What the totals of a course come to. */
type Totals = { mean: number | null; bands: Record<string, number> };

/** What other numbers would make of the totals. */
export type Tried = {
  before: Totals;
  after: Totals;
  /** How many students' displayed totals would move, and who would get another band. */
  moved: number;
  crossing: { name: string; from: string; to: string }[];
};

/** Works the gradebook out under other numbers. Nothing is stored. */
export const withOtherNumbers = query({
  admits: toCourse('gradebook.see'),
  takes: [numbersInput],
  does({ courseId, context }, input): Result<Tried> {
    const problems = numbersRefused(input);
    if (problems.length) return { ok: false, problems };
    const data = bookData(context.db, courseId, context.now);
    const other = underOther(data, input);
    const before = totalsUnder(data, data.rules, data.computing, data.cells);
    const after = totalsUnder(data, other.rules, other.computing, other.cells);
    return ok({
      before: summed(before),
      after: summed(after),
      moved: before.filter((one, i) => one.text !== after[i]?.text).length,
      crossing: before.flatMap((one, i) => {
        const to = after[i]?.band?.label ?? '';
        const from = one.band?.label ?? '';
        return from === to ? [] : [{ name: one.name, from, to }];
      }),
    });
  },
});

/** What a gradebook is computed from, were other numbers set: as {@link bookData} would give it after they are kept. */
function underOther(
  data: BookData,
  { rules: otherRules, groups: otherGroups, columns: parts = {} }: NumbersInput,
): { rules: GradebookRules; computing: Computing; cells: BookData['cells'] } {
  const rules = { ...data.rules, ...otherRules };
  // A new group has no id yet, as columns without a group have none.
  const ownGroups = otherGroups?.map((group, i) => ({ ...group, id: group.id || `new ${i}` })) ?? data.ownGroups;
  const grouping = ownGroups.length > 0;
  const columns = data.columns.map((column): BookColumn => {
    const { worth, groupId, title: _, ...part } = parts[column.id] ?? {};
    const group = groupId === undefined ? (data.ownGroups.length ? column.groupId : '') : (groupId ?? '');
    return {
      ...column,
      ...part,
      worth: worth === undefined ? column.worth : (worth ?? column.usualWorth ?? 0),
      groupId: grouping ? group : oneGroup.id,
    };
  });
  const cells = new Map(
    [...data.cells].map(([userId, own]) => [
      userId,
      own.map((cell, i): GradebookCell => {
        const column = columns[i];
        // What was entered by hand are points, whatever the column is worth.
        return column?.kind === 'manual' && cell.kind === 'score' ? { ...cell, possible: column.worth } : cell;
      }),
    ]),
  );
  return {
    rules,
    cells,
    computing: {
      columns,
      groups: grouping ? ownGroups : [oneGroup],
      missing: rules.missing,
      best: bestScores(columns, [...cells.values()]),
    },
  };
}

const totalsUnder = (
  { students }: BookData,
  { bands, decimals }: GradebookRules,
  computing: Computing,
  cells: BookData['cells'],
) =>
  students.map(({ userId, name }) => {
    const { percent } = courseTotal(computing, cells.get(userId) ?? []);
    return { name, percent, ...displayedTotal(percent, bands, decimals) };
  });

function summed(totals: ReturnType<typeof totalsUnder>): Totals {
  const bands: Record<string, number> = {};
  for (const { band } of totals) if (band) bands[band.label] = (bands[band.label] ?? 0) + 1;
  return { mean: statisticsOf(totals.flatMap((one) => one.percent ?? []))?.mean ?? null, bands };
}
