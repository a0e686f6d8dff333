import { sheetsArchive } from '@/server/gradebook/feedbackSheets';
import { contextFor } from '@/server/house/context';
import { actorOf } from '@/server/people/auth';
import { refuse, reply } from '../../../../../../api/reply';

/** The feedback sheets of a sitting in one archive, once they are printed. */
export async function GET(request: Request, { params }: { params: Promise<{ courseId: string; sittingId: string }> }) {
  const actor = await actorOf(request.headers);
  if (!actor) return refuse('not-allowed', 'Sign in first.');
  const { courseId, sittingId } = await params;
  const found = sheetsArchive(contextFor(actor, request.headers), courseId, sittingId);
  if (!found.ok) return reply(found);
  return new Response(found.value.bytes as Uint8Array<ArrayBuffer>, {
    headers: {
      'Content-Type': 'application/zip',
      'Content-Disposition': `attachment; filename="sheets.zip"; filename*=UTF-8''${encodeURIComponent(found.value.name)}`,
      'Cache-Control': 'no-store',
    },
  });
}
