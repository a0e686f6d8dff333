import { filledSheets } from '@/server/answerSheet/standIn';
import { contextFor } from '@/server/house/context';
import { actorOf } from '@/server/people/auth';
import { refuse, reply } from '../../../../../../api/reply';

/** The sheets that a made-up class has filled in. */
export async function GET(request: Request, { params }: { params: Promise<{ courseId: string; sittingId: string }> }) {
  const actor = await actorOf(request.headers);
  if (!actor) return refuse('not-allowed', 'Sign in first.');
  const { courseId, sittingId } = await params;
  const found = filledSheets(contextFor(actor, request.headers), courseId, sittingId);
  if (!found.ok) return reply(found);
  return new Response(Buffer.from(found.value.bytes), {
    headers: { 'Content-Type': 'application/zip', 'Content-Disposition': 'attachment; filename="filled-sheets.zip"' },
  });
}
