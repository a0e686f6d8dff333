import { checkQuestion, takeAgain } from '@/server/attempt/checkQuestion';
import { handIn } from '@/server/attempt/handIn';
import { goOnward } from '@/server/attempt/onward';
import { openForWriting, openTimedQuestion, pulse } from '@/server/attempt/takeAttempt';
import type { AnyUseCase } from '@/server/house/useCase';
import { reportQuestion } from '@/server/room/reportedQuestions';
import { changing, refuse, reply } from '../../../reply';
// Registers what is shown upon a hand-in.
import '@/server/release/releaseDue';

type Body = Record<string, unknown>;
type Served = { ask: AnyUseCase; sent?: (body: Body) => unknown[] };

/** What a taking page asks about its attempt, by the end of the address, which outlives a new build of the server. */
const acts: Record<string, Served> = {
  again: { ask: takeAgain, sent: ({ slotId }) => [slotId] },
  check: { ask: checkQuestion, sent: ({ slotId }) => [slotId] },
  'hand-in': { ask: handIn, sent: (body) => [body] },
  onward: { ask: goOnward, sent: ({ page }) => [page] },
  open: { ask: openForWriting },
  pulse: { ask: pulse, sent: ({ epoch }) => [epoch] },
  report: { ask: reportQuestion, sent: ({ slotId, text }) => [slotId, text] },
  show: { ask: openTimedQuestion, sent: ({ slotId }) => [slotId] },
};

export async function POST(request: Request, { params }: { params: Promise<{ attemptId: string; act: string }> }) {
  const { attemptId, act } = await params;
  const served = Object.hasOwn(acts, act) ? acts[act] : undefined;
  if (!served) return refuse('not-found', 'There is nothing at this address.');
  const asked = await changing(request);
  if (!asked.ok) return asked.response;
  const body = typeof asked.body === 'object' && asked.body !== null ? (asked.body as Body) : {};
  return reply(await served.ask(asked.context, attemptId, ...(served.sent?.(body) ?? [])));
}
