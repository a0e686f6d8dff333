import { contextFor } from '@/server/house/context';
import { actorOf } from '@/server/people/auth';
import { printSample } from '@/server/print/printOrder';
import { printReply } from '../../../../../../api/printReply';
import { refuse, reply } from '../../../../../../api/reply';

/** A sample paper as PDF, with its key where that is asked for. */
export async function GET(request: Request, { params }: { params: Promise<{ courseId: string; examId: string }> }) {
  const actor = await actorOf(request.headers);
  if (!actor) return refuse('not-allowed', 'Sign in first.');
  const { courseId, examId } = await params;
  const asked = new URL(request.url).searchParams;
  const paper = Math.min(9_999, Math.max(1, Math.trunc(Number(asked.get('paper'))) || 1));
  const printed = await printSample(
    contextFor(actor, request.headers),
    courseId,
    examId,
    String(paper),
    asked.get('key') === 'yes',
  );
  return printed.ok ? printReply(printed.value.bytes, printed.value.name) : reply(printed);
}
