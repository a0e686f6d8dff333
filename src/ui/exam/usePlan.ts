'use client';
import { useEffect, useRef, useState } from 'react';
import type { Problem, Result } from '@/core/base/result';
import type { ExamDesign } from '@/core/exam/design';
import type { PlanCheck } from '@/core/exam/planCheck';
import type { QuestionType } from '@/core/question/types';
import type { OpenExam } from '@/server/exam/exams';
import type { Commands } from '../kit/commands';

export type Fixed = Record<string, { name: string; type: QuestionType }>;

/** What the server says after every change of an exam. */
export type Stored = { edit: number; revision: number; behind: number; check: PlanCheck };

type SaveCommand = Commands<'saveExam', 'courseId' | 'examId'>['saveExam'];

const pauseBeforeSaving = 500;

type Kept = Stored & { fixed: Fixed; title: string; design: ExamDesign };
/** What this browser saved last of each exam: going back brings the page as it was fetched, which may be older. */
const savedHere = new Map<string, Kept>();

/**
 * An exam being planned: what stands on the page, and its way to the server. Every change saves itself after a pause; what
 * else changes the exam takes its turn, so that no change overtakes another.
 */
export function usePlan(exam: OpenExam, save: SaveCommand) {
  const [begun] = useState<Kept>(() => {
    const own = savedHere.get(exam.id);
    return own && own.edit > exam.edit ? own : exam;
  });
  const [title, setTitle] = useState(begun.title);
  const [design, setDesign] = useState(begun.design);
  const [stored, setStored] = useState<Stored & { fixed: Fixed }>(begun);
  const [state, setState] = useState<'saved' | 'waiting' | 'saving' | 'failed'>('saved');
  const [problems, setProblems] = useState<Problem[]>([]);
  const edit = useRef(begun.edit);
  const newest = useRef({ title, design });
  const turn = useRef<Promise<unknown>>(Promise.resolve());
  const waiting = useRef(false);
  const pending = useRef<ReturnType<typeof setTimeout>>(undefined);

  /** Runs a change of the exam after those before it, with the number of the edit it starts from. */
  const inTurn = <Value extends Stored>(change: (edit: number) => Promise<Result<Value>>): Promise<Value | null> => {
    const run = async (): Promise<Value | null> => {
      setState('saving');
      const answer = await change(edit.current).catch(() => null);
      if (!answer?.ok) {
        setState('failed');
        setProblems(
          answer?.problems ?? [
            { code: 'busy', message: 'The server could not be reached. Your changes are kept on this page.' },
          ],
        );
        return null;
      }
      edit.current = answer.value.edit;
      setStored((before) => ({ ...before, ...answer.value }));
      setProblems([]);
      // What was changed while this was on its way waits for its own turn: nothing is called saved before that.
      setState(pending.current === undefined && !waiting.current ? 'saved' : 'waiting');
      return answer.value;
    };
    const own = turn.current.then(run);
    turn.current = own;
    return own;
  };

  const store = async () => {
    if (waiting.current) return;
    waiting.current = true;
    pending.current = undefined;
    let sent = newest.current;
    const answer = await inTurn((from) => {
      waiting.current = false;
      sent = newest.current;
      return save({ ...sent, edit: from });
    });
    if (answer) savedHere.set(exam.id, { ...answer, ...sent });
    else waiting.current = false;
  };
  const latestStore = useRef(store);
  latestStore.current = store;
  useEffect(() => {
    if (newest.current.title === title && newest.current.design === design) return;
    newest.current = { title, design };
    setState('waiting');
    pending.current = setTimeout(() => void latestStore.current(), pauseBeforeSaving);
    return () => clearTimeout(pending.current);
  }, [title, design]);
  // Whoever leaves within the pause leaves nothing behind.
  useEffect(() => () => void (pending.current && latestStore.current()), []);

  return { title, setTitle, design, setDesign, stored, state, problems, inTurn };
}

export type Plan = ReturnType<typeof usePlan>;
