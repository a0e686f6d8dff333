import { contextFor } from '@/server/house/context';
import { actorOf } from '@/server/people/auth';
import { watchWall } from '@/server/round/wall';
import { eventStream } from '../../../../api/eventStream';
import { refuse, reply } from '../../../../api/reply';

/** What a wall is told as it happens. */
export async function GET(request: Request, { params }: { params: Promise<{ courseId: string; roundId: string }> }) {
  const actor = await actorOf(request.headers);
  if (!actor) return refuse('not-allowed', 'You are signed out.');
  const { courseId, roundId } = await params;
  const watched = watchWall(contextFor(actor, request.headers), courseId, roundId);
  if (!watched.ok) return reply(watched);
  return eventStream(request, `${actor.userId} wall ${roundId}`, watched.value);
}
