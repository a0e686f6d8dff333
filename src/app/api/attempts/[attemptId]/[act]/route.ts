import { changing, refuse, reply } from '../../../reply';
import { attemptActs } from '../../acts';
// Registers what is shown upon a hand-in.
import '@/server/release/releaseDue';

export async function POST(request: Request, { params }: { params: Promise<{ attemptId: string; act: string }> }) {
  const { attemptId, act } = await params;
  const served = Object.hasOwn(attemptActs, act) ? attemptActs[act] : undefined;
  if (!served) return refuse('not-found', 'There is nothing at this address.');
  const asked = await changing(request);
  if (!asked.ok) return asked.response;
  const body = typeof asked.body === 'object' && asked.body !== null ? (asked.body as Record<string, unknown>) : {};
  return reply(await served.ask(asked.context, attemptId, ...(served.sent?.(body) ?? [])));
}
