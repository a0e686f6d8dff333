import { applyMarks, largestMarks, previewMarks } from '@/server/marking/offlineUpload';
import { receiving } from '../../../../../../api/reply';

/** Reads marks that were given elsewhere: without `?key=…` a preview that changes nothing, with it they are taken over. */
export async function POST(request: Request, { params }: { params: Promise<{ courseId: string; sittingId: string }> }) {
  const { courseId, sittingId } = await params;
  const key = new URL(request.url).searchParams.get('key');
  return receiving(request, {
    most: largestMarks,
    admits: (context) => applyMarks.admits(context, courseId, sittingId),
    does: (context, bytes) =>
      key ? applyMarks(context, courseId, sittingId, bytes, key) : previewMarks(context, courseId, sittingId, bytes),
    whenItFails: 'The file could not be read. Nothing was changed; try again.',
  });
}
