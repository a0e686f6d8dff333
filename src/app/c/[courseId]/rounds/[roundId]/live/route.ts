import { contextFor } from '@/server/house/context';
import { actorOf } from '@/server/people/auth';
import { watchRound } from '@/server/round/grid';
import { eventStream } from '../../../../../api/eventStream';
import { refuse, reply } from '../../../../../api/reply';

/** What whoever holds a round is told as it happens. */
export async function GET(request: Request, { params }: { params: Promise<{ courseId: string; roundId: string }> }) {
  const actor = await actorOf(request.headers);
  if (!actor) return refuse('not-allowed', 'You are signed out.');
  const { courseId, roundId } = await params;
  const watched = watchRound(contextFor(actor, request.headers), courseId, roundId);
  if (!watched.ok) return reply(watched);
  return eventStream(request, `${actor.userId} holds ${roundId}`, watched.value);
}
