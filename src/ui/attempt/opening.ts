import type { Rich } from '@/core/base/rich';
import type { ChooseRule } from '@/core/marking/attemptScore';
import type { ShownQuestion } from '@/core/question/student';

export type Answer = { value: unknown; comeBack: boolean };
export type TakingSlot = {
  slotId: string;
  number: number;
  partId: string;
  partTitle: string;
  points: number;
  /** Null while a question with a time of its own has not been opened. */
  view: ShownQuestion | null;
  passage: string | null;
  /** The page it stands on, from 0. */
  page: number;
  required: boolean;
  /** The time of its own in milliseconds, and when it ends once it runs. */
  limit: number | null;
  until: number | null;
};
export type Paper = {
  instructions: Rich;
  slots: TakingSlot[];
  passages: Record<string, Rich>;
  /** The choose-parts by id. */
  choose: Record<string, ChooseRule>;
  /** An answer sheet, because the questions stand on paper, with the paper where it may be seen. */
  sheet: { document: { name: string; address: string } | null } | null;
  anonymous: boolean;
};

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
