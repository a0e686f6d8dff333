import { contextFor } from '@/server/house/context';
import { actorOf } from '@/server/people/auth';
import { printedFile } from '@/server/print/classPrint';
import { printReply } from '../../../../../../api/printReply';
import { refuse, reply } from '../../../../../../api/reply';

/** The printed papers of a whole sitting. */
export async function GET(request: Request, { params }: { params: Promise<{ courseId: string; sittingId: string }> }) {
  const actor = await actorOf(request.headers);
  if (!actor) return refuse('not-allowed', 'Sign in first.');
  const { courseId, sittingId } = await params;
  const found = printedFile(contextFor(actor, request.headers), courseId, sittingId);
  return found.ok ? printReply(found.value.bytes, `papers.${found.value.ending}`) : reply(found);
}
