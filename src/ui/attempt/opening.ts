import type { Opened as Opening, Pulse, StoredAnswer } from '@/server/attempt/takeAttempt';
import type { TakingPaper as Paper, TakingSlot } from '@/server/attempt/takingPaper';

import type { Notice } from '@/server/sitting/notices';

export type { Notice, Opening, Paper, Pulse, TakingSlot };

export type Answer = Omit<StoredAnswer, 'slotId'>;
let handed: { attemptId: string; opening: Opening; heardAt: number } | null = null;

/** Keeps what came with a start until the taking page, which the same browser goes to next, takes it. */
export function handOver(attemptId: string, opening: Opening): void {
  handed = { attemptId, opening, heardAt: Date.now() };
}

/** Takes what a start has handed over, once; null when this browser did not just start the attempt. */
export function takeHanded(attemptId: string): { opening: Opening; heardAt: number } | null {
  const own = handed?.attemptId === attemptId ? handed : null;
  handed = null;
  return own;
}
