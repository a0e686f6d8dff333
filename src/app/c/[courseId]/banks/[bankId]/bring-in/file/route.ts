import { largestDocument, previewFile } from '@/server/bringIn/preview';
import { receiving } from '../../../../../../api/reply';

/** Reads a document or a table and answers with the preview; nothing is stored. */
export async function POST(request: Request, { params }: { params: Promise<{ courseId: string; bankId: string }> }) {
  const { courseId, bankId } = await params;
  return receiving(request, {
    most: largestDocument,
    admits: (context) => previewFile.admits(context, courseId, bankId),
    does: (context, bytes) =>
      previewFile(context, courseId, bankId, bytes, new URL(request.url).searchParams.get('letters')),
    whenItFails: 'The file could not be read. Try again.',
  });
}
