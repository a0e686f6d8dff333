'use client';
import { useCallback, useEffect, useRef, useState } from 'react';
import { isAlike } from '@/core/base/merge';
import { useKeeping } from './KeepingFor';

/** What is typed is written down after so long a rest, in milliseconds; at once when the page is left. */
const rest = 300;

/** Something typed that goes to the server in one step, when its person says so. */
type Written<T> = {
  value: T;
  change: (value: T | ((before: T) => T)) => void;
  /** It has been sent, or is not wanted: nothing of it stays, but for what goes on being unfinished. */
  done: (next?: T) => void;
  /** The server has it: it is what is changed from now on. */
  saved: () => void;
  /** Whether it was brought back from an earlier visit of this page. */
  broughtBack: boolean;
  /** Whether anything stands in it that the server does not have. */
  isUnfinished: boolean;
  /** Whether this browser keeps it; not when its store is full or forbidden. */
  isKept: boolean;
};

/**
 * Keeps what is typed into a form that is sent as a whole (a text to be read, a message, a remark): in this browser's
 * journal, for its person alone, until it is sent or given up. What saves itself bit by bit is kept by `useKept`.
 *
 * @param name names it in the journal, among what is typed on the same page
 * @param title what it is, in words, as it stands on the Desk; null as long as it is not worth finding again
 * @param first what stands in the form when nothing was typed
 */
export function useWritten<T>(name: string, title: (value: T) => string | null, first: T): Written<T> {
  const journal = useKeeping()?.journal ?? null;
  /** Its name in the journal; where the page is, is known once it stands. */
  const object = useRef(name);
  const [value, setValue] = useState(first);
  const [broughtBack, setBroughtBack] = useState(false);
  const [isKept, setIsKept] = useState(journal !== null);
  /** What the server has, or an empty form. */
  const [start, setStart] = useState(first);
  const latest = useRef({ value: first, title, start: first });
  latest.current.title = title;
  const waiting = useRef<ReturnType<typeof setTimeout> | null>(null);

  const write = useCallback(() => {
    waiting.current = null;
    const { value: typed, title: named } = latest.current;
    const titled = isAlike(typed, latest.current.start) ? null : named(typed);
    if (titled === null) {
      journal?.forget(object.current);
      setIsKept(journal !== null);
      return;
    }
    const entry = {
      title: titled,
      href: location.pathname + location.search,
      base: { edit: 0, value: null },
      value: typed,
      unanswered: null,
    };
    setIsKept(journal?.write(object.current, entry) ?? false);
  }, [journal]);

  useEffect(() => {
    object.current = `${name}${location.pathname}`;
    const entry = journal?.read(object.current);
    if (entry) {
      latest.current.value = entry.value as T;
      setValue(entry.value as T);
      setBroughtBack(true);
    }
    const flush = () => {
      if (waiting.current === null) return;
      clearTimeout(waiting.current);
      write();
    };
    const hide = () => document.visibilityState === 'hidden' && flush();
    window.addEventListener('pagehide', flush);
    document.addEventListener('visibilitychange', hide);
    return () => {
      flush();
      window.removeEventListener('pagehide', flush);
      document.removeEventListener('visibilitychange', hide);
    };
  }, [journal, name, write]);

  const set = useCallback((next: T) => {
    latest.current.value = next;
    setValue(next);
  }, []);
  return {
    value,
    change: useCallback(
      (next) => {
        set(typeof next === 'function' ? (next as (before: T) => T)(latest.current.value) : next);
        if (waiting.current) clearTimeout(waiting.current);
        waiting.current = setTimeout(write, rest);
      },
      [set, write],
    ),
    done: useCallback(
      (next) => {
        if (waiting.current) clearTimeout(waiting.current);
        waiting.current = null;
        set(next ?? latest.current.start);
        setBroughtBack(false);
        if (next === undefined) journal?.forget(object.current);
        else write();
      },
      [journal, set, write],
    ),
    saved: useCallback(() => {
      if (waiting.current) clearTimeout(waiting.current);
      waiting.current = null;
      latest.current.start = latest.current.value;
      setStart(latest.current.value);
      setBroughtBack(false);
      journal?.forget(object.current);
    }, [journal]),
    broughtBack,
    isUnfinished: !isAlike(value, start),
    isKept,
  };
}
