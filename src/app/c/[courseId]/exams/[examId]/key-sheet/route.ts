import { printedKeySheet } from '@/server/answerSheet/keySheets';
import { contextFor } from '@/server/house/context';
import { actorOf } from '@/server/people/auth';
import { printReply } from '../../../../../api/printReply';
import { refuse, reply } from '../../../../../api/reply';

/** The sheet on which the key of an off-screen exam is filled in. */
export async function GET(request: Request, { params }: { params: Promise<{ courseId: string; examId: string }> }) {
  const actor = await actorOf(request.headers);
  if (!actor) return refuse('not-allowed', 'Sign in first.');
  const { courseId, examId } = await params;
  const found = await printedKeySheet(contextFor(actor, request.headers), courseId, examId);
  return found.ok ? printReply(found.value.bytes, 'key-sheet.pdf') : reply(found);
}
