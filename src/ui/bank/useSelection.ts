'use client';
import { useEffect, useRef, useState } from 'react';
import type { QuestionFilter } from '@/core/bank/questionFilter';
import type { QuestionLine, Selection } from './model';

type State = { all: false; ids: Set<string> } | { all: true; but: Set<string> };
const nothing: State = { all: false, ids: new Set() };

/** The selected questions of a list: named one by one, or all that match but some, also those not in view. */
export function useSelection(filter: QuestionFilter, total: number, row: (i: number) => QuestionLine | undefined) {
  const [state, setState] = useState<State>(nothing);
  const last = useRef<string | null>(null);
  const shape = JSON.stringify({ ...filter, sort: '', down: false });
  // biome-ignore lint/correctness/useExhaustiveDependencies: another filter is another list, so nothing of it is selected yet
  useEffect(() => setState(nothing), [shape]);

  const isSelected = (id: string) => (state.all ? !state.but.has(id) : state.ids.has(id));
  const between = (from: string, to: string): string[] => {
    const ids = Array.from({ length: total }, (_, i) => row(i)?.id);
    const [a, b] = [ids.indexOf(from), ids.indexOf(to)].sort((x, y) => x - y) as [number, number];
    return a < 0 ? [to] : ids.slice(a, b + 1).filter((id): id is string => id !== undefined);
  };
  return {
    all: state.all,
    count: state.all ? total - state.but.size : state.ids.size,
    value: (state.all ? { filter, but: [...state.but] } : { ids: [...state.ids] }) as Selection,
    isSelected,
    /** @param through whether everything from the last one touched to this one is meant */
    select: (id: string, on: boolean, through: boolean) => {
      const named = through && last.current ? between(last.current, id) : [id];
      last.current = id;
      setState((before) => {
        const set = new Set(before.all ? before.but : before.ids);
        for (const one of named) {
          if (before.all ? !on : on) set.add(one);
          else set.delete(one);
        }
        return before.all ? { all: true, but: set } : { all: false, ids: set };
      });
    },
    selectAll: () => setState({ all: true, but: new Set() }),
    clear: () => setState(nothing),
  };
}
