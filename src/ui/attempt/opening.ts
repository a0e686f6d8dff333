import type { Rich } from '@/core/base/rich';
import type { ShownQuestion } from '@/core/question/student';

export type Answer = { value: unknown; comeBack: boolean };
export type TakingSlot = {
  slotId: string;
  number: number;
  partTitle: string;
  points: number;
  view: ShownQuestion;
  passage: string | null;
};
export type Paper = { instructions: Rich; slots: TakingSlot[]; passages: Record<string, Rich> };

/** What the server answers when a browser takes over the writing of an attempt. */
export type Opening = Paper & {
  epoch: number;
  answers: ({ slotId: string } & Answer)[];
  deadline: number | null;
  now: number;
};

let handed: { attemptId: string; opening: Opening; ahead: number } | null = null;

/** Keeps what came with a start until the taking page, which the same browser goes to next, takes it. */
export function handOver(attemptId: string, opening: Opening): void {
  handed = { attemptId, opening, ahead: opening.now - Date.now() };
}

/** Takes what a start has handed over, once; null when this browser did not just start the attempt. */
export function takeHanded(attemptId: string): { opening: Opening; ahead: number } | null {
  const own = handed?.attemptId === attemptId ? handed : null;
  handed = null;
  return own;
}
