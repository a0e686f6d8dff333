import { rehearsalMaterial } from '@/server/exam/rehearsalMaterial';
import { contextFor } from '@/server/house/context';
import { actorOf } from '@/server/people/auth';
import { refuse, reply } from '../../../../../../api/reply';

/** What the rehearsal's worker draws from. */
export async function GET(request: Request, { params }: { params: Promise<{ courseId: string; examId: string }> }) {
  const actor = await actorOf(request.headers);
  if (!actor) return refuse('not-allowed', 'You are signed out.');
  const { courseId, examId } = await params;
  return reply(rehearsalMaterial(contextFor(actor, request.headers), courseId, examId));
}
