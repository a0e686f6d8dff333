import type { Band } from './bands';
import type { GradeGroup } from './courseTotal';

/** How a course's gradebook is computed and shown, apart from its groups and columns. */
export type GradebookRules = {
  /** Whether what was not handed in, and is over, counts as 0 or does not count yet. */
  missing: 'zero' | 'not-yet';
  /** With how many decimals percent and points are shown, 0 to 3. */
  decimals: number;
  /** From the highest to the lowest; empty for none. */
  bands: Band[];
  /** Whether students see their own total and how it is computed. Rules of before have no word of it: they do not. */
  showsTotal?: boolean;
};

/** The rules that a course begins with: what is missing does not count yet, one decimal, no bands. */
export const usualGradebookRules: GradebookRules = { missing: 'not-yet', decimals: 1, bands: [] };

/** The group of what is in no group of its own: all columns, where a course has none. */
export const oneGroup: GradeGroup = {
  id: '',
  title: 'All columns',
  weight: 1,
  counting: 'points',
  drop: 0,
};

/** Something about the weights of groups: an error keeps them from being stored, a warning is only said. */
export type WeightsProblem = { kind: 'error' | 'warning'; message: string };

/**
 * What is wrong with the weights of groups. They are shares of one another, so that they need not sum to 100; that they do
 * not is said, since people mean percent. Columns in no group would count beside groups with a weight of none.
 *
 * @param loose how many columns are in no group
 */
export function weightsProblems(groups: readonly { title: string; weight: number }[], loose: number): WeightsProblem[] {
  const found: WeightsProblem[] = [];
  if (groups.length === 0) return found;
  const sum = groups.reduce((total, group) => total + group.weight, 0);
  for (const group of groups)
    if (!Number.isFinite(group.weight) || group.weight < 0)
      found.push({ kind: 'error', message: `The weight of “${group.title}” is a number from 0 up.` });
  if (found.length) return found;
  if (sum === 0) found.push({ kind: 'error', message: 'All weights are 0: nothing would count.' });
  else if (Math.abs(sum - 100) > 1e-9)
    found.push({
      kind: 'warning',
      message: `The weights sum to ${Math.round(sum * 100) / 100}, not to 100. They are taken as shares of that sum.`,
    });
  if (loose > 0)
    found.push({
      kind: 'warning',
      message: `${loose === 1 ? '1 column is' : `${loose} columns are`} in no group and ${loose === 1 ? 'does' : 'do'} not count.`,
    });
  return found;
}
