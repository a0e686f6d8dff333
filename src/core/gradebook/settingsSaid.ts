import { pointsText } from '../base/rounding';
import { counted, pointsSaid } from '../base/words';
import type { Band } from './bands';
import type { Curve, GradebookColumn, GradeGroup, LateRule } from './courseTotal';
import type { GradebookRules } from './gradebookRules';

/** Everything by which the totals of a course are computed and shown. */
export type BookSettings = {
  rules: GradebookRules;
  /** In their order; empty where all columns are one group. */
  groups: readonly GradeGroup[];
  /** In their order. */
  columns: readonly GradebookColumn[];
};

/** What becomes of what was not handed in and is over, in words. */
export const missingSaid: Readonly<Record<GradebookRules['missing'], string>> = {
  'not-yet': 'does not count yet',
  zero: 'counts as 0',
};

/** What students see of their total, in words. */
export const totalShownSaid = (showsTotal: boolean | undefined): string =>
  showsTotal ? 'their own total' : 'no total of the course';

/** A share as percent with at most one decimal, as it is set. */
const percent = (share: number) => `${Math.round(share * 1000) / 10} %`;

/** A curve in words. @example curveSaid({ kind: 'add', points: 2 }) // '2 points added' */
export const curveSaid = (curve: Curve | null | undefined): string =>
  !curve
    ? 'no curve'
    : curve.kind === 'add'
      ? `${pointsText(curve.points)} ${curve.points === 1 ? 'point' : 'points'} added`
      : 'the best score made full';

/** A deduction for being late in words. @example lateSaid({ perDay: 0.1, floor: 0 }) // '10 % off for each day late' */
export const lateSaid = (late: LateRule | null | undefined): string =>
  late
    ? `${percent(late.perDay)} off for each day late${late.floor > 0 ? `, down to ${percent(late.floor)}` : ''}`
    : 'nothing off for being late';

/** Bands in words. @example bandsSaid([]) // 'none' */
export const bandsSaid = (bands: readonly Band[]): string =>
  bands.map((one) => `${one.label} from ${pointsText(one.from)} %`).join(', ') || 'none';

const decimalsSaid = (decimals: number) => (decimals === 0 ? 'no decimals' : counted(decimals, 'decimal'));

/** What is set of a group or a column, in words, by its name. */
type Said = Readonly<Record<string, string>>;

const groupSaid = (group: GradeGroup): Said => ({
  weight: pointsText(group.weight),
  counting: group.counting === 'equal' ? 'each column weighs the same' : 'a point is a point',
  dropping: group.drop === 0 ? 'nothing' : group.drop === 1 ? 'the weakest' : `the ${group.drop} weakest`,
  title: group.title,
});

const columnSaid = (column: GradebookColumn, groups: readonly GradeGroup[]): Said => ({
  worth: pointsSaid(column.worth),
  group: groups.find((one) => one.id === column.groupId)?.title ?? 'none',
  'extra credit': column.extraCredit ? 'yes' : 'no',
  curve: curveSaid(column.curve),
  'late deduction': lateSaid(column.late),
  title: column.title,
});

const now = (what: string, before: string, after: string) => `${what}: ${after}, before ${before}.`;

/** What was added, taken out, or is otherwise of things with a title, one sentence each. */
function thingsChanged<Thing extends { id: string; title: string }>(
  kind: string,
  before: readonly Thing[],
  after: readonly Thing[],
  said: { before: (thing: Thing) => Said; after: (thing: Thing) => Said },
): string[] {
  const had = new Map(before.map((one) => [one.id, one]));
  const has = new Set(after.map((one) => one.id));
  const both = (things: readonly Thing[]) =>
    things.flatMap(({ id }) => (had.has(id) && has.has(id) ? id : [])).join('\n');
  return [
    ...after.flatMap((thing) => {
      const was = had.get(thing.id);
      const own = said.after(thing);
      const [first = ''] = Object.keys(own);
      if (!was) return [`${kind} “${thing.title}” added: ${first} ${own[first]}.`];
      const other = said.before(was);
      return Object.keys(own).flatMap((name) =>
        own[name] === other[name]
          ? []
          : now(`${kind} “${was.title}”, ${name}`, other[name] as string, own[name] as string),
      );
    }),
    ...before.flatMap((thing) => (has.has(thing.id) ? [] : `${kind} “${thing.title}” taken out.`)),
    ...(both(before) === both(after) ? [] : [`${kind}s stand in another order.`]),
  ];
}

/**
 * What is otherwise in the settings of a gradebook, one sentence for each thing; empty where nothing is.
 *
 * @param before as they were; they are named by what they were called then
 */
export function settingsChanged(before: BookSettings, after: BookSettings): string[] {
  const rules: [what: string, before: string, after: string][] = [
    ['What was not handed in', missingSaid[before.rules.missing], missingSaid[after.rules.missing]],
    ['Points and percent', decimalsSaid(before.rules.decimals), decimalsSaid(after.rules.decimals)],
    ['Students see', totalShownSaid(before.rules.showsTotal), totalShownSaid(after.rules.showsTotal)],
    ['Bands', bandsSaid(before.rules.bands), bandsSaid(after.rules.bands)],
  ];
  const comments = (settings: BookSettings) => settings.rules.bands.map((one) => one.comment).join('\n');
  return [
    ...rules.flatMap(([what, was, is]) => (was === is ? [] : now(what, was, is))),
    ...(comments(before) !== comments(after) && bandsSaid(before.rules.bands) === bandsSaid(after.rules.bands)
      ? ['What goes to students with their band is worded anew.']
      : []),
    ...thingsChanged('Group', before.groups, after.groups, { before: groupSaid, after: groupSaid }),
    ...thingsChanged('Column', before.columns, after.columns, {
      before: (column) => columnSaid(column, before.groups),
      // A group that was only given another name is no other group.
      after: (column) =>
        columnSaid(
          column,
          after.groups.map((group) => ({
            ...group,
            title: before.groups.find((one) => one.id === group.id)?.title ?? group.title,
          })),
        ),
    }),
  ];
}
