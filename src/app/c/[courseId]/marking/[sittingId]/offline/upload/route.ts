import { applyMarks, largestMarks, previewMarks } from '@/server/marking/offlineUpload';
import { refuse, reply, uploading } from '../../../../../../api/reply';

/** Reads marks that were given elsewhere: without `?key=…` a preview that changes nothing, with it they are taken over. */
export async function POST(request: Request, { params }: { params: Promise<{ courseId: string; sittingId: string }> }) {
  const sent = await uploading(request, largestMarks);
  if (!sent.ok) return sent.response;
  const { courseId, sittingId } = await params;
  const key = new URL(request.url).searchParams.get('key');
  try {
    return key
      ? reply(await applyMarks(sent.context, courseId, sittingId, sent.bytes, key))
      : reply(await previewMarks(sent.context, courseId, sittingId, sent.bytes));
  } catch (why) {
    console.error(why);
    return refuse('busy', 'The file could not be read. Nothing was changed; try again.');
  }
}
