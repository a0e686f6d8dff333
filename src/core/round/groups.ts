/** By what people are put together: their result, or the objective they missed most. */
export const groupings = ['result', 'objective'] as const;
/** One of them. */
export type Grouping = (typeof groupings)[number];
/** Those who need the same stand together, or each group gets some of all. */
export const groupKinds = ['alike', 'mixed'] as const;
/** One of them. */
export type GroupKind = (typeof groupKinds)[number];

/** Somebody who took part, as far as it decides with whom they are put together. */
export type Grouped = {
  userId: string;
  /** In percent of the points. */
  percent: number;
  /** The credit they earned by objective, each in [0, 1]; objectives they were not asked about are missing. */
  objectives: ReadonlyMap<string, number>;
};

/** A group: who is in it, the worst result first, and what all of them missed most. */
export type Group = { members: string[]; objective: string | null };

/** The objective of which somebody earned least, and less than all; null where there is none. Of equals the first by name. */
export function mostMissed({ objectives }: Pick<Grouped, 'objectives'>): string | null {
  let worst: string | null = null;
  for (const [objective, credit] of [...objectives].sort(([a], [b]) => (a < b ? -1 : 1)))
    if (credit < 1 && (worst === null || credit < (objectives.get(worst) ?? 1))) worst = objective;
  return worst;
}

/**
 * Puts people into ⌈n ÷ size⌉ groups whose sizes differ by one at most.
 *
 * *Alike*: sorted by what they are grouped by, and cut. *Mixed*: dealt in turn from that order, forth and back, so that
 * every group gets some of the weakest and some of the strongest. By objective, people are sorted by the objective they
 * missed most, and within it by result.
 *
 * @param size from 1
 */
export function groupsOf(people: readonly Grouped[], size: number, by: Grouping, kind: GroupKind): Group[] {
  if (people.length === 0) return [];
  const sorted = people
    .map((one) => ({ ...one, missed: mostMissed(one) }))
    .sort(
      (a, b) =>
        (by === 'objective' ? compared(a.missed ?? '\uffff', b.missed ?? '\uffff') : 0) ||
        a.percent - b.percent ||
        compared(a.userId, b.userId),
    );
  const count = Math.ceil(people.length / Math.max(1, Math.floor(size)));
  const groups: (typeof sorted)[] = Array.from({ length: count }, () => []);
  sorted.forEach((one, i) => {
    const round = Math.floor(i / count);
    const place = i % count;
    const at = kind === 'alike' ? Math.floor((i * count) / sorted.length) : round % 2 === 0 ? place : count - 1 - place;
    groups[at]?.push(one);
  });
  return groups.map((members) => ({
    members: [...members]
      .sort((a, b) => a.percent - b.percent || compared(a.userId, b.userId))
      .map((one) => one.userId),
    objective: shared(members.map((one) => one.missed)),
  }));
}

const compared = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);

/** What all of them have; null where they differ. */
const shared = (values: readonly (string | null)[]): string | null =>
  values.every((one) => one === values[0]) ? (values[0] ?? null) : null;
