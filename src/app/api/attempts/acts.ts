import { checkQuestion, takeAgain } from '@/server/attempt/checkQuestion';
import { handIn } from '@/server/attempt/handIn';
import { goOnward } from '@/server/attempt/onward';
import { openForWriting, openTimedQuestion, pulse } from '@/server/attempt/takeAttempt';
import type { AnyUseCase } from '@/server/house/useCase';
import { reportQuestion } from '@/server/room/reportedQuestions';

type Body = Record<string, unknown>;
type Served = { ask: AnyUseCase; sent?: (body: Body) => unknown[] };

/** What a taking page asks about its attempt, by the end of the address, which outlives a new build of the server. */
export const attemptActs: Record<string, Served> = {
  again: { ask: takeAgain, sent: ({ slotId }) => [slotId] },
  check: { ask: checkQuestion, sent: ({ slotId }) => [slotId] },
  'hand-in': { ask: handIn, sent: (body) => [body] },
  onward: { ask: goOnward, sent: ({ page }) => [page] },
  open: { ask: openForWriting },
  pulse: { ask: pulse, sent: ({ epoch }) => [epoch] },
  report: { ask: reportQuestion, sent: ({ slotId, text }) => [slotId, text] },
  show: { ask: openTimedQuestion, sent: ({ slotId }) => [slotId] },
};
