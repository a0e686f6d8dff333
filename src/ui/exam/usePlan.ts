'use client';
import { useState } from 'react';
import { ok, type Result } from '@/core/base/result';
import type { ExamDesign } from '@/core/exam/design';
import type { PlanCheck } from '@/core/exam/planCheck';
import type { QuestionType } from '@/core/question/types';
import type { OpenExam } from '@/server/exam/exams';
import { carriedOutOnce } from '../keep/carriedOutOnce';
import { useKept } from '../keep/useKept';
import type { Commands } from '../kit/commands';

export type Fixed = Record<string, { name: string; type: QuestionType }>;

/** What the server says after every change of an exam. */
export type Stored = {
  edit: number;
  revision: number;
  behind: number;
  check: PlanCheck;
  /** Whose signing-off still holds of what stands there. */
  looks?: OpenExam['looks'];
};

/** What a plan asks of the server: to be saved, and how it stands there. */
export type PlanCommands = Commands<'saveExam' | 'openExam', 'courseId' | 'examId'>;

const pauseBeforeSaving = 500;

/** What is typed into a plan. */
export type PlanValue = { title: string; design: ExamDesign };

type Kept = Stored & PlanValue & { fixed: Fixed };
/** What this browser saved last of each exam: going back brings the page as it was fetched, which may be older. */
const savedHere = new Map<string, Kept>();

/**
 * An exam being planned: what stands on the page, and its way to the server. Every change saves itself after a pause; what
 * else changes the exam takes its turn, so that no change overtakes another.
 */
export function usePlan(exam: OpenExam, { saveExam, openExam }: PlanCommands) {
  const [begun] = useState<Kept>(() => {
    const own = savedHere.get(exam.id);
    return own && own.edit > exam.edit ? own : exam;
  });
  const [stored, setStored] = useState<Stored & { fixed: Fixed }>(begun);
  const { value, state, round, broughtBack, keeper } = useKept<PlanValue>({
    object: `exam/${exam.id}`,
    title: `The plan of ${exam.title}`,
    stored: { edit: begun.edit, value: { title: begun.title, design: begun.design } },
    pause: pauseBeforeSaving,
    send: async (sent, edit, once) => {
      const answer = await carriedOutOnce(saveExam, once)({ ...sent, edit });
      if (answer.ok) {
        setStored((before) => ({ ...before, ...answer.value }));
        savedHere.set(exam.id, { ...answer.value, ...sent });
      }
      return answer;
    },
    fetch: async () => {
      const answer = await openExam();
      if (!answer.ok) return answer;
      const { title, design, edit } = answer.value;
      setStored((before) => ({ ...before, ...answer.value }));
      return ok({ edit, value: { title, design } });
    },
  });

  return {
    ...value,
    value,
    setTitle: (title: string) => keeper.change({ ...keeper.now.value, title }),
    setDesign: (design: ExamDesign) => keeper.change({ ...keeper.now.value, design }),
    stored,
    state,
    round,
    broughtBack,
    settle: (settled: PlanValue) => keeper.settle(settled),
    problems: state.kind === 'refused' ? state.problems : [],
    /** Runs another change of the exam after those before it, with the number of the edit it starts from. */
    inTurn: async <Value extends Stored>(change: (edit: number) => Promise<Result<Value>>): Promise<Value | null> => {
      const answer = await keeper.inTurn((edit) => change(edit));
      if (!answer?.ok) return null;
      setStored((before) => ({ ...before, ...answer.value }));
      return answer.value;
    },
  };
}

export type Plan = ReturnType<typeof usePlan>;
