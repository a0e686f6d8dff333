'use client';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { type Clash, isAlike, merged } from '@/core/base/merge';
import type { Problem } from '@/core/base/result';
import { pointsText } from '@/core/base/rounding';
import type { GradebookColumn, GradeGroup } from '@/core/gradebook/courseTotal';
import type { GradebookRules } from '@/core/gradebook/gradebookRules';
import type { Gradebook } from '@/server/gradebook/gradebook';
import type { Tried } from '@/server/gradebook/withOtherNumbers';
import { useWritten } from '../keep/useWritten';
import type { Commands } from '../kit/commands';
import { numberIn } from '../kit/numberIn';

/** A group as it is being typed. */
export type EnteredGroup = Omit<GradeGroup, 'weight' | 'drop'> & { weight: string; drop: string };

export type ColumnPart = Partial<
  Pick<GradebookColumn, 'extraCredit' | 'curve' | 'late'> & { worth: number | null; groupId: string | null }
>;

type NumbersSent = {
  rules?: Partial<GradebookRules>;
  groups?: GradeGroup[];
  columns?: Record<string, ColumnPart>;
};

type Other = { rules: Partial<GradebookRules>; groups: EnteredGroup[] | null; columns: Record<string, ColumnPart> };

/** What is tried, and what stood on the page when the first of it was changed: whoever keeps it overwrites nothing that came since. */
type Trying = { other: Other; seen: Pick<Gradebook, 'rules' | 'groups'> | null };

const nothing: Trying = { other: { rules: {}, groups: null, columns: {} }, seen: null };
/** Typing goes on for a while before it is worth working everything out. */
const pause = 250;

/** The groups as they are typed, of those that are kept. */
export const enteredOf = (groups: readonly GradeGroup[]): EnteredGroup[] =>
  groups.map((group) => ({ ...group, weight: pointsText(group.weight), drop: String(group.drop) }));

export const readGroups = (entered: readonly EnteredGroup[]): GradeGroup[] =>
  entered.map((group) => ({ ...group, weight: numberIn(group.weight), drop: Number(group.drop) }));

const sentOf = ({ rules, groups, columns }: Other): NumbersSent => ({
  ...(Object.keys(rules).length ? { rules } : {}),
  ...(groups ? { groups: readGroups(groups) } : {}),
  ...(Object.keys(columns).length ? { columns } : {}),
});

/** What is tried, joined with what others have kept since it was begun, and where both touched the same. */
function joinedOther({ other, seen }: Trying, now: NonNullable<Trying['seen']>): { other: Other; clashes: Clash[] } {
  if (seen === null || isAlike(seen, now)) return { other, clashes: [] };
  const rules = merged({ ...seen.rules }, { ...seen.rules, ...other.rules }, { ...now.rules });
  const groups = other.groups === null ? null : merged(enteredOf(seen.groups), other.groups, enteredOf(now.groups));
  return {
    other: { ...other, groups: groups?.value ?? null },
    clashes: [...rules.clashes, ...(groups?.clashes ?? []).map((one) => ({ ...one, path: ['groups', ...one.path] }))],
  };
}

/** A column as it would be with other numbers. */
export function withPart<Column extends Gradebook['columns'][number]>(column: Column, part: ColumnPart = {}): Column {
  const { worth, groupId, ...rest } = part;
  return {
    ...column,
    ...rest,
    ...(worth === undefined ? {} : { worth: worth ?? column.usualWorth ?? 0, ownWorth: worth }),
    ...(groupId === undefined ? {} : { groupId: groupId ?? '' }),
  };
}

/**
 * Numbers of a gradebook that are changed and not kept yet, with what they would make of the totals, worked out by the
 * server as they change.
 */
export function useOtherNumbers(
  tryOther: Commands<'withOtherNumbers', 'courseId'>['withOtherNumbers'],
  book: Pick<Gradebook, 'rules' | 'groups'>,
) {
  const { value, change, done, isUnfinished, isKept, broughtBack } = useWritten<Trying>(
    'numbers',
    () => 'Columns and weights being changed',
    nothing,
  );
  const { rules, groups } = book;
  // What others have kept since is joined with what is tried here; where both touched the same, what is tried stands.
  const { other, clashes } = useMemo(() => joinedOther(value, { rules, groups }), [value, rules, groups]);
  const setOther = (next: (now: Other) => Other) =>
    change((before) => ({
      other: next(joinedOther(before, { rules, groups }).other),
      seen: { rules, groups },
    }));
  const [tried, setTried] = useState<Tried | null>(null);
  const [problems, setProblems] = useState<Problem[]>([]);
  useEffect(() => {
    setProblems([]);
    if (!isUnfinished) return setTried(null);
    let gone = false;
    const timer = setTimeout(() => {
      void tryOther(sentOf(other)).then(
        (answer) => {
          if (gone) return;
          setTried(answer.ok ? answer.value : null);
          setProblems(answer.ok ? [] : answer.problems);
        },
        () => gone || setTried(null),
      );
    }, pause);
    return () => {
      gone = true;
      clearTimeout(timer);
    };
  }, [other, isUnfinished, tryOther]);
  return {
    other,
    changed: isUnfinished,
    /** Whether this browser keeps it until it is kept for everybody; and whether it was brought back from an earlier visit. */
    isKept,
    broughtBack,
    sent: () => sentOf(other),
    /** What stands on the page: where others touched the same, their numbers stand beside what is tried. */
    seen: { rules, groups },
    clashes,
    tried,
    problems,
    setRules: (part: Partial<GradebookRules>) => setOther((now) => ({ ...now, rules: { ...now.rules, ...part } })),
    setGroups: (groups: EnteredGroup[]) => setOther((now) => ({ ...now, groups })),
    setColumn: (id: string, part: ColumnPart) =>
      setOther((now) => ({ ...now, columns: { ...now.columns, [id]: { ...now.columns[id], ...part } } })),
    leave: useCallback(() => done(), [done]),
  };
}
