import { applyMarks, largestMarks, previewMarks } from '@/server/marking/offlineUpload';
import { replyTo, uploading } from '../../../../../../api/reply';

/** Reads marks that were given elsewhere: without `?key=…` a preview that changes nothing, with it they are taken over. */
export async function POST(request: Request, { params }: { params: Promise<{ courseId: string; sittingId: string }> }) {
  const sent = await uploading(request, largestMarks);
  if (!sent.ok) return sent.response;
  const { courseId, sittingId } = await params;
  const key = new URL(request.url).searchParams.get('key');
  return replyTo(
    sent.context,
    () =>
      key
        ? applyMarks(sent.context, courseId, sittingId, sent.bytes, key)
        : previewMarks(sent.context, courseId, sittingId, sent.bytes),
    'The file could not be read. Nothing was changed; try again.',
  );
}
