'use client';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { Problem } from '@/core/base/result';
import type { GradebookColumn, GradeGroup } from '@/core/gradebook/courseTotal';
import type { GradebookRules } from '@/core/gradebook/gradebookRules';
import type { Gradebook } from '@/server/gradebook/gradebook';
import type { Tried } from '@/server/gradebook/withOtherNumbers';
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

const none: Other = { rules: {}, groups: null, columns: {} };
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
  const [other, putOther] = useState(none);
  /** What stood on the page when the first of it was changed: whoever keeps it overwrites nothing that came since. */
  const seen = useRef<Pick<Gradebook, 'rules' | 'groups'> | null>(null);
  const setOther = (change: (now: Other) => Other) => {
    seen.current ??= { rules: book.rules, groups: book.groups };
    putOther(change);
  };
  const [tried, setTried] = useState<Tried | null>(null);
  const [problems, setProblems] = useState<Problem[]>([]);
  useEffect(() => {
    setProblems([]);
    if (other === none) return setTried(null);
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
  }, [other, tryOther]);
  return {
    other,
    changed: other !== none,
    sent: () => sentOf(other),
    seen: () => seen.current ?? undefined,
    tried,
    problems,
    setRules: (part: Partial<GradebookRules>) => setOther((now) => ({ ...now, rules: { ...now.rules, ...part } })),
    setGroups: (groups: EnteredGroup[]) => setOther((now) => ({ ...now, groups })),
    setColumn: (id: string, part: ColumnPart) =>
      setOther((now) => ({ ...now, columns: { ...now.columns, [id]: { ...now.columns[id], ...part } } })),
    leave: useCallback(() => {
      seen.current = null;
      putOther(none);
    }, []),
  };
}
