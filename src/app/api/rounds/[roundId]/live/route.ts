import { contextFor } from '@/server/house/context';
import { actorOf } from '@/server/people/auth';
import { watchOwnRound } from '@/server/round/device';
import { eventStream } from '../../../eventStream';
import { refuse, reply } from '../../../reply';

/** What a device in a round is told as it happens. */
export async function GET(request: Request, { params }: { params: Promise<{ roundId: string }> }) {
  const actor = await actorOf(request.headers);
  if (!actor) return refuse('not-allowed', 'You are signed out.');
  const { roundId } = await params;
  const watched = watchOwnRound(contextFor(actor, request.headers), roundId);
  if (!watched.ok) return reply(watched);
  return eventStream(request, `${actor.userId} round ${roundId}`, watched.value);
}
