import { contextFor } from '@/server/house/context';
import { marksArchive } from '@/server/marking/offlineArchive';
import { actorOf } from '@/server/people/auth';
import { refuse, reply } from '../../../../../../api/reply';

/** The answers of a sitting to be marked elsewhere: `?layout=question` or `?layout=paper`. */
export async function GET(request: Request, { params }: { params: Promise<{ courseId: string; sittingId: string }> }) {
  const actor = await actorOf(request.headers);
  if (!actor) return refuse('not-allowed', 'You are signed out.');
  const { courseId, sittingId } = await params;
  const layout = new URL(request.url).searchParams.get('layout') === 'paper' ? 'paper' : 'question';
  const archive = await marksArchive(contextFor(actor, request.headers), courseId, sittingId, { layout });
  if (!archive.ok) return reply(archive);
  return new Response(Buffer.from(archive.value.bytes), {
    headers: {
      'Content-Type': 'application/zip',
      'Content-Disposition': `attachment; filename*=UTF-8''${encodeURIComponent(archive.value.name)}`,
      'Cache-Control': 'no-store',
    },
  });
}
