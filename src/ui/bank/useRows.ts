'use client';
import { useEffect, useRef, useState } from 'react';
import type { QuestionFilter } from '@/core/bank/questionFilter';
import type { BankCommands, QuestionLine } from './model';

/** How many rows come at once; the server sends no more. */
const windowSize = 120;

type List = { total: number; rows: QuestionLine[] };

/**
 * The rows of a long list, fetched in windows as they come into view.
 *
 * @returns `row(i)` gives a row, or undefined while it is on its way
 */
export function useRows(first: List, filter: QuestionFilter, more: BankCommands['listQuestions']) {
  const [rows, setRows] = useState<Map<number, QuestionLine>>(() => new Map(first.rows.entries()));
  const asked = useRef(new Set<number>([0]));
  const shown = useRef(first);
  useEffect(() => {
    shown.current = first;
    asked.current = new Set([0]);
    setRows(new Map(first.rows.entries()));
  }, [first]);
  const need = (from: number, to: number) => {
    for (let at = Math.floor(from / windowSize); at <= Math.floor(to / windowSize); at++) {
      if (asked.current.has(at) || at * windowSize >= first.total) continue;
      asked.current.add(at);
      const list = shown.current;
      more(filter, at * windowSize).then(
        (answer) => {
          if (!answer.ok || shown.current !== list) return;
          setRows((before) => {
            const next = new Map(before);
            for (const [i, row] of answer.value.rows.entries()) next.set(at * windowSize + i, row);
            return next;
          });
        },
        () => asked.current.delete(at),
      );
    }
  };
  return { total: first.total, row: (i: number) => rows.get(i), need };
}
