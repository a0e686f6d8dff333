import { watchAttempt } from '@/server/attempt/watchAttempt';
import { contextFor } from '@/server/house/context';
import { actorOf } from '@/server/people/auth';
import { eventStream } from '../../../eventStream';
import { refuse, reply } from '../../../reply';

/** What the page of a running attempt is told as it happens: its deadline, its end, messages, corrections. */
export async function GET(request: Request, { params }: { params: Promise<{ attemptId: string }> }) {
  const actor = await actorOf(request.headers);
  if (!actor) return refuse('not-allowed', 'You are signed out.');
  const { attemptId } = await params;
  const epoch = Number(new URL(request.url).searchParams.get('epoch') ?? 0);
  const watched = watchAttempt(contextFor(actor, request.headers), attemptId, epoch);
  if (!watched.ok) return reply(watched);
  return eventStream(request, `${actor.userId} attempt ${attemptId}`, watched.value);
}
