import { contextFor } from '@/server/house/context';
import { actorOf } from '@/server/people/auth';
import { reportFile } from '@/server/release/sittingReport';
import { printReply } from '../../../../../../../api/printReply';
import { refuse, reply } from '../../../../../../../api/reply';

/** The report of a sitting that this person printed last, once it is done. */
export async function GET(request: Request, { params }: { params: Promise<{ courseId: string; sittingId: string }> }) {
  const actor = await actorOf(request.headers);
  if (!actor) return refuse('not-allowed', 'Sign in first.');
  const { courseId, sittingId } = await params;
  const found = reportFile(contextFor(actor, request.headers), courseId, sittingId);
  return found.ok ? printReply(found.value.bytes, found.value.name) : reply(found);
}
