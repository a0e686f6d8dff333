import { printedAnswerSheets } from '@/server/answerSheet/printAnswerSheets';
import { contextFor } from '@/server/house/context';
import { actorOf } from '@/server/people/auth';
import { printReply } from '../../../../../../api/printReply';
import { refuse, reply } from '../../../../../../api/reply';

/** The printed answer sheets of a sitting. */
export async function GET(request: Request, { params }: { params: Promise<{ courseId: string; sittingId: string }> }) {
  const actor = await actorOf(request.headers);
  if (!actor) return refuse('not-allowed', 'Sign in first.');
  const { courseId, sittingId } = await params;
  const found = printedAnswerSheets(contextFor(actor, request.headers), courseId, sittingId);
  return found.ok ? printReply(found.value.bytes, 'answer-sheets.pdf') : reply(found);
}
