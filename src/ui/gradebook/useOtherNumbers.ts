'use client';
import { useCallback, useEffect, useState } from 'react';
import type { Problem } from '@/core/base/result';
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

export const readGroups = (entered: readonly EnteredGroup[]): GradeGroup[] =>
  entered.map((group) => ({ ...group, weight: numberIn(group.weight), drop: Number(group.drop) }));

const sentOf = ({ rules, groups, columns }: Other): NumbersSent => ({
  ...(Object.keys(rules).length ? { rules } : {}),
  ...(groups ? { groups: readGroups(groups) } : {}),
  ...(Object.keys(columns).length ? { columns } : {}),
});

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
  const { other } = value;
  const setOther = (next: (now: Other) => Other) =>
    change((before) => ({
      other: next(before.other),
      seen: before.seen ?? { rules: book.rules, groups: book.groups },
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
    seen: () => value.seen ?? undefined,
    tried,
    problems,
    setRules: (part: Partial<GradebookRules>) => setOther((now) => ({ ...now, rules: { ...now.rules, ...part } })),
    setGroups: (groups: EnteredGroup[]) => setOther((now) => ({ ...now, groups })),
    setColumn: (id: string, part: ColumnPart) =>
      setOther((now) => ({ ...now, columns: { ...now.columns, [id]: { ...now.columns[id], ...part } } })),
    leave: useCallback(() => done(), [done]),
  };
}
