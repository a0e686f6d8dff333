'use client';
import { useCallback, useEffect, useRef, useState } from 'react';
import { isAlike } from '@/core/base/merge';
import type { Result } from '@/core/base/result';
import { useWritten } from '../keep/useWritten';
import { usePerform } from '../kit/usePerform';
import type { EnteredRules } from './RulesSentences';

/** After so long what did not reach the server is sent again, in milliseconds. */
const pause = 2_000;

type Setting = {
  /** What it is called where it waits unfinished. */
  title: string;
  stored: () => EnteredRules;
  isDraft: boolean;
  save: (part: Partial<EnteredRules>) => Promise<Result<null>>;
};

/** What is left of changes once some of them have arrived or were refused; what was changed again meanwhile stays. */
const without = (changed: Partial<EnteredRules>, part: Partial<EnteredRules>): Partial<EnteredRules> =>
  Object.fromEntries(
    Object.entries(changed).filter(
      ([field, value]) => !(field in part && isAlike(value, part[field as keyof EnteredRules])),
    ),
  );

/**
 * The rules of a sitting being changed, field by field: what is not on the server yet is kept in this browser, and is there
 * again after the page was left. A draft saves each change itself, and again when the network is back; what is scheduled
 * changes for people who may be writing, and waits until it is applied.
 */
export function useRules({ title, stored, isDraft, save }: Setting) {
  const { perform, problems, busy, setProblems } = usePerform();
  const [saved, setSaved] = useState<EnteredRules>(stored);
  const written = useWritten<Partial<EnteredRules>>(
    'rules',
    (changed) => (Object.keys(changed).length ? title : null),
    {},
  );
  const changed = written.value;
  const [sending, setSending] = useState(0);
  const isChanged = Object.keys(changed).length > 0;

  const send = async (part: Partial<EnteredRules>) => {
    setSending((n) => n + 1);
    let isAnswered = false;
    const done = await perform(async () => {
      const answer = await save(part);
      isAnswered = answer.ok || !answer.problems.some(({ code }) => code === 'busy' || code === 'signed-out');
      return answer;
    });
    if (done) setSaved((before) => ({ ...before, ...part }));
    // What a draft was refused is not set, and is not shown as if it were; what got no answer stays, and is sent again.
    if (done || (isDraft && isAnswered)) written.change((now) => without(now, part));
    setSending((n) => n - 1);
    return done !== null;
  };
  const latest = useRef(send);
  latest.current = send;

  const isWaiting = isDraft && isChanged && sending === 0;
  useEffect(() => {
    if (!isWaiting) return;
    const again = () => void latest.current(changed);
    const timer = setTimeout(again, pause);
    window.addEventListener('online', again);
    return () => {
      clearTimeout(timer);
      window.removeEventListener('online', again);
    };
  }, [isWaiting, changed]);

  return {
    problems,
    setProblems,
    busy,
    perform,
    /** The rules as they stand on the page. */
    entered: { ...saved, ...changed },
    /** What is not on the server yet. */
    changed,
    isChanged,
    isKept: written.isKept,
    isSaving: sending > 0,
    change: (part: Partial<EnteredRules>) => {
      written.change((now) => ({ ...now, ...part }));
      if (isDraft) void send(part);
    },
    /** Applies what was changed of a scheduled sitting. @returns whether it holds now */
    apply: () => send(changed),
    discard: useCallback(() => {
      setSaved(stored());
      written.done();
      setProblems([]);
    }, [stored, written.done, setProblems]),
  };
}
