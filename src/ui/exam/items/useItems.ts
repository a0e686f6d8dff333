'use client';
import { useEffect, useRef, useState } from 'react';
import type { Problem } from '@/core/base/result';
import { changeItems, type ItemChange } from '@/core/exam/items/changeItems';
import type { Item } from '@/core/exam/items/item';
import type { Commands } from '../../kit/commands';
import type { Plan } from '../usePlan';

type ChangeCommand = Commands<'changeExamItems', 'courseId' | 'examId'>['changeExamItems'];

/** What was typed into the row of one item. */
export type Typed = { label?: string; key?: string; points?: number };

const pauseBeforeSending = 600;

/**
 * The items on the page. What is typed into rows stands there at once and is sent together after a pause; what is done to
 * many is checked here by the same rules as on the server, so that a mistake is told before anything is sent.
 */
export function useItems(plan: Plan, begun: Item[], change: ChangeCommand) {
  const [items, setItems] = useState(begun);
  const [problem, setProblem] = useState<{ at: number; message: string } | null>(null);
  const newest = useRef(begun);
  const typed = useRef(new Map<number, Typed>());
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);

  const show = (next: Item[]) => {
    newest.current = next;
    setItems(next);
  };

  const send = async (): Promise<boolean> => {
    clearTimeout(timer.current);
    if (typed.current.size === 0) return true;
    const sent = typed.current;
    typed.current = new Map();
    const each: ItemChange = { do: 'each', changes: [...sent].map(([at, own]) => ({ at, ...own })) };
    const answer = await plan.inTurn((edit) => change({ edit, change: each }));
    // What the server did not take is sent again with the next change, unless it was typed over meanwhile.
    if (!answer) for (const [at, own] of sent) typed.current.set(at, { ...own, ...typed.current.get(at) });
    return answer !== null;
  };
  const latest = useRef(send);
  latest.current = send;
  useEffect(() => () => void latest.current(), []);

  /** Takes over what was typed into a row, unless it cannot be: then the row says why and keeps what was typed. */
  const type = (at: number, own: Typed): boolean => {
    const next = changeItems(newest.current, { do: 'each', changes: [{ at, ...own }] });
    if (!next.ok) {
      setProblem({ at, message: next.problems[0]?.message ?? '' });
      return false;
    }
    setProblem((before) => (before?.at === at ? null : before));
    show(next.value);
    typed.current.set(at, { ...typed.current.get(at), ...own });
    clearTimeout(timer.current);
    timer.current = setTimeout(() => void latest.current(), pauseBeforeSending);
    return true;
  };

  /** Does something to many items. @returns what is wrong with it; null when it is done */
  const doToMany = async (many: ItemChange): Promise<Problem[] | null> => {
    if (!(await send())) return [];
    const here = changeItems(newest.current, many);
    if (!here.ok) return here.problems;
    const answer = await plan.inTurn((edit) => change({ edit, change: many }));
    if (!answer) return [];
    setProblem(null);
    show(answer.items ?? here.value);
    return null;
  };

  return { items, problem, type, doToMany };
}
