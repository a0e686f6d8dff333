'use client';
import { useRouter } from 'next/navigation';
import { useCallback, useEffect, useState, useTransition } from 'react';
import type { Problem, Result } from '@/core/base/result';

/** A command as components get it: something that is asked of the server and answers with a value or problems. */
export type Command<Input extends unknown[], Value> = (...input: Input) => Promise<Result<Value>>;

const unreachable: Problem = {
  code: 'busy',
  message: 'The server could not be reached. What you entered is still here; try again.',
};

let underWay = 0;

/** Says on the page's root whether a command is under way, for the pointer (globals.css). */
function sayUnderWay(change: 1 | -1): void {
  underWay += change;
  document.documentElement.toggleAttribute('data-under-way', underWay > 0);
}

/**
 * Runs commands and keeps what went wrong. After a success the page is read anew, unless whoever asks shows by themselves
 * what has changed.
 *
 * @returns `perform` resolves to the value, or to null when there were problems
 */
export function usePerform() {
  const router = useRouter();
  const [problems, setProblems] = useState<Problem[]>([]);
  const [busy, startBusy] = useTransition();
  useEffect(() => {
    if (!busy) return;
    sayUnderWay(1);
    return () => sayUnderWay(-1);
  }, [busy]);
  const perform = useCallback(
    <Value>(
      command: () => Promise<Result<Value>>,
      after?: (value: Value) => void,
      { readsAnew = true } = {},
    ): Promise<{ value: Value } | null> =>
      new Promise((resolve) => {
        startBusy(async () => {
          let answer: Result<Value>;
          try {
            answer = await command();
          } catch {
            answer = { ok: false, problems: [unreachable] };
          }
          if (!answer.ok) {
            setProblems(answer.problems);
            // What others have changed meanwhile is shown beside what was entered here.
            if (answer.problems.some((problem) => problem.code === 'conflict')) router.refresh();
            resolve(null);
            return;
          }
          setProblems([]);
          after?.(answer.value);
          if (readsAnew) router.refresh();
          resolve({ value: answer.value });
        });
      }),
    [router],
  );
  return { perform, problems, busy, setProblems };
}
