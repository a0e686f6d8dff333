import { sheetPicture } from '@/server/answerSheet/seeReading';
import { contextFor } from '@/server/house/context';
import { actorOf } from '@/server/people/auth';
import { refuse, reply } from '../../../../../../../api/reply';

type Params = { params: Promise<{ courseId: string; sittingId: string; pageId: string }> };

/** The picture of a sheet. */
export async function GET(request: Request, { params }: Params) {
  const actor = await actorOf(request.headers);
  if (!actor) return refuse('not-allowed', 'Sign in first.');
  const { courseId, sittingId, pageId } = await params;
  const found = await sheetPicture(contextFor(actor, request.headers), courseId, sittingId, pageId);
  if (!found.ok) return reply(found);
  return new Response(Buffer.from(found.value.bytes), {
    headers: {
      'Content-Type': 'image/webp',
      'X-Content-Type-Options': 'nosniff',
      'Content-Security-Policy': "default-src 'none'",
      'Cache-Control': 'private, max-age=3600',
    },
  });
}
