import { contextFor } from '@/server/house/context';
import { actorOf } from '@/server/people/auth';
import { watchRoom } from '@/server/room/watchRoom';
import { eventStream } from '../../../../../../api/eventStream';
import { refuse, reply } from '../../../../../../api/reply';

/** What changes in the room of a sitting, as it happens. */
export async function GET(request: Request, { params }: { params: Promise<{ courseId: string; sittingId: string }> }) {
  const actor = await actorOf(request.headers);
  if (!actor) return refuse('not-allowed', 'You are signed out.');
  const { courseId, sittingId } = await params;
  const watched = watchRoom(contextFor(actor, request.headers), courseId, sittingId);
  if (!watched.ok) return reply(watched);
  return eventStream(request, `${actor.userId} room ${sittingId}`, watched.value);
}
