import { largestDocument, previewFile } from '@/server/bringIn/bringIn';
import { replyTo, uploading } from '../../../../../../api/reply';

/** Reads a document or a table and answers with the preview; nothing is stored. */
export async function POST(request: Request, { params }: { params: Promise<{ courseId: string; bankId: string }> }) {
  const sent = await uploading(request, largestDocument);
  if (!sent.ok) return sent.response;
  const { courseId, bankId } = await params;
  return replyTo(
    sent.context,
    () => previewFile(sent.context, courseId, bankId, sent.bytes),
    'The file could not be read. Try again.',
  );
}
